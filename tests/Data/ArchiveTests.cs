using System.Diagnostics;
using System.IO.Compression;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Seals;
using Mordel.Core.Tests;
using Mordel.Data.Seals;

namespace Mordel.Data.Tests;

/// <summary>A year's reports in one file, which somebody without Mordel can check.</summary>
public sealed class ArchiveTests : IAsyncLifetime, IAsyncDisposable
{
    private readonly SmallInstallation hamlet = new();

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC, AssemblyTypes.PVB);
        await hamlet.Signed(0);
        await hamlet.Amend(await hamlet.Signed(1), "It stands in the second cellar.");
        await hamlet.With<string, SigningKeys>(async keys =>
            await hamlet.InStore(s => keys.Rotate(s, DateTimeOffset.UtcNow, CancellationToken.None))
        );
        await hamlet.Signed(0, new(1.7, 0.6, 0, 0));
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private async Task<byte[]> Archive()
    {
        using var into = new MemoryStream();
        var year = Assert.Single(await hamlet.With<IReadOnlyList<int>, SealArchive>(a => a.Years(default)));
        Assert.Equal(hamlet.Clock.Today().Year, year);
        await hamlet.With<bool, SealArchive>(async a =>
        {
            await a.Write(year, into, default);
            return true;
        });
        return into.ToArray();
    }

    private static Dictionary<string, byte[]> Files(byte[] archive)
    {
        using var zip = new ZipArchive(new MemoryStream(archive));
        return zip.Entries.ToDictionary(
            e => e.FullName,
            e =>
            {
                using var from = e.Open();
                using var into = new MemoryStream();
                from.CopyTo(into);
                return into.ToArray();
            }
        );
    }

    private static byte[] Zip(Dictionary<string, byte[]> files)
    {
        using var into = new MemoryStream();
        using (var zip = new ZipArchive(into, ZipArchiveMode.Create, true))
            foreach (var (name, bytes) in files)
            {
                using var entry = zip.CreateEntry(name).Open();
                entry.Write(bytes);
            }

        return into.ToArray();
    }

    private async Task<CheckedFile> Check(byte[] archive)
    {
        var keys = await hamlet.With<PublicKeys, SigningKeys>(k => Task.FromResult(PublicKeys.Of(k)));
        return await new ArchiveCheck(keys).Of(new MemoryStream(archive), default);
    }

    [Fact]
    public async Task It_holds_every_report_and_every_seal_in_it_holds()
    {
        var archive = await Archive();
        var found = await Check(archive);
        Assert.Empty(found.Broken);
        Assert.Contains("3 reports.", found.Says);
        var files = Files(archive);
        using var contents = JsonDocument.Parse(files[SealArchive.ContentsName]);
        Assert.Equal(
            files.Keys.Where(n => n.StartsWith(SealArchive.Reports, StringComparison.Ordinal)).Order(),
            contents.RootElement.GetProperty("reports").EnumerateArray().Select(r => r.GetProperty("file").GetString())
        );
        // What it says it holds is what is written down of its form.
        using var schema = JsonDocument.Parse(
            await File.ReadAllTextAsync(Repository.At("docs", "formats", "archive.schema.json"))
        );
        var form = schema.RootElement.GetProperty("properties");
        Assert.Equal(
            form.EnumerateObject().Select(p => p.Name),
            contents.RootElement.EnumerateObject().Select(p => p.Name)
        );
        var known = form.GetProperty("reports").GetProperty("items").GetProperty("properties");
        foreach (var report in contents.RootElement.GetProperty("reports").EnumerateArray())
        foreach (var said in report.EnumerateObject())
            Assert.True(known.TryGetProperty(said.Name, out _), said.Name);
        Assert.Equal(2, files.Keys.Count(n => n.StartsWith("keys/", StringComparison.Ordinal)));
    }

    [Fact]
    public async Task Whoever_has_only_common_tools_checks_it_as_its_read_me_says()
    {
        var folder = Directory.CreateTempSubdirectory("mordel-archive-").FullName;
        try
        {
            ZipFile.ExtractToDirectory(new MemoryStream(await Archive()), folder);
            using var sums = Process.Start(
                new ProcessStartInfo("sha256sum", ["--strict", "--quiet", "-c", SealArchive.SumsName])
                {
                    WorkingDirectory = folder,
                }
            )!;
            await sums.WaitForExitAsync();
            Assert.Equal(0, sums.ExitCode);
            // What openssl does with the lines of the read-me, by the library of the platform.
            var readMe = await File.ReadAllTextAsync(Path.Combine(folder, "READ-ME.txt"));
            var key = readMe.Split("-verify ")[1].Split(' ')[0];
            using var ec = ECDsa.Create();
            ec.ImportFromPem(await File.ReadAllTextAsync(Path.Combine(folder, key)));
            Assert.True(
                ec.VerifyData(
                    await File.ReadAllBytesAsync(Path.Combine(folder, SealArchive.SumsName)),
                    await File.ReadAllBytesAsync(Path.Combine(folder, SealArchive.SignatureName)),
                    HashAlgorithmName.SHA256,
                    DSASignatureFormat.Rfc3279DerSequence
                )
            );
            // And a single report, by the hash of its record.
            foreach (var file in Directory.GetFiles(Path.Combine(folder, "reports")))
            {
                using var report = JsonDocument.Parse(await File.ReadAllTextAsync(file));
                var record = report.RootElement.GetProperty("record").GetString()!;
                using var link = JsonDocument.Parse(
                    report.RootElement.GetProperty("seal").GetProperty("link").GetString()!
                );
                Assert.Equal(
                    Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(record))),
                    link.RootElement.GetProperty("record").GetString()
                );
            }
        }
        finally
        {
            Directory.Delete(folder, true);
        }
    }

    [Trait("Turn", "0")]
    [Fact]
    public async Task Whatever_is_changed_in_it_is_found()
    {
        var files = Files(await Archive());
        var (random, names, tried) = (new Random(Cases.Seed), files.Keys.ToList(), 0);
        for (var i = 0; i < Cases.Of(2000); i++)
        {
            var altered = files.ToDictionary();
            var (name, other) = (names[random.Next(names.Count)], names[random.Next(names.Count)]);
            var bytes = (byte[])files[name].Clone();
            switch (random.Next(6))
            {
                case 0:
                    altered.Remove(name);
                    break;
                case 1:
                    altered[$"reports/{random.Next()}.json"] = files[other];
                    break;
                case 2 when !files[name].AsSpan().SequenceEqual(files[other]):
                    (altered[name], altered[other]) = (files[other], files[name]);
                    break;
                case 3:
                    altered[name] = bytes[..random.Next(bytes.Length)];
                    break;
                default:
                    bytes[random.Next(bytes.Length)] ^= (byte)(1 << random.Next(8));
                    altered[name] = bytes;
                    break;
            }

            if (altered.Count == files.Count && altered.All(a => files.GetValueOrDefault(a.Key) == a.Value))
                continue;
            tried++;
            Assert.NotEmpty((await Check(Zip(altered))).Broken);
        }

        Assert.True(tried > Cases.Of(1500), $"{tried} alterations");
    }

    [Fact]
    public async Task Who_changes_a_report_and_its_hash_in_the_list_is_found_by_the_signature_and_by_the_seal()
    {
        var files = Files(await Archive());
        var name = files.Keys.First(n => n.StartsWith(SealArchive.Reports, StringComparison.Ordinal));
        var text = Encoding.UTF8.GetString(files[name]);
        var changed = Encoding.UTF8.GetBytes(text.Replace("pass", "fail", StringComparison.Ordinal));
        var list = Encoding.UTF8.GetString(files[SealArchive.SumsName]);
        string Hash(byte[] bytes) => Convert.ToHexStringLower(SHA256.HashData(bytes));
        files[SealArchive.SumsName] = Encoding.UTF8.GetBytes(
            list.Replace(Hash(files[name]), Hash(changed), StringComparison.Ordinal)
        );
        files[name] = changed;
        var broken = (await Check(Zip(files))).Broken;
        Assert.Contains(broken, b => b.Contains("signature over its list", StringComparison.Ordinal));
        Assert.Contains(broken, b => b.StartsWith(name, StringComparison.Ordinal));
    }

    [Fact]
    public async Task What_is_no_archive_is_said_to_be_none()
    {
        Assert.NotEmpty((await Check([])).Broken);
        Assert.NotEmpty((await Check("PK nothing"u8.ToArray())).Broken);
        Assert.NotEmpty((await Check(Zip(new() { ["a.txt"] = [1] }))).Broken);
        var whole = await Archive();
        Assert.NotEmpty((await Check(whole[..(whole.Length / 2)])).Broken);
    }

    [Fact]
    public async Task A_report_that_is_broken_here_is_archived_as_it_is_and_says_so()
    {
        await hamlet.Alter("UPDATE Runs SET Outcome = 'pass'");
        var files = Files(await Archive());
        using var contents = JsonDocument.Parse(files[SealArchive.ContentsName]);
        Assert.Contains(contents.RootElement.GetProperty("reports").EnumerateArray(), r =>
            r.TryGetProperty("broken", out var broken) && broken.GetArrayLength() > 0
        );
    }
}
