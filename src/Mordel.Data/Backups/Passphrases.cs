using Mordel.Data.Startup;

namespace Mordel.Data.Backups;

/// <summary>Where a passphrase comes from: a file, never a command line that everybody on the machine can
/// read.</summary>
public static class Passphrases
{
    /// <summary>Its first line; null where no file is named.</summary>
    /// <exception cref="StartRefusedException">It cannot be read, or is too short.</exception>
    public static async Task<string?> Read(string? file, CancellationToken cancel)
    {
        if (string.IsNullOrEmpty(file))
            return null;
        try
        {
            using var reader = new StreamReader(file);
            var line = (await reader.ReadLineAsync(cancel))?.Trim() ?? "";
            return line.Length >= PassphraseStream.Shortest
                ? line
                : throw new StartRefusedException(
                    $"The first line of {file} is no passphrase: it has at least {PassphraseStream.Shortest} letters."
                );
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new StartRefusedException($"The passphrase cannot be read: {e.Message}", e);
        }
    }
}
