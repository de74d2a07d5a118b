using Mordel.Core.Catalogue;
using Mordel.Core.Dues;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Reports;

/// <summary>
/// Writes the report of a run from its setup, its log and its verdict: a pure function that reads nothing else.
/// </summary>
/// <param name="setup">What the run was made with.</param>
/// <param name="state">Where its log leads.</param>
/// <param name="verdict">How it was judged.</param>
/// <param name="log">Its entries with their arrivals.</param>
/// <param name="signing">The signature under it.</param>
/// <param name="zone">The zone in which people there read the clock.</param>
public sealed class ReportWriter(
    RunSetup setup,
    RunState state,
    Verdict verdict,
    IReadOnlyCollection<ReceivedEntry> log,
    Signing signing,
    TimeZoneInfo zone
)
{
    private readonly PrintedTimes times = new(zone);
    private readonly IReadOnlyList<EnteredFact> facts = EnteredFacts.Collect(setup.Plan, state);

    /// <summary>What stands where nothing was entered.</summary>
    public const string NotEntered = "not entered";

    /// <summary>The report.</summary>
    /// <param name="simulated">Whether it comes from made-up data.</param>
    public TestReport Write(bool simulated)
    {
        var (assembly, place, kit) = (setup.Assembly, setup.Place, setup.Kit);
        var serial = state.Serial?.Serial ?? assembly.Serial;
        return new()
        {
            Title =
                $"{place.Name}, {assembly.Type} {serial}, {times.Day(signing.At)}: "
                + (setup.Profile.Words.For(verdict.Overall.Id()) ?? verdict.Overall.Word()),
            Number = setup.Number,
            Outcome = verdict.Overall.Id(),
            Reason = verdict.Reason,
            Place =
            [
                new("Owner", $"{place.Owner}, {place.OwnerAddress}, {place.OwnerPhone}"),
                new("Place", $"{place.Name}, {place.Address}, {place.District}"),
                new("Stands", assembly.Location),
                new(
                    "Serves",
                    $"{assembly.Serves}; {assembly.Hazard} hazard, "
                        + $"{assembly.Protection}{(assembly.FireLine ? ", fire line" : "")}"
                ),
                new("Authority", place.Authority),
            ],
            Assembly =
            [
                new(
                    "Type",
                    $"{assembly.Type}, {assembly.Type.Title()}{(assembly.Body is { } body ? $", {body}" : "")}"
                ),
                new("Make", $"{assembly.Make} {assembly.Model}, {assembly.Size}"),
                new("Serial", Serial(serial)),
                new("Tag", assembly.Tag),
                new("Installed", $"{assembly.InstalledOn:d MMM yyyy}"),
            ],
            Test =
            [
                new(
                    "Procedure",
                    $"{setup.Plan.Procedure.Title} ({setup.Plan.Procedure.Id}, version "
                        + $"{setup.Plan.Procedure.Version}), {kit.Kit.Name} kit"
                ),
                .. setup.IsSeasonal ? [new ReportLine("Visit", "seasonal: the line put on or off")] : (ReportLine[])[],
                new("Rules", $"{setup.Profile.Name} ({setup.Profile.Id}), version {setup.Profile.Version}"),
                new(
                    "Test",
                    $"{times.Moment(log.Count == 0 ? setup.BegunAt : log.Min(e => e.Entry.At))} to "
                        + $"{times.Clock(signing.At)}{(Line is { } line ? $"; line pressure {line}" : "")}"
                ),
            ],
            Visit = [.. Visit()],
            NotEntered = [.. facts.Where(f => !f.IsEntered).Select(f => f.Name)],
            Items = [.. Items(verdict, setup.Profile.Words)],
            Times = [.. Times()],
            Before = [.. Before()],
            Warnings =
            [
                .. verdict.Warnings.Select(w => w.Text),
                .. verdict.Notes,
                .. state.GaugeOffset is null ? [] : GaugeNotes.Height(state, verdict),
                .. GaugeNotes.Zero(setup.Plan, state, verdict),
                .. Holds(),
            ],
            Repairs = RepairLines.InRun(setup.Repair, state),
            Repair = setup.Repair is { } repair ? new RepairLines(times).Of(repair) : null,
            Remarks = state.Remarks,
            Findings =
            [
                .. state.Findings.Select(f => f.Remark).OfType<string>().Distinct(),
                .. state.Notes.Select(n => ((EntryBody.Noted)n.Body).Text),
            ],
            Kit =
                $"{kit.Make} {kit.Model}, serial {kit.Serial}, calibrated {kit.CalibratedOn:d MMM yyyy} by "
                + $"{kit.CalibratedBy}, next due {kit.CalibrationDue:d MMM yyyy}",
            Tester = signing.Name,
            Certificate =
                $"{signing.Certificate.Number}"
                + (signing.Certificate.Class is { } kind ? $" ({kind})" : "")
                + $", {signing.Certificate.IssuedBy}, until "
                + $"{signing.Certificate.Until:d MMM yyyy}",
            SignedAt = times.Moment(signing.At),
            NextDue = $"{NextDue(signing):d MMM yyyy}",
            Ink = signing.Ink == Signing.TypedName ? null : signing.Ink,
            KitZero = GaugeNotes.ZeroBefore(setup.Plan, state)?.Amount,
            Form = setup.Profile.Words.OfReport(),
            Simulated = simulated,
        };
    }

    /// <summary>The items of a verdict as they are printed.</summary>
    /// <param name="verdict">The verdict.</param>
    /// <param name="words">What items are called there; null for the usual.</param>
    public static IEnumerable<ReportItem> Items(Verdict verdict, FormWords? words = null)
    {
        ArgumentNullException.ThrowIfNull(verdict);
        return verdict.Items.Select(i => new ReportItem(
            words?.For(i.Item.Id) ?? i.Item.Name,
            i.Value?.ToString() ?? "not taken",
            i.Limit is { } limit ? $"{limit} {i.Unit}" : "–",
            i.MarginText ?? "–",
            i.Result.Id(),
            i.WouldChange is { } change ? $"{i.Why} {change}" : i.Why
        ));
    }

    private string? Line =>
        (
            state.Given.GetValueOrDefault(TestItem.StaticLine)?.Value
            ?? (state.Line is { } line ? new ItemValue.Line(line) : null)
        )?.ToString();

    private DateOnly NextDue(Signing signing) =>
        DueEngine.After(
            setup.Assembly.Due,
            DateOnly.FromDateTime(times.Local(signing.At).DateTime),
            verdict.Overall == Overall.Pass,
            setup.Profile
        );

    private string Serial(string serial) =>
        state.Serial switch
        {
            null => serial,
            { Replaced: true } => $"{serial}, a replacement found in place of {setup.Assembly.Serial}",
            _ => $"{serial}, as on the plate; the register had {setup.Assembly.Serial}",
        };

    private IEnumerable<ReportLine> Visit()
    {
        yield return new("Permission", Permission());
        yield return new("Shutoffs", $"as found: {Stood("found-")}; as left: {Stood("left-")}");
        yield return new("Restored", Agreed("restoring", "after asking "));
        var confirmed = facts
            .Where(f =>
                f is { IsEntered: true, By.Body: EntryBody.Done or EntryBody.Saw } or { Id: "steps", IsEntered: true }
            )
            .Select(f => f.Name)
            .ToList();
        yield return new("Confirmed", confirmed.Count == 0 ? NotEntered : string.Join("; ", confirmed));
    }

    // Who allowed it on arrival; what was agreed beforehand stands beside it, or in its place.
    private string Permission()
    {
        var onSite = facts.Any(f => f is { Id: "permission", By: not null }) ? Agreed("permission", "given by ") : null;
        var before = setup.Consent is { } consent
            ? $"{consent.Name} on the owner’s page, {times.Moment(consent.At)}, for {consent.For}"
            : null;
        return (onSite, before) switch
        {
            (null, null) => NotEntered,
            (null, _) => $"given by {before}",
            (_, null) => onSite,
            _ => $"{onSite}; agreed beforehand by {before}",
        };
    }

    private string Agreed(string id, string how) =>
        facts.FirstOrDefault(f => f.Id == id) is { Text: { } who, By: { } entry }
            ? $"{how}{who}, {times.Moment(entry.At)}"
            : NotEntered;

    private string Stood(string prefix) =>
        string.Join(
            ", ",
            facts
                .Where(f => f.Id.StartsWith(prefix, StringComparison.Ordinal))
                .Select(f => $"{f.Name[..3]} {f.Text ?? NotEntered}")
        );

    private IEnumerable<string> Times()
    {
        if (setup.WrittenDownAt is { } later)
            yield return $"What the run was made with was written down on {times.Moment(later)}, after it had begun.";
        foreach (var odd in LogTimes.FindOdd(setup.BegunAt, log))
        {
            var entries = odd.Count == 1 ? "1 entry is" : $"{odd.Count} entries are";
            var span =
                odd.First == odd.Last
                    ? times.Moment(odd.First)
                    : $"{times.Moment(odd.First)} to {times.Moment(odd.Last)}";
            yield return odd.Kind switch
            {
                "before-begun" =>
                    $"{entries} dated before the run began ({span}; begun {times.Moment(setup.BegunAt)}).",
                "ahead" =>
                    $"{entries} dated up to {Long(odd.Most)} after arriving ({span}): the device's clock was ahead.",
                _ => $"{entries} dated up to {Long(odd.Most)} before arriving ({span}): kept on the device, or its "
                    + $"clock was behind.",
            };
        }

        foreach (var hasty in Pace.FindHasty(setup.Plan, state, setup.BegunAt))
            yield return $"{hasty} {(state.PaceExplained is { } why ? $"The tester: {why}" : "Nobody explained it.")}";
    }

    private static string Long(TimeSpan span) =>
        span.TotalDays >= 2 ? $"{(int)span.TotalDays} days"
        : span.TotalHours >= 2 ? $"{(int)span.TotalHours} hours"
        : $"{(int)Math.Ceiling(span.TotalMinutes)} minutes";

    // The sets before a repair come first, each with what was judged then; what was corrected or repeated follows.
    private IEnumerable<string> Before()
    {
        foreach (var set in state.Earlier)
        {
            var then = setup.Plan.VerdictOn(set);
            var read = then.Items.Where(i => i.Value is not null).Select(i => $"{i.Item.Name} {i.Value}");
            yield return $"Before the repair, {then.Overall.Word().ToLowerInvariant()}: "
                + $"{string.Join("; ", read)}. {set.Why}";
        }

        foreach (var (item, taken) in state.Readings.OrderBy(r => r.Key.Id, StringComparer.Ordinal))
        {
            if (taken.First is { } first)
                yield return $"{item.Name}: first written {first}, corrected to {taken.Reading}: {taken.Reason}.";
            if (taken.From is { } from)
                yield return $"{item.Name}: {taken.Reading}, {char.ToLowerInvariant(from[0])}{from[1..]}.";
        }

        foreach (var (item, held) in state.Held.OrderBy(r => r.Key.Id, StringComparer.Ordinal))
            yield return $"{item.Name}: {held.Reading} noted before the bleed was opened.";
        foreach (var (item, old) in state.Repeated)
            yield return $"{item.Name}: {old.Reading} in an attempt that was repeated.";
        foreach (var (item, value) in state.Transcribed.OrderBy(r => r.Key.Id, StringComparer.Ordinal))
            yield return $"{item.Name}: {value}, entered apart from the run sheet.";
    }

    private IEnumerable<string> Holds() =>
        state
            .Holds.Values.Where(h => h.EndedAt is not null)
            .OrderBy(h => h.StartedAt)
            .ThenBy(h => h.StepKey, StringComparer.Ordinal)
            .Select(h =>
                $"{state.Behind.FirstOrDefault(b => b.Planned.Key == h.StepKey)?.Planned.Step.Title ?? h.StepKey}: "
                + $"watched for {h.Seconds} s{(h.Start is { } a && h.End is { } b ? $", {a} to {b}" : "")}"
                + $"{(h.CutShort is { } cut ? $", cut short: {cut}" : "")}."
            );
}
