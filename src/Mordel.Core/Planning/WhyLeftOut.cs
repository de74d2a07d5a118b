using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>
/// Says why a stop is in no round, by letting go of one constraint after the other until it would fit; the fewest that
/// must go are the reason.
/// </summary>
public sealed class WhyLeftOut
{
    private const int MostHelps = 4;

    private readonly PlanProblem problem;
    private readonly PlanBlock block;

    private WhyLeftOut(PlanProblem problem, PlanBlock block) => (this.problem, this.block) = (problem, block);

    // What stands against the work on a shift, were it all that there is to do; longer hours may help as well.
    private sealed record Try(PlanShift Shift, PlanTester Tester, ImmutableArray<PlanLimit> Limits, bool HoursToo);

    /// <summary>Why the stops of a block are left out of a plan.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="plan">The plan, without them.</param>
    /// <param name="block">The stops that are made in one visit.</param>
    public static ImmutableArray<LeftOut> Of(PlanProblem problem, Plan plan, PlanBlock block)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(block);
        return new WhyLeftOut(problem, block).Said(plan);
    }

    private ImmutableArray<LeftOut> Said(Plan plan)
    {
        var tries = Tries(block);
        if (tries.Count == 0)
            return Each([PlanLimit.Day], "Nobody works on these days.", []);
        if (tries.Exists(t => t.Limits.IsEmpty))
        {
            var room = new PlanRoom(problem, plan, block, [.. tries.Where(t => t.Limits.IsEmpty).Select(t => t.Shift)]);
            return Each([PlanLimit.Room], room.Says(), [.. room.WouldHelp().Take(MostHelps)]);
        }

        // Its stops one by one would fit: then it is their being made in one visit that keeps them out.
        if (block.Stops.Length > 1 && block.Stops.All(s => Tries(new([s])).Exists(t => t.Limits.IsEmpty)))
            return Each(
                [PlanLimit.Together],
                $"{PlanWords.And([.. block.Stops.Select(s => s.Name)])} are made in one visit of {block.Minutes} "
                    + "minutes, and nobody can make all of it.",
                ["It would go if each might be made by itself."]
            );
        // What is settled for somebody who works then is kept out by what stands against that.
        if (tries.FirstOrDefault(t => !t.Limits.Contains(PlanLimit.Pin)) is { } settled && Pinned is not null)
            tries = [settled];
        var fewest = tries.Min(t => t.Limits.Length);
        var nearest = tries.Where(t => t.Limits.Length == fewest).ToList();
        var limits = nearest
            .SelectMany(t => t.HoursToo ? [.. t.Limits, PlanLimit.Hours] : t.Limits)
            .Distinct()
            .Order()
            .ToImmutableArray();
        var reasons = nearest.SelectMany(t => t.Limits).ToHashSet();
        return Each(limits, Sentence(reasons), [.. nearest.SelectMany(Helps).Distinct().Take(MostHelps)]);
    }

    private ImmutableArray<LeftOut> Each(ImmutableArray<PlanLimit> limits, string says, ImmutableArray<string> helps) =>
        [.. block.Stops.Select(s => new LeftOut(s.Id, limits, says, helps))];

    private List<Try> Tries(PlanBlock alone) =>
        [.. problem.Shifts.Select(s => Alone(alone, s, problem.Tester(s.Tester)!))];

    private Try Alone(PlanBlock alone, PlanShift shift, PlanTester tester)
    {
        var limits = alone.Stops.SelectMany(s => Fitness.Against(s, tester, shift.Day)).ToHashSet();
        var hoursToo = false;
        if (!HasWay(alone, shift))
            limits.Add(PlanLimit.Way);
        else if (!Goes(alone, shift))
        {
            var (anytime, allDay) = (Goes(Anytime(alone), shift), Goes(alone, AllDay(shift)));
            hoursToo = anytime && allDay;
            if (anytime || !allDay)
                limits.Add(PlanLimit.Window);
            if (!anytime)
                limits.Add(PlanLimit.Hours);
        }

        return new(shift, tester, [.. limits.Order()], hoursToo);
    }

    private bool HasWay(PlanBlock alone, PlanShift shift) =>
        problem.Travel.Minutes(shift.Start, alone.Place, shift.Hours.From) is not null
        && problem.Travel.Minutes(alone.Place, shift.End, shift.Hours.From) is not null;

    private bool Goes(PlanBlock alone, PlanShift shift)
    {
        DayTimes.Of(problem, shift, alone.Stops, out var late);
        return late == 0;
    }

    /// <summary>The same work at any hour.</summary>
    public static PlanBlock Anytime(PlanBlock work)
    {
        ArgumentNullException.ThrowIfNull(work);
        return new([
            .. work.Stops.Select(s =>
                s with
                {
                    Windows = [new(0, Window.Day)],
                    Pin = s.Pin is { } pin ? pin with { At = null } : null,
                }
            ),
        ]);
    }

    // The whole day, and no meal.
    private static PlanShift AllDay(PlanShift shift) => shift with { Hours = new(0, Window.Day), Lunch = null };

    private PlanPin? Pinned => block.Stops.Select(s => s.Pin).FirstOrDefault(p => p is not null);

    private string Sentence(HashSet<PlanLimit> limits)
    {
        var (has, does) = (new List<string>(), new List<string>());
        if (limits.Contains(PlanLimit.Way))
            return $"No way is known to {problem.Places[block.Place].Name}.";
        if (limits.Contains(PlanLimit.Pin))
            return $"{Settled()}, who does not work then.";
        var not = Pinned is null ? "" : "not ";
        if (limits.Contains(PlanLimit.Certificate))
            has.Add(Certificate());
        if (limits.Contains(PlanLimit.Kit) || limits.Contains(PlanLimit.Calibration))
            has.Add($"{Kit()}{(limits.Contains(PlanLimit.Calibration) ? " in calibration" : "")}");
        if (limits.Contains(PlanLimit.Skill))
            has.Add(Training());
        if (limits.Contains(PlanLimit.Day))
            does.Add($"works on {PlanWords.Or([.. Days().Select(PlanWords.Day)])}");
        if (limits.Contains(PlanLimit.Window))
            does.Add($"is {not}free {Between()} for {block.Minutes} minutes of work");
        else if (limits.Contains(PlanLimit.Hours))
            does.Add($"has {not}hours enough for the way and {block.Minutes} minutes of work");
        if (Pinned is not null)
            return $"{Settled()}, who {PlanWords.And([.. has.Select(h => $"does not have {h}"), .. does])}.";
        return does.Count == 0
            ? $"No tester has {PlanWords.And(has)}."
            : $"No tester{(has.Count == 0 ? "" : $" with {PlanWords.And(has)}")} {PlanWords.And(does)}.";
    }

    private string Settled()
    {
        var pin = Pinned!;
        return $"It is settled for {problem.Tester(pin.Tester)?.Name ?? pin.Tester} on {PlanWords.Day(pin.Day)}";
    }

    private string Certificate() =>
        $"a certificate for {PlanWords.And([.. block.Stops.Select(s => s.Type).Distinct()])} at "
        + $"{PlanWords.And([.. block.Stops.Select(s => s.Authority).Distinct()])}";

    private string Kit() =>
        $"a {PlanWords.Or([.. block.Stops.SelectMany(s => s.Kits).Distinct()])} kit".Replace(
            "  ",
            " ",
            StringComparison.Ordinal
        );

    private string Training() =>
        $"training for a {PlanWords.And([.. block.Stops.SelectMany(s => s.Skills).Distinct()])}";

    private IEnumerable<DateOnly> Days() => block.Stops.SelectMany(s => s.Days).Distinct().Order();

    private string Between()
    {
        var windows = block.Stops.SelectMany(s => s.Windows).Distinct();
        return $"between {PlanWords.Or([.. windows.Select(w => $"{Window.Says(w.From)} and {Window.Says(w.Until)}")])}";
    }

    // One sentence for each way in which the constraints could be let go of.
    private IEnumerable<string> Helps(Try tried)
    {
        yield return $"It would go if {PlanWords.And([.. tried.Limits.Select(l => Change(l, tried))])}.";
        if (tried.HoursToo)
            yield return $"It would go if {PlanWords.And([.. tried.Limits.Select(l =>
                Change(l == PlanLimit.Window ? PlanLimit.Hours : l, tried))])}.";
    }

    private string Change(PlanLimit limit, Try tried)
    {
        var (shift, name, day) = (tried.Shift, tried.Tester.Name, PlanWords.Day(tried.Shift.Day));
        switch (limit)
        {
            case PlanLimit.Certificate:
                return $"{name} held {Certificate()}";
            case PlanLimit.Kit:
                return $"{name} had {Kit()}";
            case PlanLimit.Calibration:
                // Of those that are there and out of calibration one that the stops ask for, where there is one.
                var kinds = block.Stops.SelectMany(s => s.Kits).ToHashSet();
                var kit = tried
                    .Tester.Kits.Where(k => k.IsThere(shift.Day) && k.CalibrationDue < shift.Day)
                    .OrderBy(k => kinds.Count > 0 && !kinds.Contains(k.Kind))
                    .First();
                return $"kit {kit.Serial} of {name} were calibrated";
            case PlanLimit.Skill:
                return $"{name} had {Training()}";
            case PlanLimit.Day:
                return $"it might be on {day}";
            case PlanLimit.Window:
                var route = DayTimes.Of(problem, shift, Anytime(block).Stops, out var late);
                return late > 0
                    ? "the water might be off at any hour"
                    : $"the water might be off from {new Window(route.Visits[0].Begin, route.Visits[^1].End)} on {day}";
            case PlanLimit.Hours:
                var longer = DayTimes.Of(problem, AllDay(shift), block.Stops, out _);
                return $"{name} were on the road from {Window.Says(longer.Leave)} until {Window.Says(longer.Back)}";
            case PlanLimit.Pin:
                return $"{name} might go on {day}";
            default:
                return $"the way to {problem.Places[block.Place].Name} were known";
        }
    }
}
