using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Reports;
using Mordel.Web.Application;

namespace Mordel.Web.Reporting;

/// <summary>Makes the report of a sealed run from its log.</summary>
public sealed class ReportBuilder(FindRun find, MordelOptions options)
{
    /// <summary>The report.</summary>
    public async Task<(ReportModel Report, Verdict Verdict)> Of(RunFile run, CancellationToken cancel)
    {
        var verdict = run.Verdict(await find.Previous(run, cancel));
        var (row, assembly, place) = (run.Row, run.Row.Assembly!, run.Row.Assembly!.Place!);
        var state = run.State;
        var started = run.Log.Entries.FirstOrDefault()?.At ?? row.StartedAt;
        var report = new ReportModel
        {
            Title = $"{place.Name}, {assembly.Type} {row.SealedSerial}, {row.SignedAt:d MMM yyyy}: {verdict.Overall.Word()}",
            Number = $"{assembly.Tag}/{row.SignedAt:yyyyMMdd-HHmm}",
            Outcome = verdict.Overall.Word(),
            OutcomeId = verdict.Overall.Id(),
            Reason = verdict.Reason,
            Where =
            [
                new("Owner", $"{place.Owner!.Name}, {place.Owner.Address}, {place.Owner.Phone}"), new("Place", $"{place.Name}, {place.Address}, {place.District}"),
                new("Stands", assembly.Location), new("Serves", $"{assembly.Serves}; {assembly.Hazard} hazard, {assembly.Protection}"), new("Authority", assembly.Authority!.Name),
            ],
            Assembly =
            [
                new("Type", TypeName(assembly)), new("Make", $"{assembly.Make} {assembly.Model}, {assembly.Size}"),
                new("Serial", state.Serial is { } other ? $"{row.SealedSerial}, {(other.Replaced ? "a replacement found in place of the one on the order" : "as on the plate; the register was corrected")}" : row.SealedSerial!),
                new("Tag", assembly.Tag), new("Installed", $"{assembly.InstalledOn:d MMM yyyy}"),
                new("Inspected", state.Findings.Any(f => f.Id is null) ? "with findings, below" : "place, clearances and completeness in order"),
            ],
            Test =
            [
                new("Procedure", $"{run.Plan.Procedure.Title} ({row.ProcedureId}), {row.Kit!.Kind} kit"), new("Rules", $"{run.Plan.Profile.Name} ({row.ProfileId}), version {row.ProfileVersion}"),
                new("Test", $"{started.ToLocalTime():d MMM yyyy, HH:mm} to {row.SignedAt?.ToLocalTime():HH:mm}{(state.Line is { } line ? $"; line pressure {line}" : "")}"),
                new("Shutoffs", $"as found: {Stood(state.AsFound)}; as left: {Stood(state.AsLeft.Count > 0 ? state.AsLeft : state.AsFound)}"),
            ],
            Items = [.. verdict.Items.Select(i => new ReportItem(i.Item.Name, i.Value?.ToString() ?? "not taken", i.Limit is { } limit ? $"{limit} {i.Unit}" : "–", RunViews.Margin(i) ?? "–", i.Result.Word()))],
            Before = [.. Before(run)],
            Warnings = [.. verdict.Warnings.Select(w => w.Text), .. verdict.Notes, .. HeightNotes(state, verdict), .. Holds(run)],
            Repairs = state.Earlier.IsEmpty ? "None recorded in this run." : string.Join(" ", state.Earlier.Select(e => e.Why.EndsWith('.') ? e.Why : e.Why + ".")),
            Remarks = state.Remarks,
            Findings = [.. state.Findings.Select(f => f.Remark).OfType<string>().Distinct(), .. state.Notes.Select(n => ((EntryBody.Noted)n.Body).Text)],
            Kit = $"{row.Kit.Make} {row.Kit.Model}, serial {row.SealedKit}, calibrated {row.Kit.CalibratedOn:d MMM yyyy} by {row.Kit.CalibratedBy}, next due {row.Kit.CalibrationDue:d MMM yyyy}",
            Tester = row.SignedName!,
            Certificate = row.Certificate!,
            SignedAt = $"{row.SignedAt?.ToLocalTime():d MMM yyyy, HH:mm}",
            Ink = row.Ink == InkText.Typed ? null : row.Ink,
            Hash = row.Hash!,
            Amendments = [.. row.Amendments.OrderBy(a => a.At).Select(a => $"{a.At.ToLocalTime():d MMM yyyy, HH:mm}, {a.By}: {a.Text}")],
            Simulated = options.Demo,
        };
        return (report, verdict);
    }

    private static string TypeName(AssemblyRow assembly) => assembly.Type switch
    {
        "RP" => $"RP, reduced pressure zone{(assembly.Body is { } body ? $", {body}" : "")}",
        "DC" => "DC, double check",
        "PVB" => "PVB, pressure vacuum breaker",
        _ => "SVB, spill-resistant vacuum breaker",
    };

    // The sets before a repair come first, each with what was judged then; what was corrected or repeated follows.
    private static IEnumerable<string> Before(RunFile run)
    {
        var state = run.State;
        foreach (var set in state.Earlier)
        {
            var verdict = run.Plan.VerdictOn(set);
            yield return $"Before the repair, {verdict.Overall.Word().ToLowerInvariant()}: {string.Join("; ", verdict.Items.Where(i => i.Value is not null).Select(i => $"{i.Item.Name} {i.Value}"))}. {set.Why}";
        }


        foreach (var (item, taken) in state.Readings.OrderBy(r => r.Key.Id, StringComparer.Ordinal))
        {
            if (taken.First is { } first) yield return $"{item.Name}: first written {first}, corrected to {taken.Reading}: {taken.Reason}.";
            if (taken.From is { } from) yield return $"{item.Name}: {taken.Reading}, {char.ToLowerInvariant(from[0])}{from[1..]}.";
        }

        foreach (var (item, held) in state.Held) yield return $"{item.Name}: {held.Reading} noted before the bleed was opened.";
        foreach (var (item, old) in state.Repeated) yield return $"{item.Name}: {old.Reading} in an attempt that was repeated.";
    }

    private static IEnumerable<string> HeightNotes(RunState state, Verdict verdict) => state.GaugeOffset is null ? []
        : verdict.Items.Where(i => state.Readings.TryGetValue(i.Item, out var taken) && taken.OneHose).Select(i => HeightWhatIf.Of(i, state.GaugeOffset)).OfType<string>();

    private static IEnumerable<string> Holds(RunFile run) => run.State.Holds.Values.Where(h => h.EndedAt is not null).OrderBy(h => h.StartedAt).Select(h =>
        $"{run.State.Behind.FirstOrDefault(b => b.Planned.Key == h.StepKey)?.Planned.Step.Title ?? h.StepKey}: watched for {h.Seconds} s{(h.Start is { } a && h.End is { } b ? $", {a} to {b}" : "")}{(h.CutShort is { } cut ? $", cut short: {cut}" : "")}.");

    private static string Stood(IReadOnlyDictionary<string, Standing> standing) =>
        string.Join(", ", new[] { Parts.So1, Parts.So2 }.Select(p => $"{p.Value.ToUpperInvariant()} {standing.GetValueOrDefault(p.Value, Standing.Open).ToString().ToLowerInvariant()}"));
}
