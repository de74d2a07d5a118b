using System.Globalization;
using Mordel.Core.Rules;

namespace Mordel.Core.Dues;

/// <summary>
/// Works out which test an assembly owes (handbook chapter 6): what has happened to it, by the rules of its authority.
/// An assembly in service owes exactly one test at any time, the one that is asked for first; one that is laid up or
/// taken out owes none. Pure: it knows no clock, and a day that has passed is not forgotten.
/// </summary>
public static class DueEngine
{
    /// <summary>The test that is owed; null where none is.</summary>
    /// <param name="facts">The assembly.</param>
    /// <param name="events">What happened to it, in any order; on one day in the order given.</param>
    /// <param name="versions">The versions of its authority's rules, in any order; at least one.</param>
    /// <param name="today">The day on which it is asked: rules that come into force later move the day by then.</param>
    /// <exception cref="ArgumentException">There are no rules.</exception>
    public static Obligation? Owed(
        DueFacts facts,
        IEnumerable<DueEvent> events,
        IReadOnlyCollection<Profile> versions,
        DateOnly today
    )
    {
        ArgumentNullException.ThrowIfNull(facts);
        ArgumentNullException.ThrowIfNull(versions);
        if (versions.Count == 0)
            throw new ArgumentException("An authority works by some rules.", nameof(versions));
        var standing = Standing.After(events);
        if (standing.Service != Service.InService)
            return null;
        var inTurn = versions.OrderBy(v => v.InForceFrom).ThenBy(v => v.Version).ToList();
        var at = Math.Max(0, inTurn.FindLastIndex(v => v.InForceFrom <= today));
        var owed = First(facts, standing, inTurn[at]);
        foreach (var next in inTurn.Skip(at + 1))
        {
            // What is owed before new rules begin is owed by the old ones.
            if (owed.Day < next.InForceFrom)
                break;
            var then = First(facts, standing, next);
            var day = then.Day < next.InForceFrom ? next.InForceFrom : then.Day;
            if (day != owed.Day)
                owed = then with
                {
                    Day = day,
                    Until = then.Until < day ? day : then.Until,
                    Why = $"{then.Why} By the rules in force from {Said(next.InForceFrom)}.",
                };
        }

        return owed;
    }

    /// <summary>Whether an assembly is in service after all that happened to it, in any order.</summary>
    public static Service ServiceAfter(IEnumerable<DueEvent> events) => Standing.After(events).Service;

    /// <summary>When the next test is due after one on a day, by the rules that it was judged by.</summary>
    /// <param name="facts">The assembly, as it was tested.</param>
    /// <param name="tested">The day of the test.</param>
    /// <param name="passed">Whether it passed.</param>
    /// <param name="rules">The rules.</param>
    public static DateOnly After(DueFacts facts, DateOnly tested, bool passed, Profile rules) =>
        Owed(facts, [new DueEvent.Tested(tested, passed)], [rules], tested)!.Day;

    // Of all that asks for a test, what asks first; of those on the same day, what is graver.
    private static Obligation First(DueFacts facts, Standing standing, Profile rules) =>
        Asked(facts, standing, rules).OrderBy(o => o.Day).ThenByDescending(o => o.Cause).First();

    private static IEnumerable<Obligation> Asked(DueFacts facts, Standing standing, Profile rules)
    {
        if (standing.Announced is { } said)
            yield return Periodic(
                DueCause.Announced,
                said.Due,
                rules,
                $"The authority’s list of {Said(said.Day)} gives this day."
            );
        else if (standing.Passed is { } passed)
            yield return AfterPass(facts, passed, rules);
        else if (!standing.HasFailed)
            yield return Periodic(
                DueCause.Installed,
                InUse(facts, facts.InstalledOn.AddDays(rules.EventDays)),
                rules,
                $"Installed on {Said(facts.InstalledOn)}, and no passed test is known."
            );
        foreach (var pending in standing.Pending)
            yield return Pending(facts, pending, rules);
    }

    private static Obligation AfterPass(DueFacts facts, DateOnly passed, Profile rules)
    {
        var months = rules.MonthsFor(facts.Type, facts.Hazard, facts.Use);
        var by = passed.AddMonths(months);
        var every = $"Passed on {Said(passed)}; every {months} months for {Kind(facts)}.";
        if (facts.Season is not { } season)
            return Periodic(DueCause.Interval, by, rules, every);
        var start = season.StartFrom(passed.AddDays(1));
        var startUp = start.AddDays(rules.StartUpDays);
        // A line that was tested while it was being put on is not put on again before the next year.
        if (passed >= start.AddDays(-StartUpBefore))
            startUp = season.StartFrom(start.AddDays(1)).AddDays(rules.StartUpDays);
        return by < startUp && season.Includes(by)
            ? Periodic(DueCause.Interval, by, rules, every)
            : Periodic(
                DueCause.StartUp,
                startUp,
                rules,
                $"A seasonal line ({season.Said}): tested within {rules.StartUpDays} days of its start-up."
            );
    }

    /// <summary>Days before a season's first day from which on a test is that of the start-up.</summary>
    public const int StartUpBefore = 21;

    private static Obligation Pending(DueFacts facts, (DueCause Cause, DateOnly Day) pending, Profile rules)
    {
        var (cause, day) = pending;
        var (days, why) = cause switch
        {
            DueCause.Failed => (
                rules.RetestDays,
                $"Failed on {Said(day)}; to be put right and tested within {rules.RetestDays} days."
            ),
            DueCause.NotFinished => (
                rules.RetestDays,
                $"The test of {Said(day)} came to no result; to be made within {rules.RetestDays} days."
            ),
            DueCause.Repaired => (
                rules.RetestDays,
                $"Repaired on {Said(day)}; to be tested within {rules.RetestDays} days."
            ),
            DueCause.Doubted => (
                rules.RetestDays,
                $"The kit of its last test was found wrong on {Said(day)}; to be tested again within "
                    + $"{rules.RetestDays} days."
            ),
            DueCause.Relocated => (rules.EventDays, $"Moved on {Said(day)}; to be tested before it is relied on."),
            DueCause.Incident => (rules.EventDays, $"Water ran back on {Said(day)}, or may have: to be tested."),
            DueCause.PutBack => (0, $"Put back into service on {Said(day)}; to be tested before it is relied on."),
            _ => throw new ArgumentOutOfRangeException(nameof(pending)),
        };
        var by = InUse(facts, day.AddDays(days));
        return new(
            cause,
            by,
            by,
            why,
            facts.Hazard == "high"
                ? "A high hazard: the authority may shut the water off at once."
                : "The authority may order the water off."
        );
    }

    private static Obligation Periodic(DueCause cause, DateOnly day, Profile rules, string why) =>
        new(
            cause,
            day,
            day.AddDays(rules.GraceDays),
            why,
            rules.GraceDays > 0
                ? $"After {rules.GraceDays} days of grace a second notice, then a warning that the water is shut off."
                : "A second notice, then a warning that the water is shut off."
        );

    // A drained line is tested when it is put on.
    private static DateOnly InUse(DueFacts facts, DateOnly day) =>
        facts.Season is { } season && !season.Includes(day) ? season.StartFrom(day) : day;

    private static string Kind(DueFacts facts)
    {
        var article = facts.Type.Name is ['R' or 'S', ..] ? "an" : "a";
        var use = facts.Use is { Length: > 0 } said ? $", {said}" : "";
        return $"{article} {facts.Type} on a {facts.Hazard} hazard{use}";
    }

    private static string Said(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
