using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Core.Rules;
using Mordel.Core.Standing;
using Mordel.Core.Units;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>By what the outcome of tests is set out.</summary>
public static class StandingDimensions
{
    /// <summary>All tests together.</summary>
    public const string Everything = "all";

    /// <summary>The areas of each branch together; shown where there are branches.</summary>
    public const string Branch = "branch";

    /// <summary>The dimension of which one is counted: branches are areas together.</summary>
    public static string CountedAs(string id) => id == Branch ? "area" : id;

    /// <summary>What may be chosen, with the question that it answers.</summary>
    public static readonly IReadOnlyList<(string Id, string Name, string Question)> All =
    [
        ("type", "type", "Which types fail the test?"),
        ("family", "family", "Which ways of building fail the test?"),
        ("make", "make", "Which makes fail the test?"),
        ("age", "age", "Do older assemblies fail more often?"),
        ("area", "area", "Where do assemblies fail the test?"),
        (Branch, "branch", "Which branches’ assemblies fail the test?"),
        ("season", "month", "In which months do tests fail?"),
    ];

    // The first year of each class of age.
    private static readonly int[] AgesFrom = [0, 2, 5, 10, 15, 20];

    /// <summary>The class of an age in full years, as it is kept.</summary>
    public static string AgeOf(int years) =>
        AgesFrom.Last(a => a <= Math.Max(0, years)).ToString("00", CultureInfo.InvariantCulture);

    /// <summary>What a class of age is called.</summary>
    public static string AgeName(string kept)
    {
        var of = Array.FindIndex(AgesFrom, a => AgeOf(a) == kept);
        return of < 0 ? kept
            : of + 1 == AgesFrom.Length ? $"{AgesFrom[of]} years and more"
            : $"{AgesFrom[of]} to {AgesFrom[of + 1] - 1} years";
    }
}

/// <summary>One judged item.</summary>
internal readonly record struct StandingItem(string Item, bool Failed);

/// <summary>One test, sealed here or brought in.</summary>
internal sealed record StandingTest(DateTimeOffset At, DateOnly Day, string Outcome)
{
    public IReadOnlyList<StandingItem> Items { get; init; } = [];

    /// <summary>What was brought in with it, by item; null where it was sealed here.</summary>
    public IReadOnlyDictionary<string, string>? Said { get; init; }
    public double Took { get; init; }
    public Guid TesterId { get; init; }
    public string ProcedureId { get; init; } = "";
}

/// <summary>Counts tests, assembly by assembly; what it holds grows with kinds and months, not with tests.</summary>
internal sealed class StandingTally(TimeProvider clock)
{
    public Dictionary<(string, string, string, int, bool), StandingCountRow> Counts { get; } = [];
    public Dictionary<(string, string, bool, int), PartYearRow> Years { get; } = [];
    public Dictionary<(string, Guid, string, int), DurationRow> Durations { get; } = [];
    public int Signed { get; private set; }
    public int Brought { get; private set; }
    public int LeftOpen { get; private set; }

    /// <summary>Counts all tests of an assembly.</summary>
    /// <param name="assembly">The assembly, with its place.</param>
    /// <param name="family">How it is built; null where nobody has said.</param>
    /// <param name="tests">Its tests, by time.</param>
    /// <param name="rules">By what values that were brought in are read; null where there are none.</param>
    public void Add(AssemblyRow assembly, string? family, IReadOnlyList<StandingTest> tests, SchoolRules? rules)
    {
        var again = false;
        var parts = new Dictionary<string, List<PartTest>>();
        foreach (var test in tests)
        {
            if (test.Said is null)
                Signed++;
            else
                Brought++;
            if (test.Day > clock.Today() || test.Outcome.Length == 0)
                continue;
            Count(assembly, family, test, again);
            again = test.Outcome switch
            {
                "fail" => true,
                "pass" => false,
                _ => again,
            };
            foreach (var part in Found(test, rules).GroupBy(f => f.Part, f => f.Failed))
            {
                if (!parts.TryGetValue(part.Key, out var known))
                    parts[part.Key] = known = [];
                known.Add(new(test.Day, part.Any(f => f)));
            }

            if (test.Said is null)
                Time(test.ProcedureId, test.TesterId, "", test.Took);
        }

        foreach (var (part, known) in parts)
        foreach (var year in PartLife.Of(assembly.InstalledOn, known))
        {
            var key = (assembly.Type, part, year.Mended, year.Year);
            if (!Years.TryGetValue(key, out var row))
                Years[key] = row = new()
                {
                    Type = assembly.Type,
                    Part = part,
                    Mended = year.Mended,
                    Year = year.Year,
                };
            row.Seen++;
            row.Failed += year.Failed ? 1 : 0;
        }
    }

