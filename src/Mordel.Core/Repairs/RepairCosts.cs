using System.Collections.Immutable;

namespace Mordel.Core.Repairs;

/// <summary>What may be done with an assembly that failed.</summary>
public enum RepairOption
{
    /// <summary>Open it, clean it, close it.</summary>
    Clean,

    /// <summary>Put a repair kit in.</summary>
    Kit,

    /// <summary>Replace the whole assembly.</summary>
    Replace,
}

/// <summary>
/// What the comparison rests on; money in whatever the installation counts in. Everything is shown and can be changed.
/// </summary>
public sealed record CostAssumptions
{
    /// <summary>An hour's work.</summary>
    public decimal LabourHour { get; init; } = 620;

    /// <summary>Going there and back, once.</summary>
    public decimal Travel { get; init; } = 380;

    /// <summary>The repair kit.</summary>
    public decimal KitPrice { get; init; } = 900;

    /// <summary>Days until the kit is there; 0 where it lies in the van or the store.</summary>
    public int KitDays { get; init; }

    /// <summary>Whether the maker still supplies it.</summary>
    public bool KitIsMade { get; init; } = true;

    /// <summary>A new assembly.</summary>
    public decimal AssemblyPrice { get; init; } = 7_500;

    /// <summary>Minutes to open, clean and close it.</summary>
    public int CleanMinutes { get; init; } = 40;

    /// <summary>Minutes to put a kit in.</summary>
    public int KitMinutes { get; init; } = 60;

    /// <summary>Minutes to replace it.</summary>
    public int ReplaceMinutes { get; init; } = 180;

    /// <summary>Minutes of a whole test.</summary>
    public int TestMinutes { get; init; } = 25;

    /// <summary>The chance that it fails again within a year when it was cleaned, 0 to 1.</summary>
    public double CleanFails { get; init; } = 0.12;

    /// <summary>The same after a kit.</summary>
    public double KitFails { get; init; } = 0.05;

    /// <summary>The same of a new one.</summary>
    public double NewFails { get; init; } = 0.02;

    /// <summary>How many years are looked at, 1 to 30.</summary>
    public int Years { get; init; } = 5;

    /// <summary>
    /// The chances of failing again from what is known: a body that has grown old fails oftener, a part that has failed
    /// before fails again when it is only cleaned, and so does one whose readings were on their way down; what only a
    /// new part puts right is not put right by cleaning.
    /// </summary>
    /// <param name="age">Years since it was put in.</param>
    /// <param name="repeats">How often the same part has been put right before.</param>
    /// <param name="forecast">The chance to fail at the next test by its readings, 0 to 1; 0 where none is
    /// told.</param>
    /// <param name="wantsPart">Whether something was found that asks for a new part.</param>
    public CostAssumptions With(double age, int repeats, double forecast, bool wantsPart = false)
    {
        var old = Math.Clamp((age - 5) * 0.004, 0, 0.1);
        return this with
        {
            CleanFails = Rounded(
                Math.Clamp(Math.Max(0.12 + old + (0.15 * repeats), Math.Max(forecast, wantsPart ? 0.6 : 0)), 0, 0.95)
            ),
            KitFails = Rounded(0.05 + old),
            NewFails = Rounded(0.02),
        };
    }

    private static double Rounded(double chance) => Math.Round(chance, 2);
}

/// <summary>What one option costs.</summary>
/// <param name="Option">The option.</param>
/// <param name="Now">What it costs now, the test after it included.</param>
/// <param name="LaterYears">What further failures will cost over the years, as expected.</param>
/// <param name="Failures">How many further failures are expected.</param>
public sealed record OptionCost(RepairOption Option, decimal Now, decimal LaterYears, double Failures)
{
    /// <summary>Now and later together.</summary>
    public decimal Total => Now + LaterYears;
}

