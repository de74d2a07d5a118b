using System.Collections.Immutable;
using System.Text;
using Mordel.Core.Outside;
using Mordel.Core.Reports;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Outbox;

/// <summary>Sealed reports as files that leave the house.</summary>
public sealed class ReportFiles(SealedPapers papers, ICsvWriter tables)
{
    /// <summary>A report that holds, in a form.</summary>
    /// <param name="report">The report.</param>
    /// <param name="form">One of <see cref="ReportForms"/>.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Enclosure> Of(SealedReport report, string form, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(report);
        var name = $"{report.Run!.Report.FileName}.{form}";
        return form switch
        {
            ReportForms.Pdf => new(name, "application/pdf", ImmutableArray.Create((await papers.Pdf(report, cancel))!)),
            ReportForms.Data => new(
                name,
                "application/json",
                ImmutableArray.Create(Encoding.UTF8.GetBytes(papers.Data(report)!))
            ),
            ReportForms.Table => new(
                name,
                "text/csv",
                ImmutableArray.Create(tables.Write(ReportTable.Heads, ReportTable.Lines(report.Run, report.Record!)))
            ),
            _ => throw new ArgumentOutOfRangeException(nameof(form), form, "There is no such form."),
        };
    }
}
