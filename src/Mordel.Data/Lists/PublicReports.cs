using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>A report as anybody sees it who has its code: what stands on its paper, and what became of it.</summary>
/// <param name="Report">The report, checked.</param>
/// <param name="LaterTest">When the same assembly was last tested after it; null where it was not.</param>
public sealed record PublicReport(SealedReport Report, DateOnly? LaterTest);

/// <summary>Finds reports by the code on their paper.</summary>
public sealed class PublicReports(Store store, SealReader seals, TimeProvider clock)
{
    /// <summary>The report of a code; null when there is none.</summary>
    public async Task<PublicReport?> Of(ReportCode code, CancellationToken cancel)
    {
        var run = await store
            .Seals.AsNoTracking()
            .Where(s => s.Code == code.Digits)
            .OrderBy(s => s.Number)
            .Select(s => (Guid?)s.RunId)
            .FirstOrDefaultAsync(cancel);
        if (run is not { } id || await seals.Of(id, cancel) is not { } report)
            return null;
        // A code that was put to another report finds nothing; one that is broken otherwise is said to be.
        if (report.Seal is { } seal && ReportCode.Of(seal.Link.Record) != code)
            return null;
        var signed = report.Run?.Signing.At;
        var later = await store
            .Runs.Where(r => r.AssemblyId == report.AssemblyId && r.SignedAt > signed && r.Id != id)
            .MaxAsync(r => r.SignedAt, cancel);
        return new(report, later is { } at ? clock.DayOf(at) : null);
    }
}