/// <summary>Options compared, with a recommendation and what would change it.</summary>
/// <param name="Options">The options that can be had, in the order of the enumeration.</param>
/// <param name="Best">The one that costs least over the years.</param>
/// <param name="Says">The recommendation in a sentence.</param>
/// <param name="Changes">What would change it, a sentence each.</param>
public sealed record CostComparison(
    ImmutableArray<OptionCost> Options,
    OptionCost Best,
    string Says,
    ImmutableArray<string> Changes
);

/// <summary>
/// Compares cleaning, a kit and replacement: a pure function of its assumptions. A year is a trial: as it stands it
/// fails with its own chance; once it has failed a kit is put in, and from then on the kit's chance holds. A failure
/// costs a visit, the kit and the test after it. Nothing is discounted.
/// </summary>
public static class RepairCosts
{
    // What lies nearer than this is within what is guessed.
    private const decimal AboutTheSame = 0.05m;

    /// <summary>The comparison.</summary>
    public static CostComparison Compare(CostAssumptions a)
    {
        ArgumentNullException.ThrowIfNull(a);
        ImmutableArray<OptionCost> options = [.. Offered(a).Select(o => Of(o, a))];
        // The dearest now loses a tie: money that is not spent can still be.
        var best = options.OrderBy(o => o.Total).ThenBy(o => o.Now).First();
        return new(options, best, Says(options, best, a), [.. Changes(a, best)]);
    }

    /// <summary>What an option costs.</summary>
    public static OptionCost Of(RepairOption option, CostAssumptions a)
    {
        ArgumentNullException.ThrowIfNull(a);
        var failures = Failures(ChanceOf(option, a), AfterFailure(a), a.Years);
        return new(option, Round(NowOf(option, a)), Round(FailureCost(a) * (decimal)failures), failures);
    }

    /// <summary>
    /// How many failures are expected: before the first one a year fails with one chance, after it with another.
    /// </summary>
    /// <param name="first">The chance in a year before the first failure.</param>
    /// <param name="after">The chance in a year after it.</param>
    /// <param name="years">How many years.</param>
    public static double Failures(double first, double after, int years)
    {
        var (untouched, expected) = (1.0, 0.0);
        for (var year = 0; year < years; year++)
        {
            expected += (untouched * first) + ((1 - untouched) * after);
            untouched *= 1 - first;
        }

        return expected;
    }

    /// <summary>What an option is called.</summary>
    public static string Words(this RepairOption option) =>
        option switch
        {
            RepairOption.Clean => "Clean it",
            RepairOption.Kit => "Put a kit in",
            _ => "Replace it",
        };

    private static IEnumerable<RepairOption> Offered(CostAssumptions a) =>
        a.KitIsMade
            ? [RepairOption.Clean, RepairOption.Kit, RepairOption.Replace]
            : [RepairOption.Clean, RepairOption.Replace];

    private static double ChanceOf(RepairOption option, CostAssumptions a) =>
        option switch
        {
            RepairOption.Clean => a.CleanFails,
            RepairOption.Kit => a.KitFails,
            _ => a.NewFails,
        };

    // Where no kit is made, it is cleaned again.
    private static double AfterFailure(CostAssumptions a) => a.KitIsMade ? a.KitFails : a.CleanFails;

    private static decimal NowOf(RepairOption option, CostAssumptions a) =>
        option switch
        {
            RepairOption.Clean => Work(a, a.CleanMinutes + a.TestMinutes),
            // A kit that must be ordered costs the way a second time.
            RepairOption.Kit => a.KitPrice + Work(a, a.KitMinutes + a.TestMinutes) + (a.KitDays > 0 ? a.Travel : 0),
            _ => a.AssemblyPrice + Work(a, a.ReplaceMinutes + a.TestMinutes) + a.Travel,
        };

    private static decimal FailureCost(CostAssumptions a) =>
        a.Travel
        + Work(a, (a.KitIsMade ? a.KitMinutes : a.CleanMinutes) + a.TestMinutes)
        + (a.KitIsMade ? a.KitPrice : 0);

