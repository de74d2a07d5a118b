using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data.Outbox;
using Mordel.Data.Seals;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Adds an amendment to a sealed run: a new sealed record that refers to the old one, which stays as it was.
/// </summary>
public sealed class AmendRun(
    Store store,
    SealReader seals,
    SealWriter writer,
    ReportPapers papers,
    OutboxWriter outbox,
    OutboxBell bell,
    TimeProvider clock
)
{
    /// <summary>The longest amendment, in characters.</summary>
    public const int LongestText = 2_000;

    /// <summary>Adds it.</summary>
    public async Task<Reply<Guid>> With(Guid runId, Guid testerId, string? text, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(text))
            return Reply<Guid>.Refused("Say what was wrong and what is right.");
        if (text.Length > LongestText)
            return Reply<Guid>.Refused($"An amendment may have {LongestText} characters.");
        await using var transaction = await store.BeginWriting(cancel);
        var run = await store
            .Runs.AsNoTracking()
            .Include(r => r.Tester)
            .Include(r => r.Assembly)
            .FirstOrDefaultAsync(r => r.Id == runId && r.TesterId == testerId, cancel);
        if (run is null)
            return Reply<Guid>.Refused(TakeEntries.Anothers);
        if (await seals.Of(runId, cancel) is not { } report)
            return Reply<Guid>.Refused("This run is not signed yet: correct it in the run itself.");
        if (report is not { Holds: true, Run: { } sealed_ })
            return Reply<Guid>.Refused(
                $"The seal of this report is broken: {report.Broken[0]} An amendment can rest on nothing here; the "
                    + $"owner of the installation must look at it."
            );
        if (report.Amendments is [.., var last] && last.Amendment.Text == text.Trim())
            return Reply<Guid>.Refused("This amendment is already there.");
        var at = clock.Now();
        var by = run.Tester!.FullName;
        var amendment = new Amendment(
            Guid.CreateVersion7(),
            runId,
            by,
            at,
            Printed(at, by, clock.LocalTimeZone),
            text.Trim()
        );
        var record = SealFormat.Write(amendment);
        if (SealFormat.ReadAmendment(record) != amendment)
            return Reply<Guid>.Refused("The text holds a character that cannot be kept.");
        store.Amendments.Add(
            new()
            {
                Id = amendment.Id,
                RunId = runId,
                Text = amendment.Text,
                By = by,
                At = at,
            }
        );
        var printed = await papers.Set(
            sealed_.Report,
            report.Record,
            report.RecordText,
            report
                .Amendments.Select(a => a.Amendment)
                .Append(amendment)
                .Select(a => new PaperAmendment(a.Printed, a.Text)),
            [],
            cancel
        );
        await writer.Append(report.AssemblyId, runId, amendment.Id, record, ContentHash.Compute(printed), at, cancel);
        await outbox.Report(run, amendment.Id, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        return amendment.Id;
    }

    /// <summary>Who and when, as it is printed.</summary>
    public static string Printed(DateTimeOffset at, string by, TimeZoneInfo zone) =>
        $"{TimeZoneInfo.ConvertTime(at, zone):d MMM yyyy, HH:mm}, {by}";
}
