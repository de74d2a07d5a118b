using System.Globalization;
using System.Text;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Seals;

/// <summary>What the check of a file came to.</summary>
/// <param name="Says">What it is and what holds, line by line.</param>
/// <param name="Broken">What does not, as sentences; empty when it is what was sealed.</param>
/// <param name="Code">Its code; null where the file does not tell it.</param>
public sealed record CheckedFile(IReadOnlyList<string> Says, IReadOnlyList<string> Broken, ReportCode? Code = null);

/// <summary>
/// Checks a report that somebody was given, a PDF or its data, by nothing but the file and public keys: for an
/// authority, without the installation that made it.
/// </summary>
/// <param name="keys">The public keys.</param>
public sealed class FileCheck(ISignatureCheck keys)
{
    /// <summary>Checks a file.</summary>
    public CheckedFile Of(byte[] file)
    {
        ArgumentNullException.ThrowIfNull(file);
        return file.AsSpan().StartsWith("%PDF"u8) ? Paper(file) : Data(file);
    }

    private CheckedFile Paper(byte[] file)
    {
        var (says, broken) = (new List<string>(), new List<string>());
        if (
            SealedPdf.Detach(file) is not var (pages, text)
            || SealedFileFormat.ReadPaper(text) is not { } seal
            || SealedFileFormat.Write(seal) != text
        )
            return new(
                [],
                [
                    "This PDF bears no seal, or something was added to it after it was made: it cannot be told "
                        + "whether it is what was signed.",
                ]
            );
        var link = Link(new(seal.Link, seal.Signature), says, broken);
        if (link is not null)
            Pages(seal, link, ContentHash.Compute(pages), says, broken);
        // The link behind an amended report seals the amendment.
        return new(says, broken, link is { Amendment: null, Record: var record } ? ReportCode.Of(record) : null);
    }

    private void Pages(PaperSeal seal, SealLink link, string paper, List<string> says, List<string> broken)
    {
        if (link.Paper == paper && seal.Attested is not null)
            broken.Add("Its seal says more than one that was made here.");
        else if (link.Paper == paper)
            says.Add("Its pages are those that were set when it was sealed.");
        else if (seal.Attested is not { } attested)
            broken.Add("Its pages are not those that were sealed.");
        else if (!keys.Knows(attested.Key))
            broken.Add(
                $"Its pages were set later and attested with the key {attested.Key}, which is not among the keys given."
            );
        else if (
            !keys.Holds(
                attested.Key,
                PaperAttestation.Statement(paper, ContentHash.Compute(seal.Link)),
                attested.Signature
            )
        )
            broken.Add("Its pages are not those that the installation has attested.");
        else
            says.Add(
                "Its pages were set later than the seal; the installation has attested that they say what was sealed."
            );
    }

    private CheckedFile Data(byte[] file)
    {
        var (says, broken) = (new List<string>(), new List<string>());
        if (Text(file) is not { } text)
            return new([], ["This file is neither a PDF nor text in UTF-8."]);
        if (SealedFileFormat.ReadReport(text, out var errors) is not { } report)
            return new([], [$"This is no sealed report that can be read: {string.Join("; ", errors.Take(3))}."]);
        if (SealedFileFormat.Write(report) != text.TrimEnd())
            broken.Add("This file is not as it was written: something was added, or it was saved anew.");
        broken.AddRange(report.Broken.Select(b => $"Its own installation has found it broken: {b}"));
        if (report.Seal is null)
            broken.Add("There is no seal over it.");
        else if (
            Link(report.Seal, says, broken) is { } link
            && (link.Record != ContentHash.Compute(report.Record) || link.Amendment is not null)
        )
            broken.Add("The record is not the one that was sealed.");
        // What is not what was sealed is not played again.
        if (broken.Count == 0)
            Contents(report, says, broken);
        return new(says, broken, ReportCode.Of(ContentHash.Compute(report.Record)));
    }

    private void Contents(SealedFile report, List<string> says, List<string> broken)
    {
        var run = SealedRunFormat.Read(report.Record, new TextParts([report.Profile, report.Sheet]), out var wrong);
        if (run is not null)
            Run(run, says);
        else
            broken.Add($"The record cannot be read: {string.Join("; ", wrong.Take(3))}.");
        foreach (var amendment in report.Amendments)
            Amendment(amendment, run?.Run, says, broken);
    }

    private static void Run(SealedRun run, List<string> says)
    {
        says.Insert(0, $"Report {run.Report.Number}: {run.Report.Title}.");
        says.Add(
            SealedRunFormat.JudgedOtherwise(run) is not { } again
                ? "A fresh replay of its log judges the same."
                : $"It was judged by an earlier version ({run.JudgeVersion}; this one is {Judge.Version}), which "
                    + $"this one would judge {again.Overall.Word().ToLowerInvariant()}. The sealed outcome stands."
        );
    }

    private void Amendment(FileAmendment amendment, Guid? run, List<string> says, List<string> broken)
    {
        if (Link(amendment.Seal, says, broken) is not { } link)
            return;
        if (
            link.Record != ContentHash.Compute(amendment.Record)
            || SealFormat.ReadAmendment(amendment.Record) is not { } read
        )
            broken.Add("An amendment is not the one that was sealed.");
        else if (read.Run != run || link.Run != run || link.Amendment != read.Id)
            broken.Add("An amendment is another report's.");
        else
            says.Add($"Amended: {read.Printed}: {read.Text}");
    }

    private SealLink? Link(FileSeal seal, List<string> says, List<string> broken)
    {
        if (SealFormat.ReadLink(seal.Link) is not { } link)
        {
            broken.Add("Its seal cannot be read.");
            return null;
        }

        if (!keys.Knows(link.Key))
            broken.Add($"It is signed with the key {link.Key}, which is not among the keys given.");
        else if (!keys.Holds(link.Key, ContentHash.Compute(seal.Link), seal.Signature))
            broken.Add("The signature under its seal does not hold.");
        else
            says.Add(
                string.Create(
                    CultureInfo.InvariantCulture,
                    $"Seal number {link.Number}, made {link.At:d MMM yyyy, HH:mm} UTC with the key {link.Key}; "
                        + $"record {link.Record}."
                )
            );
        return link;
    }

    private static string? Text(byte[] file)
    {
        try
        {
            return new UTF8Encoding(false, throwOnInvalidBytes: true).GetString(file).TrimStart('\uFEFF');
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }
}
