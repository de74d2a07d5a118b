using Mordel.Core.Reports;
using Mordel.Core.Seals;
using Mordel.Core.Serialization;

namespace Mordel.Data.Seals;

/// <summary>
/// Sets sealed reports on paper, and writes them as data, with their seals; what is broken is said large and bears
/// none.
/// </summary>
public sealed class SealedPapers(ReportPapers papers, SigningKeys keys, ISetupParts parts)
{
    /// <summary>The PDF; null when the record cannot be read any more, so that there is nothing to be set.</summary>
    public async Task<byte[]?> Pdf(SealedReport report, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(report);
        if (report.Run is not { } run)
            return null;
        var pages = await papers.Set(
            run.Report,
            report.Record,
            report.RecordText,
            report.Amendments.Select(a => new PaperAmendment(a.Amendment.Printed, a.Amendment.Text)),
            report.Broken,
            cancel
        );
        if (!report.Holds)
            return pages;
        var seal = report.Amendments is [.., var last] ? last.Seal : report.Seal!;
        var paper = ContentHash.Compute(pages);
        var attested =
            seal.Link.Paper == paper
                ? null
                : new PaperAttestation(keys.Id, keys.Sign(PaperAttestation.Statement(paper, seal.Hash)));
        return SealedPdf.Attach(pages, SealedFileFormat.Write(new PaperSeal(seal.Text, seal.Signature, attested)));
    }

    /// <summary>The report as data; null when its record is lost.</summary>
    public string? Data(SealedReport report)
    {
        ArgumentNullException.ThrowIfNull(report);
        if (report is not { Run: not null, RecordText: { } record })
            return null;
        var pieces = SealedRecord.Read(record);
        return SealedFileFormat.Write(
            new SealedFile(
                record,
                parts.Text(pieces.Profile) ?? "",
                parts.Text(pieces.Sheet) ?? "",
                report.Seal is { } seal ? new(seal.Text, seal.Signature) : null,
                [.. report.Amendments.Select(a => new FileAmendment(a.RecordText, new(a.Seal.Text, a.Seal.Signature)))],
                report.Broken
            )
        );
    }
}
