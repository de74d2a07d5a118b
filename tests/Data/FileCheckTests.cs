using System.Text;
using CsCheck;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Catalogue;
using Mordel.Core.Seals;
using Mordel.Data.Seals;

namespace Mordel.Data.Tests;

/// <summary>
/// A report that somebody was given is checked by the file alone: nothing in it can be changed unseen.
/// </summary>
public sealed class FileCheckTests : IAsyncLifetime, IAsyncDisposable
{
    private const int Variants = 10_000;
    private readonly SmallInstallation hamlet = new();
    private PublicKeys keys = null!;
    private byte[] pdf = [],
        data = [];

    public async Task InitializeAsync()
    {
        await hamlet.Filled(AssemblyTypes.DC);
        var run = await hamlet.Signed();
        keys = PublicKeys.Of(hamlet.Services.GetRequiredService<SigningKeys>());
        (pdf, data) = await Files(run);
    }

    public async Task DisposeAsync() => await hamlet.DisposeAsync();

    ValueTask IAsyncDisposable.DisposeAsync() => hamlet.DisposeAsync();

    private Task<(byte[] Pdf, byte[] Data)> Files(Guid run) =>
        hamlet.With<(byte[], byte[]), SealedPapers>(async papers =>
        {
            var report = (await hamlet.Report(run))!;
            return ((await papers.Pdf(report, default))!, Encoding.UTF8.GetBytes(papers.Data(report)!));
        });

    [Fact]
    public void Both_files_hold_as_they_left_the_house_and_name_the_same_report()
    {
        var (paper, report) = (new FileCheck(keys).Of(pdf), new FileCheck(keys).Of(data));
        Assert.Empty(paper.Broken);
        Assert.Empty(report.Broken);
        Assert.NotNull(paper.Code);
        Assert.Equal(paper.Code, report.Code);
    }

    [Trait("Turn", "2")]
    [Fact]
    public void Whatever_is_changed_in_a_file_is_found()
    {
        var check = new FileCheck(keys);
        var accepted = 0;
        Gen.Select(Gen.Bool, Gen.Int[0, 3], Gen.Double[0, 1], Gen.Byte, Gen.Byte)
            .Sample(
                (paper, how, where, by, with) =>
                {
                    var file = paper ? pdf : data;
                    var at = Math.Min((int)(where * file.Length), file.Length - 1);
                    byte[] changed = how switch
                    {
                        0 => [.. file[..at], (byte)(file[at] ^ (1 << (by % 8))), .. file[(at + 1)..]],
                        1 => [.. file[..at], with, .. file[at..]],
                        2 => [.. file[..at], .. file[(at + 1)..]],
                        _ => file[..at],
                    };
                    // A blank behind the last line is no change that anybody means.
                    if (
                        !changed.AsSpan().SequenceEqual(file)
                        && !changed.AsSpan().TrimEnd(" \r\n\t"u8).SequenceEqual(file)
                        && check.Of(changed).Broken.Count == 0
                    )
                        Interlocked.Increment(ref accepted);
                },
                iter: Variants,
                threads: 2
            );
        Assert.Equal(0, accepted);
    }

    [Fact]
    public void A_report_is_not_taken_for_another_installations()
    {
        using var other = System.Security.Cryptography.ECDsa.Create(
            System.Security.Cryptography.ECCurve.NamedCurves.nistP256
        );
        var strangers = PublicKeys.Read(other.ExportSubjectPublicKeyInfoPem())!;
        Assert.Contains("not among the keys", new FileCheck(strangers).Of(pdf).Broken[0], StringComparison.Ordinal);
        Assert.Contains("not among the keys", new FileCheck(strangers).Of(data).Broken[0], StringComparison.Ordinal);
    }

    [Fact]
    public async Task Where_signatures_are_looked_up_between_two_looks_the_check_says_the_same()
    {
        var run = await hamlet.Signed();
        await hamlet.Amend(run, "It stands in the second cellar.");
        var (amendedPdf, amended) = await Files(run);
        var known = hamlet.Services.GetRequiredService<SigningKeys>().Published.Select(k => k.Id).ToHashSet();
        foreach (var file in new[] { pdf, data, amendedPdf, amended })
        {
            var noted = new NotedSignatures(known);
            new FileCheck(noted).Of(file);
            Assert.NotEmpty(noted.Asked);
            var holding = noted.Asked.Where(a => keys.Holds(a.Key, a.Text, a.Signature)).ToHashSet();
            var (looked, at_once) = (
                new FileCheck(new AnsweredSignatures(known, holding)).Of(file),
                new FileCheck(keys).Of(file)
            );
            Assert.Equal(at_once.Says, looked.Says);
            Assert.Empty(looked.Broken);
            // Where one of them does not hold, it is said.
            foreach (var one in noted.Asked)
                Assert.NotEmpty(
                    new FileCheck(new AnsweredSignatures(known, holding.Where(h => h != one).ToHashSet()))
                        .Of(file)
                        .Broken
                );
        }
    }
}
