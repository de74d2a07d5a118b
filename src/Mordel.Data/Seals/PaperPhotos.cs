using System.Security.Cryptography;
using Mordel.Core.Outside;
using Mordel.Core.Reports;

namespace Mordel.Data.Seals;

/// <summary>
/// Fetches the pictures that a report names; one that is lost, or is not what was sealed, is left out.
/// </summary>
public sealed class PaperPhotos(IFiles files)
{
    /// <summary>The pictures by their hash.</summary>
    public async Task<IReadOnlyDictionary<string, byte[]>> Of(TestReport report, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(report);
        var photos = new Dictionary<string, byte[]>();
        foreach (var photo in report.Repair?.Photos ?? [])
            if (await Read(photo.Sha256, cancel) is { } bytes)
                photos[photo.Sha256] = bytes;
        return photos;
    }

    private async Task<byte[]?> Read(string hash, CancellationToken cancel)
    {
        try
        {
            var bytes = await files.Read(PhotoNames.Of(hash).Large, cancel);
            return bytes is not null && Convert.ToHexStringLower(SHA256.HashData(bytes)) == hash ? bytes : null;
        }
        catch (Exception e) when (e is IOException or ArgumentException)
        {
            return null;
        }
    }
}
