namespace Mordel.Core.Register;

/// <summary>
/// What is left of a serial number when everything is taken away that people write one way or the other: signs between
/// its parts, small letters, O for 0 and I for 1, zeros in front. Two serials with the same key are alike.
/// </summary>
public static class SerialKeys
{
    /// <summary>The key of a serial number.</summary>
    public static string Of(string serial)
    {
        ArgumentNullException.ThrowIfNull(serial);
        var key = string.Concat(
            serial
                .Where(char.IsLetterOrDigit)
                .Select(c =>
                    char.ToUpperInvariant(c) switch
                    {
                        'O' => '0',
                        'I' or 'L' => '1',
                        var plain => plain,
                    }
                )
        );
        return key.TrimStart('0') is { Length: > 0 } rest ? rest : key;
    }
}
