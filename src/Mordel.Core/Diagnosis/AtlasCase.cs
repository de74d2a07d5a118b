using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// One imagined assembly: what is wrong with it, and by lot its springs, its supply, its site and how much leaks. The
/// same numbers give the same case on every machine.
/// </summary>
/// <param name="Body">The body.</param>
/// <param name="Faults">What is wrong.</param>
/// <param name="Draw">Which of the set's cases, from 0.</param>
/// <param name="Seed">Another seed gives other cases of the same set: the atlas has 0.</param>
public sealed record AtlasCase(AssemblyBody Body, FaultSet Faults, int Draw, int Seed = 0)
{
    // Of a hundred leaks that somebody meets: a weep is often not noticed, a gush is rare.
    private static readonly (LeakSize Size, double Until)[] Leaking =
    [
        (LeakSize.Weep, 0.2),
        (LeakSize.Small, 0.65),
        (LeakSize.Large, 0.9),
        (LeakSize.Gush, 1),
    ];

    /// <summary>The sets that an atlas holds: nothing, every fault alone, every two of the assembly's own.</summary>
    public static IEnumerable<FaultSet> Sets(AssemblyBody body)
    {
        var all = Rates.For(body).Select(r => r.Fault).ToList();
        yield return FaultSet.None;
        foreach (var one in all)
            yield return new([one]);
        var own = all.Where(f => !f.IsOutside && f.Known != FaultKind.Blocked).ToList();
        for (var i = 0; i < own.Count; i++)
        for (var j = i + 1; j < own.Count; j++)
            if (own[i].Part != own[j].Part)
                yield return new([own[i], own[j]]);
    }

    /// <summary>Between what a spring of the body lies, psid: sound, or worn.</summary>
    public static (double Low, double High) SpringRange(AssemblyBody body, PartId part, bool worn)
    {
        ArgumentNullException.ThrowIfNull(body);
        var facts = body.Type.Facts();
        foreach (var range in facts.Drawn)
            if (range.Part == part)
                return !worn ? (range.Low, range.High)
                    : facts.FirstCheckAboveRelief is not null && part == Parts.Cv1 ? (1.2, 4.9)
                    : part == Parts.Relief ? (0.3, 1.9)
                    : (0.25, 0.95);
        return (0, 0);
    }

    /// <summary>What is true of it, with a kit.</summary>
    public Situation Situation(Kit kit)
    {
        var lot = new SeededRandom((Draw * 7919) + Seed, $"{Body.Type}/{Body.Name} {Faults}", 3);
        var springs = default(Springs);
        foreach (var range in Body.Type.Facts().Drawn)
        {
            var (low, high) = SpringRange(Body, range.Part, Faults.Has(range.Part, PartFault.SpringWeak));
            springs = springs.With(range.Part, lot.Between(low, high));
        }

        var supply = Math.Round(lot.Between(35, 100), 1);
        var site = Site(lot, supply);
        // Rounded, so that no machine's exponential makes another water.
        var leaks = Math.Round(Math.Exp(lot.Between(Math.Log(0.6), Math.Log(1.7))), 3);
        var faults = ImmutableArray.CreateBuilder<Fault>();
        var main = new MainSupply(supply);
        foreach (var fault in Faults.Faults)
        {
            var size = Size(lot);
            if (fault.Part == Parts.Supply)
                main = new(supply, lot.Between(7, 14), lot.Between(4, 16));
            else if (fault.Known is { } kind)
                faults.Add(new(fault.OfRig, kind, size, By(kind, lot)));
        }

        return new()
        {
            Rig = new(Body, kit),
            Springs = springs,
            Supply = main,
            SiteBehind = site,
            Faults = faults.ToImmutable(),
            Seed = Draw + 1,
            Sizes = Sizes.Usual.Times(leaks),
        };
    }

    private SitePipes Site(SeededRandom lot, double supply)
    {
        var (which, how) = (lot.Between(0, 1), lot.Between(0, 1));
        // No back pressure may ever come behind a vacuum breaker; where it does all the same it is a small one.
        if (Body.Type.Facts().IsVacuumBreaker)
            return which < 0.45 ? default
                : which < 0.9 ? new(SitePlumbing.OpenOutlet, Math.Round(-6 - (24 * how)))
                : new(SitePlumbing.OwnPressure, 0, Math.Round(4 + (26 * how), 1));
        // Where a site has a pressure of its own it is mostly above the main's: below it the main would only flow in.
        return which < 0.7 ? default
            : which < 0.84 ? new(SitePlumbing.OpenOutlet, Math.Round(-30 + (60 * how)))
            : new(SitePlumbing.OwnPressure, 0, Math.Round(supply * (0.95 + (0.65 * how)), 1));
    }

    private static LeakSize Size(SeededRandom lot)
    {
        var drawn = lot.Between(0, 1);
        foreach (var (size, until) in Leaking)
            if (drawn < until)
                return size;
        return LeakSize.Gush;
    }

    // psid that a needle rests off zero; inches that a gauge is held off its level.
    private static double By(FaultKind kind, SeededRandom lot)
    {
        var (much, sign) = (lot.Between(0, 1), lot.Between(0, 1) < 0.5 ? -1 : 1);
        return kind switch
        {
            FaultKind.ZeroOffset => sign * (0.25 + (0.55 * much)),
            FaultKind.GaugeHeight => sign * (4 + (12 * much)),
            _ => 0,
        };
    }
}
