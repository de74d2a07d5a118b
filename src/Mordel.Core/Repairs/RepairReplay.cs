using System.Collections.Immutable;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Repairs;

/// <summary>Plays a repair's log: a pure function of plan and entries.</summary>
public static class RepairReplay
{
    /// <summary>Where the log leads.</summary>
    /// <param name="plan">What the repair is made with.</param>
    /// <param name="entries">The log in its order.</param>
    public static RepairState Run(RepairPlan plan, IReadOnlyCollection<RepairEntry> entries)
    {
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(entries);
        var back = entries.Select(e => e.Body).OfType<RepairBody.TookBack>().Select(b => b.Of).ToHashSet();
        var stands = entries.Where(e => !back.Contains(e.Id) && e.Body is not RepairBody.TookBack).ToList();
        var done = stands.Select(e => e.Body).OfType<RepairBody.Done>().Select(d => d.Step).ToHashSet();
        var permission = stands.Select(e => e.Body).OfType<RepairBody.Agreed>().LastOrDefault()?.Who;
        if (permission is not null)
            done.Add(RepairPlan.Permission);
        var settled = stands
            .Select(e => e.Body)
            .OfType<RepairBody.Settled>()
            .GroupBy(s => s.Of)
            .ToDictionary(g => g.Key, g => g.First().How);
        var openings = new List<RepairOpening>();
        foreach (var opened in stands.Select(e => e.Body).OfType<RepairBody.CoverOpened>())
            openings.Add(Opening(plan, openings.Count + 1, opened, stands, done, settled));
        var (stage, steps) = Where(plan, openings, done);
        return new()
        {
            Plan = plan,
            Stage = stage,
            Steps = steps,
            Openings = [.. openings],
            Permission = permission,
            Used = [.. stands.Select(e => e.Body).OfType<RepairBody.PartUsed>()],
            Photos = [.. stands.Select(e => e.Body).OfType<RepairBody.Pictured>()],
            Notes = [.. stands.Select(e => e.Body).OfType<RepairBody.Noted>().Select(n => n.Text)],
            FollowUps = [.. stands.Select(e => FollowUpOf(plan, openings, e, settled)).OfType<FollowUp>()],
            LeftOff = stands is [.., { Body: RepairBody.LeftOff left }] ? left.Reason : null,
            Last = stands.LastOrDefault(e => e.Body is not (RepairBody.Pictured or RepairBody.Settled)),
        };
    }

    // Preparing comes first; then one cover at a time; then closing up, when somebody has begun it.
    private static (RepairStage, ImmutableArray<RepairStep>) Where(
        RepairPlan plan,
        List<RepairOpening> openings,
        HashSet<string> done
    )
    {
        ImmutableArray<RepairStep> Left(ImmutableArray<RepairStep> all) => [.. all.Where(s => !done.Contains(s.Key))];
        if (Left(plan.Prepare) is { Length: > 0 } before)
            return (RepairStage.Prepare, before);
        if (openings is [.., { IsClosed: false } open])
            return (
                open.Stage,
                open.Stage == RepairStage.Open ? open.Out
                : open.Stage == RepairStage.Assemble ? open.In
                : []
            );
        if (!done.Contains(RepairPlan.CloseUp))
            return (RepairStage.Choose, []);
        return Left(plan.Closing) is { Length: > 0 } after ? (RepairStage.Pressurise, after) : (RepairStage.Retest, []);
    }

    private static RepairOpening Opening(
        RepairPlan plan,
        int number,
        RepairBody.CoverOpened opened,
        List<RepairEntry> stands,
        HashSet<string> done,
        Dictionary<EntryId, string> settled
    )
    {
        var sheet = opened.Sheet == OutsideSheet.Id ? null : plan.SheetOf(opened.Sheet);
        var parts = sheet?.Parts ?? OutsideSheet.Of(plan.Body);
        return new(
            number,
            opened.Sheet,
            opened.Part,
            sheet,
            [
                .. parts
                    .Where(p => Inspections.LookFor(p.Form).Length > 0)
                    .Select(p => Part(plan, p, p.Of ?? opened.Part ?? Only(sheet, plan), number, stands, settled)),
            ],
            [.. RepairPlan.Steps(number, sheet, isIn: false).Where(s => !done.Contains(s.Key))],
            [.. RepairPlan.Steps(number, sheet, isIn: true).Where(s => !done.Contains(s.Key))]
        );
    }

    // A sheet that opens one part alone is about that part.
    private static PartId? Only(BenchSheet? sheet, RepairPlan plan) =>
        sheet?.Family.OutOf(plan.Body).ToList() is [var only] ? only : null;

    private static OpenedPart Part(
        RepairPlan plan,
        BenchPart part,
        PartId? of,
        int opening,
        List<RepairEntry> stands,
        Dictionary<EntryId, string> settled
    )
    {
        var found = stands
            .Select(e => e.Body)
            .OfType<RepairBody.Inspected>()
            .LastOrDefault(i => i.Opening == opening && i.Part == part.Id);
        var stopgap = stands.LastOrDefault(e =>
            e.Body is RepairBody.Stopgap s && s.Opening == opening && s.Part == part.Id
        );
        List<RepairAct> acts =
        [
            .. stands
                .Select(e => e.Body)
                .OfType<RepairBody.Acted>()
                .Where(a => a.Opening == opening && a.Part == part.Id)
                .Select(a => a.Act)
                .Distinct(),
        ];
        var opened = new OpenedPart(part, of)
        {
            Found = found is null ? null : [.. Inspections.LookFor(part.Form).Where(f => found.Found.Contains(f.Id))],
            Acts = [.. acts],
            TurnedHolds = plan.TurnedDiscHolds,
        };
        return stopgap is null ? opened : opened with { FollowUp = Of(plan, opened, stopgap, settled) };
    }

    private static FollowUp? FollowUpOf(
        RepairPlan plan,
        List<RepairOpening> openings,
        RepairEntry entry,
        Dictionary<EntryId, string> settled
    )
    {
        if (entry.Body is not RepairBody.Stopgap stopgap)
            return null;
        var opening = openings.Find(o => o.Number == stopgap.Opening);
        if (opening?.Parts.FirstOrDefault(p => p.Part.Id == stopgap.Part) is not { } part)
            return null;
        return Of(plan, part, entry, settled);
    }

    private static FollowUp Of(RepairPlan plan, OpenedPart part, RepairEntry entry, Dictionary<EntryId, string> settled)
    {
        var stopgap = (RepairBody.Stopgap)entry.Body;
        var act = part.Acts is [.., var last] ? last : default;
        return new(
            entry.Id,
            $"{plan.NameOf(part.Part, part.Of, ": ")} {act.Words()}",
            stopgap.Due,
            stopgap.Order,
            stopgap.Told,
            settled.GetValueOrDefault(entry.Id)
        );
    }
}
