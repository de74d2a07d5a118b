using Mordel.Core.Collections;
using Mordel.Core.Runs;

namespace Mordel.Core.Reports;

/// <summary>Prints the repair that a test follows.</summary>
/// <param name="times">How times are printed.</param>
internal sealed class RepairLines(PrintedTimes times)
{
    /// <summary>What the report says of repairs in a sentence.</summary>
    public static string InRun(RepairFacts? repair, RunState state)
    {
        var inRun = state.Earlier.Select(e => e.Why.EndsWith('.') ? e.Why : e.Why + ".").ToList();
        if (repair is not null)
            inRun.Insert(0, repair.Done.IsEmpty ? "Opened and closed; nothing was done." : $"{Joined(repair.Done)}.");
        return inRun.Count == 0 ? "None entered in this run." : string.Join(" ", inRun);
    }

    /// <summary>The repair as it is printed.</summary>
    public ReportRepair Of(RepairFacts repair) =>
        new(
            repair.Failed is { } failed
                ? $"Repaired after report {failed.Number} of {times.Day(failed.At)}, which said: "
                    + $"{failed.Outcome.Replace('-', ' ')}."
                : "",
            [
                .. (repair.Failed?.Initial ?? []).Select(i => new ReportItem(
                    i.Item,
                    i.Value,
                    i.Limit,
                    "–",
                    i.Result,
                    ""
                )),
            ],
            [.. Lines(repair)],
            repair.Photos
        );

    private IEnumerable<ReportLine> Lines(RepairFacts repair)
    {
        yield return new(
            "Repaired",
            $"by {repair.By}, {times.Moment(repair.BegunAt)} to {times.Moment(repair.ClosedAt)}"
        );
        yield return new("Permission", repair.Permission ?? ReportWriter.NotEntered);
        yield return new("Found", Or(repair.Found, "nothing entered"));
        yield return new("Done", Or(repair.Done, "nothing entered"));
        yield return new("Parts", Or(repair.Used, "none used"));
        if (!repair.Stopgaps.IsEmpty)
            yield return new("Stopgap", $"{Joined(repair.Stopgaps)}. This is no lasting repair");
        if (!repair.Notes.IsEmpty)
            yield return new("Notes", Joined(repair.Notes));
    }

    private static string Or(EquatableArray<string> texts, string none) => texts.IsEmpty ? none : Joined(texts);

    private static string Joined(EquatableArray<string> texts) => string.Join("; ", texts);
}
