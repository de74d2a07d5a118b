using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;

namespace Mordel.Core.Views;

/// <summary>Makes the view of a repair from its log.</summary>
public static partial class RepairViews
{
    /// <summary>The view.</summary>
    /// <param name="plan">What it is made with.</param>
    /// <param name="log">Its entries, in order.</param>
    /// <param name="place">Who is there, and which parts fit.</param>
    public static RepairView Build(RepairPlan plan, IReadOnlyCollection<RepairEntry> log, RepairPlace place)
    {
        ArgumentNullException.ThrowIfNull(log);
        ArgumentNullException.ThrowIfNull(place);
        var state = RepairReplay.Run(plan, log);
        var part = PartAtHand(state);
        var step = Step(state, part, place);
        return new()
        {
            Entries = log.Count,
            Stages =
            [
                .. RepairStages.All.Select(s => new RepairStageView(
                    s.Name,
                    state.Stage > s.To ? "past"
                        : state.Stage >= s.From ? "now"
                        : "ahead"
                )),
            ],
            LeftOff = state.LeftOff,
            Eyebrow = step.Eyebrow,
            Title = step.Title,
            Caution = step.Caution,
            Why = step.Why,
            Minded = step.Minded,
            Fields = step.Fields,
            Acts = step.Acts,
            Tools = [.. Tools(state)],
            Drawing = Drawing(state, part),
            Shows = Shows(state, part),
            Openings = [.. state.Openings.Select(o => Opening(state, o))],
            Used = RepairSummary.Used(state),
            Later = [.. state.FollowUps.Where(f => f.How is null).Select(RepairSummary.Stopgap)],
            Notes = [.. state.Notes],
            IsClosedUp = state.IsClosedUp,
        };
    }

    /// <summary>The part that is looked at, or put right, now; null in other stages.</summary>
    public static OpenedPart? PartAtHand(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Stage switch
        {
            RepairStage.Inspect => state.Now!.Parts.First(p => p.Found is null),
            RepairStage.Do => state.Now!.Parts.First(p => p.WantsAct),
            _ => null,
        };
    }

    /// <summary>What is open, drawn apart, with the step at hand; null where nothing is.</summary>
    public static string? Drawing(RepairState state, OpenedPart? part)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Now is { Sheet: { } sheet } open
            ? ExplodedRenderer.Draw(
                sheet,
                state.Stage == RepairStage.Assemble,
                state.Stage switch
                {
                    RepairStage.Open => sheet.Out.Count - open.Out.Length,
                    RepairStage.Assemble => sheet.In.Count - open.In.Length,
                    _ => sheet.Out.Count,
                },
                atHand: part?.Part.Id
            )
            : null;
    }

    /// <summary>What is said above the step.</summary>
    public static string Eyebrow(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        string Of(ImmutableArray<RepairStep> all) => $"{all.Length - state.Steps.Length + 1} of {all.Length}";
        string Way(bool isIn) => Of(RepairPlan.Steps(state.Now!.Number, state.Now.Sheet, isIn));
        var title = state.Now is { } open ? RepairSummary.Title(state, open) : "";
        return state.Stage switch
        {
            RepairStage.Prepare => $"Before it is opened, {Of(state.Plan.Prepare)}",
            RepairStage.Choose => state.Openings.IsEmpty ? "No pressure, no water" : "Everything is closed",
            RepairStage.Open => $"{title} comes apart, {Way(isIn: false)}",
            RepairStage.Inspect => $"{title}: what is found",
            RepairStage.Do => $"{title}: what is done",
            RepairStage.Assemble => $"{title} goes together, {Way(isIn: true)}",
            RepairStage.Pressurise => $"Closing up, {Of(state.Plan.Closing)}",
            _ => "Closed and under pressure",
        };
    }

    /// <summary>Whether CV1 is still suspect, so that the relief valve waits.</summary>
    public static bool MindsCheckOne(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Plan.Body.Parts.Any(p => p.Id == Parts.Relief)
            && !state.Openings.Any(o => o.Parts.Any(p => p.Of == Parts.Cv1 && p.Found is not null));
    }

    /// <summary>What a picture taken now shows.</summary>
    public static string Shows(RepairState state, OpenedPart? part)
    {
        ArgumentNullException.ThrowIfNull(state);
        return state.Now is not { } open ? "Overview"
            : part is null ? RepairSummary.Title(state, open)
            : $"{RepairSummary.Title(state, open)}, {part.Part.Name}";
    }

    private static RepairOpeningView Opening(RepairState state, RepairOpening opening) =>
        new(
            RepairSummary.Title(state, opening),
            [
                .. opening.Parts.Select(p =>
                    $"{p.Part.Name}: "
                    + (
                        p.Found is not { } found ? "not looked at"
                        : found.IsEmpty ? "in order"
                        : string.Join(", ", found.Select(f => f.Words))
                    )
                    + string.Concat(p.Acts.Select(a => $"; {a.Words()}"))
                ),
            ]
        );
}