    /// <summary>Counts how long a test, or a step of one, took.</summary>
    public void Time(string procedure, Guid tester, string step, double seconds)
    {
        if (Core.Standing.Durations.ClassOf(seconds) is not { } of)
        {
            LeftOpen += step.Length == 0 ? 1 : 0;
            return;
        }

        var key = (procedure, tester, step, of);
        if (!Durations.TryGetValue(key, out var row))
            Durations[key] = row = new()
            {
                ProcedureId = procedure,
                TesterId = tester,
                Step = step,
                Class = of,
            };
        row.Count++;
    }

    private void Count(AssemblyRow assembly, string? family, StandingTest test, bool again)
    {
        var years = (test.Day.DayNumber - assembly.InstalledOn.DayNumber) / 365;
        foreach (
            var (dimension, value) in new[]
            {
                (StandingDimensions.Everything, ""),
                ("type", assembly.Type),
                ("family", family ?? ""),
                ("make", assembly.Make),
                ("age", StandingDimensions.AgeOf(years)),
                ("area", assembly.Place!.District),
                ("season", test.Day.Month.ToString("00", CultureInfo.InvariantCulture)),
            }
        )
        {
            var month = StandingCountRow.MonthOf(test.Day);
            var key = (dimension, assembly.Type, value, month, again);
            if (!Counts.TryGetValue(key, out var row))
                Counts[key] = row = new()
                {
                    Dimension = dimension,
                    Type = assembly.Type,
                    Value = value,
                    Month = month,
                    Again = again,
                };
            row.Passed += test.Outcome == "pass" ? 1 : 0;
            row.Failed += test.Outcome == "fail" ? 1 : 0;
            row.Unfinished += test.Outcome is "pass" or "fail" ? 0 : 1;
        }
    }

    // What a test showed of each part. What was brought in says values and an outcome: a part is bad where the test
    // failed and its value does not meet today's rules.
    private static IEnumerable<(string Part, bool Failed)> Found(StandingTest test, SchoolRules? rules)
    {
        if (test.Said is null)
            return test
                .Items.Select(i => (TestItem.Named(i.Item)?.Shows?.Value, i.Failed))
                .Where(f => f.Value is not null)
                .Select(f => (f.Value!, f.Failed));
        if (test.Outcome is not ("pass" or "fail") || rules is null)
            return [];
        return from said in test.Said
            let item = TestItem.Named(said.Key)
            where item?.Shows is not null && rules.For(item) is not null
            let falls = FallsShort(said.Value, rules.For(item)!)
            where falls is not null
            select (item.Shows!.Value.Value, test.Outcome == "fail" && falls.Value);
    }

    // Null where it cannot be told.
    private static bool? FallsShort(string said, ItemRule rule)
    {
        if (rule.Criteria.OfType<Criterion.Tight>().Any())
            return said switch
            {
                "tight" => false,
                "leaks" => true,
                _ => null,
            };
        if (
            rule.Criteria.OfType<Criterion.AtLeast>().FirstOrDefault() is { } least
            && TestFields.Reading(said) is var (value, unit)
            && unit == least.Limit.Unit.Symbol()
        )
            return least.Strict ? value <= least.Limit.Amount : value < least.Limit.Amount;
        return null;
    }
}
