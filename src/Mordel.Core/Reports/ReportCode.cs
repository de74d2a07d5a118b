using System.Globalization;

namespace Mordel.Core.Reports;

/// <summary>
/// The short code of a report: the first sixty bits of its record's hash, twelve letters and digits that can be read
/// aloud and typed from a wet page. It finds the report and proves nothing; what is shown is checked against the seal.
/// </summary>
/// <param name="Digits">The hash's first <see cref="Length"/> hexadecimal digits, small.</param>
public readonly record struct ReportCode(string Digits)
{
    /// <summary>How many digits of the hash.</summary>
    public const int Length = 15;

    private const int Letters = 12,
        Group = 4,
        BitsALetter = 5;

    // Without I, L, O and U: none can be taken for a digit, and no word comes out.
    private const string Alphabet = "0123456789ABCDEFGHJKMNPQRSTVWXYZ";

    /// <summary>The code of a record.</summary>
    /// <param name="record">The record's hash, 64 hexadecimal digits.</param>
    public static ReportCode Of(string record)
    {
        ArgumentNullException.ThrowIfNull(record);
        ArgumentOutOfRangeException.ThrowIfLessThan(record.Length, Length, nameof(record));
        return new(record[..Length]);
    }

    /// <summary>
    /// Reads a code as somebody typed it: small or large, in groups or not; O for 0 and I or L for 1 are forgiven.
    /// </summary>
    /// <returns>The code; null when it is none.</returns>
    public static ReportCode? Read(string? text)
    {
        if (text is null || text.Length > 10 * Letters)
            return null;
        var (bits, count) = (0UL, 0);
        foreach (var letter in text.Where(c => !char.IsWhiteSpace(c) && c is not ('-' or '.' or '\u2013')))
        {
            var at = Alphabet.IndexOf(
                char.ToUpperInvariant(letter) switch
                {
                    'O' => '0',
                    'I' or 'L' => '1',
                    var other => other,
                },
                StringComparison.Ordinal
            );
            if (at < 0 || ++count > Letters)
                return null;
            bits = (bits << BitsALetter) | (uint)at;
        }

        return count == Letters ? new(bits.ToString("x15", CultureInfo.InvariantCulture)) : null;
    }

    /// <summary>As it is printed: <c>7K3M-Q9PT-2XWD</c>.</summary>
    public override string ToString()
    {
        var bits = ulong.Parse(Digits, NumberStyles.HexNumber, CultureInfo.InvariantCulture);
        return string.Concat(
            Enumerable
                .Range(0, Letters)
                .Select(i =>
                    (i > 0 && i % Group == 0 ? "-" : "")
                    + Alphabet[(int)(bits >> (BitsALetter * (Letters - 1 - i)) & 31)]
                )
        );
    }
}

/// <summary>Where anybody can check a report from its paper.</summary>
/// <param name="Site">The address of the installation, without a slash at its end.</param>
/// <param name="Code">The report's code.</param>
public sealed record CheckAddress(string Site, ReportCode Code)
{
    /// <summary>Where a code is typed in.</summary>
    public string Page => $"{Site}/verify";

    /// <summary>Where this report is checked.</summary>
    public string Link => $"{Page}/{Code}";
}
