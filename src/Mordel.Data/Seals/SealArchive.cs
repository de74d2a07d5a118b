using System.IO.Compression;
using System.Text;
using System.Text.Encodings.Web;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Serialization;

namespace Mordel.Data.Seals;

/// <summary>
/// All reports of a year in one file, with what anybody needs to check them without Mordel: a ZIP with the data of each
/// report, the public keys, a list of hashes as <c>sha256sum</c> reads it, and the installation's signature over that
/// list as <c>openssl</c> reads it (<c>mordel.archive/1</c>).
/// </summary>
public sealed class SealArchive(
    Store store,
    SealReader seals,
    SealedPapers papers,
    SigningKeys keys,
    TimeProvider clock
)
{
    /// <summary>The name of its form, and of the files that say what it holds.</summary>
    public const string Format = "mordel.archive/1",
        ContentsName = "archive.json",
        SumsName = "SHA256SUMS",
        SignatureName = "SHA256SUMS.sig",
        Reports = "reports/";

    private const int Batch = 50;

    private static readonly JsonWriterOptions Indented = new()
    {
        Indented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    /// <summary>The years in which tests were signed, the latest first.</summary>
    public async Task<IReadOnlyList<int>> Years(CancellationToken cancel)
    {
        var signed = store.Runs.Where(r => r.SignedAt != null);
        var (first, last) = (
            await signed.MinAsync(r => r.SignedAt, cancel),
            await signed.MaxAsync(r => r.SignedAt, cancel)
        );
        var years = new List<int>();
        if (first is not { } from || last is not { } until)
            return years;
        for (var year = clock.DayOf(until).Year; year >= clock.DayOf(from).Year; year--)
        {
            var (begins, ends) = Of(year);
            if (await signed.AnyAsync(r => r.SignedAt >= begins && r.SignedAt < ends, cancel))
                years.Add(year);
        }

        return years;
    }

    /// <summary>Writes the archive of a year; what it holds in memory grows by a line for each report.</summary>
    /// <param name="year">The year, from 1 to 9998.</param>
    /// <param name="into">Where it goes; is written to synchronously too.</param>
    /// <param name="cancel">Ends it; what was written then is no archive.</param>
    public async Task Write(int year, Stream into, CancellationToken cancel)
    {
        var (begins, ends) = Of(year);
        var runs = await store
            .Runs.AsNoTracking()
            .Where(r => r.SignedAt >= begins && r.SignedAt < ends)
            .OrderBy(r => r.SignedAt)
            .ThenBy(r => r.Id)
            .Select(r => r.Id)
            .ToListAsync(cancel);
        var sums = new StringBuilder();
        await using var zip = await ZipArchive.CreateAsync(into, ZipArchiveMode.Create, true, null, cancel);
        using var contents = new MemoryStream();
        await using (var json = new Utf8JsonWriter(contents, Indented))
        {
            json.WriteStartObject();
            json.WriteString("format", Format);
            json.WriteNumber("year", year);
            json.WriteInstant("madeAt", clock.GetUtcNow());
            json.WriteString("key", keys.Id);
            json.WriteStartArray("reports");
            foreach (var batch in runs.Chunk(Batch))
            foreach (var report in (await seals.Of(batch, cancel)).OrderBy(r => r.Seal?.Link.Number))
            {
                var data = papers.Data(report);
                json.WriteStartObject();
                json.WriteString("run", report.RunId);
                if (report.Run is { } run && data is not null)
                {
                    var name = $"{Reports}{report.Seal?.Link.Number:0000000}-{run.Report.FileName}.json";
                    await Add(zip, name, Encoding.UTF8.GetBytes(data), sums, cancel);
                    json.WriteString("file", name);
                    json.WriteString("number", run.Setup.Number);
                    json.WriteString("tag", run.Setup.Assembly.Tag);
                    json.WriteString("serial", run.Setup.Assembly.Serial);
                    json.WriteString("type", run.Setup.Assembly.Type.Name);
                    json.WriteString("place", run.Setup.Place.Name);
                    json.WriteString("outcome", report.Outcome);
                    json.WriteString("tester", run.Setup.Tester.Name);
                    json.WriteInstant("signedAt", run.Signing.At);
                    if (run.Setup.Profile.KeepYears is > 0 and var keep)
                        json.WriteDay("keepUntil", clock.DayOf(run.Signing.At).AddYears(keep));
                }

                // What is broken here is archived as it is, and says so.
                if (!report.Holds)
                    json.WriteStrings("broken", report.Broken);
                json.WriteEndObject();
                await json.FlushAsync(cancel);
            }

            json.WriteEndArray();
            json.WriteEndObject();
        }

        await Add(zip, ContentsName, contents.ToArray(), sums, cancel);
        foreach (var key in keys.Published)
            await Add(zip, $"keys/{key.Id}.pem", Encoding.UTF8.GetBytes(key.Pem.TrimEnd() + '\n'), sums, cancel);
        await Add(zip, "READ-ME.txt", Encoding.UTF8.GetBytes(ReadMe(year)), sums, cancel);
        var list = Encoding.UTF8.GetBytes(sums.ToString());
        await Add(zip, SumsName, list, null, cancel);
        await Add(zip, SignatureName, keys.SignFile(list), null, cancel);
    }

    private (DateTimeOffset Begins, DateTimeOffset Ends) Of(int year) =>
        (clock.StartOf(new(year, 1, 1)), clock.StartOf(new(year + 1, 1, 1)));

    private async Task Add(ZipArchive zip, string name, byte[] bytes, StringBuilder? sums, CancellationToken cancel)
    {
        var entry = zip.CreateEntry(name, CompressionLevel.Optimal);
        entry.LastWriteTime = clock.GetUtcNow();
        await using (var stream = await entry.OpenAsync(cancel))
            await stream.WriteAsync(bytes, cancel);
        // As sha256sum writes it: the hash, two spaces, the name.
        sums?.Append(ContentHash.Compute(bytes)).Append("  ").Append(name).Append('\n');
    }

    private string ReadMe(int year) =>
        $"""
            The sealed test reports of {year}
            =================================

            archive.json    what is here, report by report
            reports/        each report as data: the record that was signed, its seal, its amendments
            keys/           the public keys that sealed them
            SHA256SUMS      the hash of every file above
            SHA256SUMS.sig  the signature over that list, by the key {keys.Id}

            To check the archive as a whole, in its folder, with common tools:

                sha256sum -c SHA256SUMS
                openssl dgst -sha256 -verify keys/{keys.Id}.pem -signature SHA256SUMS.sig SHA256SUMS

            That key must be the installation's own: compare it with the one that it publishes, or with one that
            you were given before. To check a single report:

                jq -j .record REPORT.json | sha256sum    is the "record" that its link names
                jq -r .seal.link REPORT.json             shows the link
                jq -j .seal.link REPORT.json | sha256sum is what "signature" signs, as 64 digits

            (ECDSA over P-256 with SHA-256; r and s, 32 bytes each, in base64.)

            Who has Mordel checks all of it at once: ./mordel verify ARCHIVE.zip --key KEYS.pem

            """;
}
