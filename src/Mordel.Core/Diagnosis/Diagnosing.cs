using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// Says what may be wrong and what to look at next, by comparing what was seen with what the water model does in an
/// atlas of imagined assemblies. It holds no tree and no rule for any symptom.
/// </summary>
public static class Diagnosing
{
    // Hypotheses lighter than this go into the rest; how many are shown; how many are asked whether they can be told
    // apart, and from which weight on.
    private const double Shown = 0.002;
    private const int MostShown = 16,
        Leading = 6;
    private const double LeadingFrom = 0.02;

    // An observation goes with a hypothesis when it is at least so likely there, measured by how likely it could be;
    // it does not when it is less than the other.
    private const double Goes = 0.3,
        DoesNotGo = 0.12;

    // From this weight of "nothing of this" on the evidence contradicts itself; and when one observation alone is
    // against all the others by so many nats.
    private const double Doubtful = 0.2,
        AgainstAll = 2.5;

    /// <summary>The most observations that are taken.</summary>
    public const int MostObservations = 500;

    /// <summary>Diagnoses.</summary>
    /// <param name="atlas">The atlas of the evidence's body.</param>
    /// <param name="evidence">What was seen.</param>
    /// <param name="rates">How often faults are met; the shipped ones when left out.</param>
    /// <param name="order">By which order looks are proposed.</param>
    /// <exception cref="ArgumentException">The atlas is of another body, or there is too much.</exception>
    public static Diagnosed Of(
        Atlas atlas,
        Evidence evidence,
        ImmutableArray<FaultRate>? rates = null,
        LookOrder order = LookOrder.Best
    )
    {
        ArgumentNullException.ThrowIfNull(atlas);
        ArgumentNullException.ThrowIfNull(evidence);
        if (atlas.Body.Type != evidence.Body.Type)
            throw new ArgumentException($"The atlas is of a {atlas.Body.Type}.", nameof(atlas));
        if (evidence.Observations.Length > MostObservations)
            throw new ArgumentException("Too many observations.", nameof(evidence));
        var weighing = new Weighing(atlas, rates ?? Rates.For(atlas.Body), evidence);
        var leading = Enumerable
            .Range(0, atlas.Sets.Length)
            .Where(s => weighing.Sets[s] >= Shown)
            .OrderByDescending(s => weighing.Sets[s])
            .ThenBy(s => s)
            .Take(MostShown)
            .ToList();
        var hypotheses = leading.Select(s => Describe(atlas, weighing, evidence, s)).ToImmutableArray();
        var (next, alike) = new NextLooks(atlas, weighing, evidence, order).Find([
            .. leading.Where(s => weighing.Sets[s] >= LeadingFrom).Take(Leading),
        ]);
        return new(
            atlas.Name,
            evidence,
            hypotheses,
            Math.Max(0, 1 - hypotheses.Sum(h => h.Weight)),
            Contradictions(weighing, evidence),
            alike,
            next
        );
    }

    /// <summary>An observation as a line: <c>so2-closed: still</c>.</summary>
    public static string Line(Observed observed) =>
        observed switch
        {
            Observed.PortSeen p => $"{p.Look}: {ServiceLooks.Name(p.Seen)}",
            Observed.Unsure u => $"{u.Look}: unsure",
            Observed.LineRead l => string.Create(CultureInfo.InvariantCulture, $"line-pressure: {l.Psi:0.#} psi"),
            Observed.SightMet m => $"{m.Step}: {m.Sight}",
            Observed.ItemRead r => $"{r.Item.Id}: {r.Value}",
            Observed.PartOpened o => $"{o.Part} opened: {o.Lay.Name()}",
            _ => "",
        };

    /// <summary>An observation as a sentence for people.</summary>
    /// <param name="observed">The observation.</param>
    /// <param name="body">The body it is of.</param>
    /// <param name="procedure">The school that its sights are of.</param>
    public static string Sentence(Observed observed, AssemblyBody body, string? procedure) =>
        observed switch
        {
            Observed.PortSeen p => $"{ServiceLooks.For(body).First(l => l.Id == p.Look).Done}: "
                + ServiceLooks.Words(p.Seen).ToLowerInvariant(),
            Observed.Unsure u => $"{ServiceLooks.For(body).First(l => l.Id == u.Look).Done}: not sure",
            Observed.LineRead l => string.Create(CultureInfo.InvariantCulture, $"Line pressure: {l.Psi:0.#} psi"),
            Observed.SightMet m =>
                $"{SheetWords.Title(procedure ?? "", m.Step)}: {SheetWords.Seen(procedure ?? "", m.Step, m.Sight)}",
            Observed.ItemRead r => $"{r.Item.Name}: {r.Value}",
            Observed.PartOpened o => $"{body.Parts.First(p => p.Id == o.Part).Label} opened: {o.Lay.Words()}",
            _ => "",
        };

    private static Hypothesis Describe(Atlas atlas, Weighing weighing, Evidence evidence, int set)
    {
        var explains = ImmutableArray.CreateBuilder<int>();
        var leaves = ImmutableArray.CreateBuilder<int>();
        for (var e = 0; e < evidence.Observations.Length; e++)
        {
            var likely = weighing.Of(e, set);
            if (likely >= Goes)
                explains.Add(e);
            else if (likely < DoesNotGo)
                leaves.Add(e);
        }

        return new(atlas.Sets[set], weighing.Sets[set], explains.ToImmutable(), leaves.ToImmutable())
        {
            Row = weighing.BestRow(set),
        };
    }

    private static ImmutableArray<Contradiction> Contradictions(Weighing weighing, Evidence evidence)
    {
        var count = evidence.Observations.Length;
        if (count < 2)
            return [];
        // The observation that the rest is best rid of. Of very many only those are tried that the best rows do not
        // expect.
        var (worst, gain) = (-1, 0.0);
        var tried = Enumerable.Range(0, count).OrderBy(weighing.Expected).Take(24);
        foreach (var e in tried)
        {
            var without = weighing.FitsWithout(e) - weighing.Fits;
            if (without > gain)
                (worst, gain) = (e, without);
        }

        return worst >= 0 && (gain > AgainstAll || (weighing.Nothing > Doubtful && gain > 1))
            ?
            [
                new(
                    worst,
                    $"{Line(evidence.Observations[worst])} does not go with the rest: whatever is wrong, something "
                        + "else would have been seen. Look at it again."
                ),
            ]
            : [];
    }
}