    private static decimal Work(CostAssumptions a, int minutes) => a.LabourHour * minutes / 60;

    private static decimal Round(decimal money) => Math.Round(money, 0, MidpointRounding.AwayFromZero);

    private static string Says(ImmutableArray<OptionCost> options, OptionCost best, CostAssumptions a)
    {
        var others = options.Where(o => o != best).Select(o => $"{Lower(Other(o.Option))} {o.Total:#,0}");
        var next = options.Where(o => o != best).MinBy(o => o.Total);
        if (next is not null && next.Total - best.Total < best.Total * AboutTheSame)
            return $"{best.Option.Words()}, though {Lower(Other(next.Option))} costs about the same: over {a.Years} "
                + $"years {best.Total:#,0}; {string.Join(", ", others)}.";
        return $"{best.Option.Words()}: over {a.Years} years it costs about {best.Total:#,0}; "
            + $"{string.Join(", ", others)}.";
    }

    // For each assumption in turn: where it would have to stand for another option to cost less.
    private static IEnumerable<string> Changes(CostAssumptions a, OptionCost best)
    {
        if (
            Turns(best, chance => a with { CleanFails = chance / 100.0 }, (int)Math.Round(a.CleanFails * 100), 100) is
            { } p
        )
            yield return $"{Other(p.Best)} costs less once {p.At} of 100 cleaned ones fail again within a year, "
                + $"not {a.CleanFails * 100:0}.";
        if (a.KitIsMade && Turns(best, price => a with { KitPrice = price }, (int)a.KitPrice, 20_000) is { } k)
            yield return $"{Other(k.Best)} costs less once the kit costs {k.At:#,0}, not {a.KitPrice:#,0}.";
        if (Turns(best, price => a with { AssemblyPrice = price }, (int)a.AssemblyPrice, 200_000) is { } n)
            yield return $"{Other(n.Best)} costs less once a new one costs {n.At:#,0}, not {a.AssemblyPrice:#,0}.";
        if (Turns(best, years => a with { Years = years }, a.Years, 30) is { } y)
            yield return $"{Other(y.Best)} costs less when {y.At} years are looked at, not {a.Years}.";
    }

    // The value nearest to the present one, either way, at which another option is the best.
    private static (int At, RepairOption Best)? Turns(
        OptionCost best,
        Func<int, CostAssumptions> with,
        int now,
        int most
    )
    {
        RepairOption BestAt(int value) => Cheapest(with(value));
        var up = First(value => BestAt(value) != best.Option, now + 1, most);
        var down = First(value => BestAt(now - value) != best.Option, 1, now - 1);
        (int At, int Away)[] found =
        [
            .. up is { } u ? new[] { (u, u - now) } : [],
            .. down is { } d ? new[] { (now - d, d) } : [],
        ];
        return found.Length == 0 ? null
            : found.MinBy(f => f.Away).At is var at ? (at, BestAt(at))
            : null;
    }

    // Once it turns it stays turned: the first value is found by halving.
    private static int? First(Func<int, bool> turned, int least, int most)
    {
        if (least > most || !turned(most))
            return null;
        while (least < most)
        {
            var middle = least + ((most - least) / 2);
            (least, most) = turned(middle) ? (least, middle) : (middle + 1, most);
        }

        return least;
    }

    private static RepairOption Cheapest(CostAssumptions a) =>
        Offered(a).Select(o => Of(o, a)).OrderBy(o => o.Total).ThenBy(o => o.Now).First().Option;

    private static string Lower(string words) => $"{char.ToLowerInvariant(words[0])}{words[1..]}";

    private static string Other(RepairOption option) =>
        option switch
        {
            RepairOption.Clean => "Cleaning",
            RepairOption.Kit => "A kit",
            _ => "A new one",
        };
}
