using System.IO.Compression;
using System.Text;
using Mordel.Core.Seals;
using Mordel.Core.Serialization;

namespace Mordel.Data.Seals;

/// <summary>Checks an archive of sealed reports by nothing but the file and public keys.</summary>
/// <param name="keys">The public keys.</param>
public sealed class ArchiveCheck(PublicKeys keys)
{
    // Bytes: the longest report with everything in it; the list of hashes of a million.
    private const long LargestFile = 128 * 1024 * 1024;

    /// <summary>Whether a file begins as an archive does.</summary>
    public static bool IsArchive(ReadOnlySpan<byte> begin) => begin.StartsWith("PK"u8);

    /// <summary>Checks an archive: its list, every file on it, every report by its own seal.</summary>
    /// <param name="archive">The file; must be able to go back.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<CheckedFile> Of(Stream archive, CancellationToken cancel)
    {
        var (says, broken) = (new List<string>(), new List<string>());
        try
        {
            using var zip = new ZipArchive(archive, ZipArchiveMode.Read, true);
            if (
                await Read(zip, SealArchive.SumsName, cancel) is not { } list
                || await Read(zip, SealArchive.SignatureName, cancel) is not { } signature
            )
                return new([], ["There is no signed list of hashes in it: it is no archive, or not all of one."]);
            if (keys.SignerOf(list, signature) is { } by)
                says.Add($"Its list of hashes is signed by the key {by}.");
            else
                broken.Add("The signature over its list of hashes does not hold.");
            var reports = await Files(zip, Sums(list, broken), broken, cancel);
            says.Add($"{reports} reports.");
        }
        catch (Exception e) when (e is InvalidDataException or EndOfStreamException or NotSupportedException)
        {
            broken.Add($"It cannot be unpacked: {e.Message}");
        }

        return new(says, broken);
    }

    private async Task<int> Files(
        ZipArchive zip,
        Dictionary<string, string> sums,
        List<string> broken,
        CancellationToken cancel
    )
    {
        var (check, reports) = (new FileCheck(keys), 0);
        foreach (var twice in zip.Entries.GroupBy(e => e.FullName).Where(g => g.Count() > 1))
            broken.Add($"{twice.Key} is in it more than once.");
        foreach (var (name, hash) in sums)
        {
            if (await Read(zip, name, cancel) is not { } bytes)
                broken.Add($"{name} is missing, or larger than any report.");
            else if (ContentHash.Compute(bytes) != hash)
                broken.Add($"{name} is not the one that was archived.");
            else if (name.StartsWith(SealArchive.Reports, StringComparison.Ordinal))
            {
                reports++;
                broken.AddRange(check.Of(bytes).Broken.Select(says => $"{name}: {says}"));
            }
        }

        broken.AddRange(
            zip.Entries.Select(e => e.FullName)
                .Where(n => n is not (SealArchive.SumsName or SealArchive.SignatureName) && !sums.ContainsKey(n))
                .Select(n => $"{n} does not belong to it.")
        );
        return reports;
    }

    private static Dictionary<string, string> Sums(byte[] list, List<string> broken)
    {
        var sums = new Dictionary<string, string>();
        foreach (var line in Encoding.UTF8.GetString(list).Split('\n', StringSplitOptions.RemoveEmptyEntries))
            if (line.Split("  ", 2) is not [{ Length: 64 } hash, { Length: > 0 } name] || !sums.TryAdd(name, hash))
                broken.Add($"A line of its list cannot be read: {(line.Length > 80 ? line[..80] : line)}");
        return sums;
    }

    // Null where it is not there, or larger than it may be; what its head says of its size is not believed.
    private static async Task<byte[]?> Read(ZipArchive zip, string name, CancellationToken cancel)
    {
        if (zip.GetEntry(name) is not { } entry)
            return null;
        await using var from = await entry.OpenAsync(cancel);
        using var bytes = new MemoryStream();
        var buffer = new byte[81920];
        for (int read; (read = await from.ReadAsync(buffer, cancel)) > 0; )
        {
            if (bytes.Length + read > LargestFile)
                return null;
            bytes.Write(buffer, 0, read);
        }

        return bytes.ToArray();
    }
}
