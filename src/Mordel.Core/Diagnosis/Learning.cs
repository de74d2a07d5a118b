using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>One thing that lay in an opened part.</summary>
/// <param name="Repair">Which opening of which assembly; what was found at the same one counts as one repair.</param>
/// <param name="Family">Make and model.</param>
/// <param name="Part">The part.</param>
/// <param name="Lay">What lay there.</param>
public sealed record RepairFinding(Guid Repair, string Family, PartId Part, OpenedFinding Lay);

/// <summary>A fault with how often it was found.</summary>
/// <param name="Shipped">Its rate as it comes with Mordel.</param>
/// <param name="Found">In how many repairs it was found.</param>
/// <param name="Rate">The rate that a diagnosis works with.</param>
public sealed record LearnedFault(FaultRate Shipped, int Found, double Rate);

/// <summary>What a firm's own repairs have made of the rates of a body.</summary>
/// <param name="Body">The body.</param>
/// <param name="Family">The make and model that it is said for; null for all of the body.</param>
/// <param name="Repairs">In how many repairs it was looked.</param>
/// <param name="Faults">Every fault, in the order of the shipped rates.</param>
public sealed record LearnedRates(AssemblyBody Body, string? Family, int Repairs, ImmutableArray<LearnedFault> Faults)
{
    /// <summary>The rates, for a diagnosis.</summary>
    public ImmutableArray<FaultRate> Rates { get; } = [.. Faults.Select(f => f.Shipped with { Rate = f.Rate })];
}

/// <summary>Counts what repairs found, on top of the shipped rates.</summary>
public static class Learning
{
    /// <summary>
    /// The fault that something found in a part bears witness to: that under which it is likeliest to lie there. Null
    /// where it is likeliest in a sound part.
    /// </summary>
    /// <param name="body">The body.</param>
    /// <param name="part">The part.</param>
    /// <param name="lay">What lay there.</param>
    public static PartFault? FaultOf(AssemblyBody body, PartId part, OpenedFinding lay)
    {
        var (likeliest, most) = ((PartFault?)null, Likelihood.Of(lay, part, null));
        foreach (var rate in Diagnosis.Rates.For(body))
            if (rate.Fault.Part == part && Likelihood.Of(lay, part, rate.Fault) is var likely && likely > most)
                (likeliest, most) = (rate.Fault, likely);
        return likeliest;
    }

    /// <summary>
    /// The rates as repairs have moved them. Repairs of other families of the body count first; those of the family
    /// itself then count on top of what these made of the rates. Nothing counts twice.
    /// </summary>
    /// <remarks>
    /// A body is opened because something is wrong. So repairs say which of its parts it is, not how often anything is:
    /// the rates of what can be opened move against each other and keep their sum; those of shutoffs, cocks, kit and
    /// main stay.
    /// </remarks>
    /// <param name="body">The body.</param>
    /// <param name="findings">What was found in bodies of this kind.</param>
    /// <param name="family">Make and model; null for all alike.</param>
    public static LearnedRates From(AssemblyBody body, IReadOnlyCollection<RepairFinding> findings, string? family)
    {
        ArgumentNullException.ThrowIfNull(findings);
        var shipped = Diagnosis.Rates.For(body);
        var others = findings.Where(f => f.Family != family).ToList();
        var own = findings.Where(f => f.Family == family).ToList();
        var rates = With(body, With(body, shipped, others), own);
        var said = family is null ? others : own;
        var found = Found(body, said);
        return new(
            body,
            family,
            said.Select(f => f.Repair).Distinct().Count(),
            [.. shipped.Zip(rates, (s, now) => new LearnedFault(s, found.GetValueOrDefault(s.Fault), now.Rate))]
        );
    }

    private static ImmutableArray<FaultRate> With(
        AssemblyBody body,
        ImmutableArray<FaultRate> rates,
        List<RepairFinding> findings
    )
    {
        var openable = Evidence.Openable(body);
        var repairs = findings.Select(f => f.Repair).Distinct().Count();
        var moved = Diagnosis.Rates.With(rates, Found(body, findings), repairs);
        double Sum(ImmutableArray<FaultRate> of) => of.Where(r => openable.Contains(r.Fault.Part)).Sum(r => r.Rate);
        var scale = Sum(rates) / Math.Max(1e-9, Sum(moved));
        return
        [
            .. rates.Zip(moved, (was, now) =>
                openable.Contains(was.Fault.Part) ? now with { Rate = now.Rate * scale } : was
            ),
        ];
    }

    private static Dictionary<PartFault, int> Found(AssemblyBody body, List<RepairFinding> findings)
    {
        // There are many findings and few that differ.
        var faults = findings
            .Select(f => (f.Part, f.Lay))
            .Distinct()
            .ToDictionary(f => f, f => FaultOf(body, f.Part, f.Lay));
        return findings
            .Select(f => (f.Repair, Fault: faults[(f.Part, f.Lay)]))
            .Where(f => f.Fault is not null)
            .Distinct()
            .GroupBy(f => f.Fault!.Value)
            .ToDictionary(g => g.Key, g => g.Count());
    }
}
