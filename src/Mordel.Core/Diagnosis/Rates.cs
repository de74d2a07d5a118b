using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// How often a fault is met on an assembly that somebody tests, or looks at because something is odd.
/// </summary>
/// <param name="Fault">The fault.</param>
/// <param name="Rate">Per assembly, 0 to 1.</param>
/// <param name="Why">Why this much.</param>
public sealed record FaultRate(PartFault Fault, double Rate, string Why);

/// <summary>
/// The shipped rates, all of them, each with its reason. They are judgements of what the handbook says is common and
/// what is rare, not counts; a firm's own repairs move them (<see cref="With"/>).
/// </summary>
public static class Rates
{
    /// <summary>
    /// As many repairs the shipped rates weigh as: a firm's first hundred move them half-way at the most.
    /// </summary>
    public const double ShippedWeighAs = 100;

    /// <summary>The rates for a body: its parts in flow order, then the kit and the main.</summary>
    public static ImmutableArray<FaultRate> For(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        var facts = body.Type.Facts();
        var rates = ImmutableArray.CreateBuilder<FaultRate>();
        void Add(PartId part, FaultKind kind, double rate, string why) => rates.Add(new(new(part, kind), rate, why));
        void Odd(PartId part, string kind, double rate, string why) => rates.Add(new(new(part, kind), rate, why));
        foreach (var part in body.Parts.Where(p => p.Id != Parts.Tc1 || facts.IsVacuumBreaker))
            switch (part.Kind)
            {
                case PartKind.Shutoff when part.Id == Parts.So1:
                    Add(part.Id, FaultKind.Leaks, 0.05, "It is seldom turned, and seats wear where it is.");
                    break;
                case PartKind.Shutoff:
                    Add(
                        part.Id,
                        FaultKind.Leaks,
                        0.07,
                        "As SO1; sites turn it more often, and grit settles behind the checks."
                    );
                    break;
                case PartKind.Check when part.Id == Parts.Cv1:
                    Add(
                        part.Id,
                        FaultKind.Leaks,
                        0.15,
                        "It meets the main's debris first: by far the commonest cause."
                    );
                    Odd(part.Id, PartFault.SpringWeak, 0.03, "Springs tire in the years between repairs.");
                    break;
                case PartKind.Check:
                    Add(part.Id, FaultKind.Leaks, 0.06, "What passes CV1 may lie on it; its spring is the weaker.");
                    Odd(part.Id, PartFault.SpringWeak, 0.03, "Springs tire in the years between repairs.");
                    break;
                case PartKind.Relief:
                    Add(
                        part.Id,
                        FaultKind.Leaks,
                        0.06,
                        "Every discharge may leave grit on its seat; its diaphragm ages."
                    );
                    Odd(part.Id, PartFault.SpringWeak, 0.03, "A tired spring or a stiff diaphragm opens it late.");
                    Add(
                        part.Id,
                        FaultKind.StuckClosed,
                        0.01,
                        "A blocked sensing passage or a bound stem: rare, and dangerous."
                    );
                    break;
                case PartKind.Inlet:
                    Add(part.Id, FaultKind.Leaks, 0.05, "Its disc seats on each charging, on whatever lies there.");
                    Add(part.Id, FaultKind.StuckClosed, 0.04, "It stands shut for a year at a time and sticks.");
                    Add(part.Id, FaultKind.Hangs, 0.03, "Dirt and bent guides stop it part-way.");
                    Odd(part.Id, PartFault.SpringWeak, 0.03, "Springs tire in the years between repairs.");
                    break;
                case PartKind.Cock:
                    Add(part.Id, FaultKind.Blocked, 0.01, "Scale grows in cocks that are not flushed.");
                    break;
            }
        Add(PartFault.Kit, FaultKind.HosesSwapped, 0.01, "The tester's own doing, soon seen.");
        Add(PartFault.Kit, FaultKind.AirInHoses, 0.01, "The tester's own doing: a purge cut short.");
        Add(PartFault.Kit, FaultKind.ZeroOffset, 0.015, "Gauges drift between two checks.");
        Add(PartFault.Kit, FaultKind.GaugeHeight, 0.015, "Where one hose is used, height counts and is forgotten.");
        if (body.Parts.Any(p => p.Kind == PartKind.Relief))
            Odd(Parts.Supply, PartFault.Swings, 0.03, "Pumps and large valves near by: a relief that spits with them.");
        return rates.ToImmutable();
    }

    /// <summary>
    /// The rates as a firm's own repairs have moved them: what was found counts on top of the shipped rates, which
    /// weigh as <see cref="ShippedWeighAs"/> repairs.
    /// </summary>
    /// <param name="shipped">The shipped rates.</param>
    /// <param name="found">How often each fault was found.</param>
    /// <param name="repairs">In how many repairs.</param>
    public static ImmutableArray<FaultRate> With(
        ImmutableArray<FaultRate> shipped,
        IReadOnlyDictionary<PartFault, int> found,
        int repairs
    )
    {
        ArgumentNullException.ThrowIfNull(found);
        ArgumentOutOfRangeException.ThrowIfNegative(repairs);
        return
        [
            .. shipped.Select(r =>
            {
                // A fault cannot be found more often than there were repairs, whatever a file says.
                var times = Math.Clamp(found.GetValueOrDefault(r.Fault), 0, repairs);
                var rate = ((r.Rate * ShippedWeighAs) + times) / (ShippedWeighAs + repairs);
                return r with { Rate = Math.Clamp(rate, 0.0005, 0.9) };
            }),
        ];
    }

    /// <summary>The chance of a set: each of its faults there, every other absent.</summary>
    /// <param name="set">The set.</param>
    /// <param name="rates">The rates.</param>
    public static double Of(FaultSet set, ImmutableArray<FaultRate> rates)
    {
        ArgumentNullException.ThrowIfNull(set);
        var chance = 1.0;
        foreach (var rate in rates)
            chance *= set.Has(rate.Fault.Part, rate.Fault.Kind) ? rate.Rate : 1 - rate.Rate;
        return chance;
    }
}
