using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>How a robot's search ended.</summary>
/// <param name="Truth">What was wrong.</param>
/// <param name="Last">The last diagnosis.</param>
/// <param name="Looks">How many looks it made.</param>
/// <param name="OpenedBody">Whether it opened the body.</param>
public sealed record RobotSearch(FaultSet Truth, Diagnosed Last, int Looks, bool OpenedBody)
{
    /// <summary>At which place the truth stands, from 0; -1 when it is not among the hypotheses.</summary>
    public int Place
    {
        get
        {
            for (var i = 0; i < Last.Hypotheses.Length; i++)
                if (Last.Hypotheses[i].Faults == Truth)
                    return i;
            return -1;
        }
    }

    /// <summary>Whether what stands first cannot be told from the truth, and the diagnosis says so.</summary>
    public bool SaysAlike => Place > 0 && Last.Alike.Any(g => g.Contains(0) && g.Contains(Place));
}

/// <summary>
/// Follows "next look" and nothing else in front of an assembly whose fault it does not know, with eyes that err as the
/// weighing assumes. For benches and tests.
/// </summary>
public static class Robot
{
    // It stops when it is so sure, when nothing is proposed any more, and when anybody would.
    private const double Sure = 0.95;
    private const int MostLooks = 12;

    /// <summary>Searches.</summary>
    /// <param name="atlas">The atlas.</param>
    /// <param name="hidden">What the model did with the hidden case.</param>
    /// <param name="truth">Its faults.</param>
    /// <param name="seed">Decides how the eyes err.</param>
    /// <param name="order">By which order looks are proposed.</param>
    public static RobotSearch Search(
        Atlas atlas,
        AtlasRow hidden,
        FaultSet truth,
        int seed,
        LookOrder order = LookOrder.Best
    )
    {
        ArgumentNullException.ThrowIfNull(atlas);
        ArgumentNullException.ThrowIfNull(hidden);
        ArgumentNullException.ThrowIfNull(truth);
        var lot = new SeededRandom(seed, truth.ToString(), 5);
        var evidence = new Evidence(atlas.Body, []);
        var (looks, opened) = (0, false);
        while (true)
        {
            var diagnosed = Diagnosing.Of(atlas, evidence, null, order);
            if (
                looks == MostLooks
                || diagnosed.Next.IsEmpty
                || (diagnosed.Hypotheses is [{ Weight: >= Sure }, ..] && looks > 0)
            )
                return new(truth, diagnosed, looks, opened);
            var next = diagnosed.Next[0];
            looks++;
            opened |= next.Tool == LookTool.Wrench;
            var seen = See(atlas, hidden, truth, evidence, next, lot);
            // What cannot be made ends the search.
            if (ReferenceEquals(seen, evidence))
                return new(truth, diagnosed, looks, opened);
            evidence = seen;
        }
    }

    /// <summary>A fault set by its chance: mostly one fault, else two.</summary>
    /// <param name="atlas">The atlas.</param>
    /// <param name="pair">Whether it is a pair.</param>
    /// <param name="seed">Decides which.</param>
    public static int Draw(Atlas atlas, bool pair, int seed)
    {
        ArgumentNullException.ThrowIfNull(atlas);
        var lot = new SeededRandom(seed, atlas.Name, 6);
        var rates = Rates.For(atlas.Body);
        var which = Enumerable
            .Range(0, atlas.Sets.Length)
            .Where(s => atlas.Sets[s].Faults.Length == (pair ? 2 : 1))
            .ToArray();
        return which[Pick(lot, [.. which.Select(s => Rates.Of(atlas.Sets[s], rates))])];
    }

    private static Evidence See(
        Atlas atlas,
        AtlasRow hidden,
        FaultSet truth,
        Evidence evidence,
        NextLook next,
        SeededRandom lot
    )
    {
        if (atlas.PortLooks.IndexOf(next.Id) is >= 0 and var port)
        {
            var answers = ServiceLooks.For(atlas.Body).First(l => l.Id == next.Id).CanShow;
            var told = answers[Pick(lot, [.. answers.Select(a => Likelihood.Of(a, hidden.Outlets[port]))])];
            return With(evidence, new Observed.PortSeen(next.Id, told) { Place = "" });
        }

        if (next.Opens is { } part)
        {
            var kinds = FoundNames.In(atlas.Body.Parts.First(p => p.Id == part).Kind).ToArray();
            var kind = truth.Of(part);
            return With(
                evidence,
                new Observed.PartOpened(part, kinds[Pick(lot, [.. kinds.Select(f => Likelihood.Of(f, part, kind))])])
                {
                    Place = "",
                }
            );
        }

        var school = Math.Max(0, RowFit.SchoolOf(atlas, evidence.Procedure));
        var seen = evidence with { Procedure = atlas.Schools[school].Id };
        // While the main swings nobody begins a test.
        if (hidden.Schools[school] is not { } test)
            return evidence;
        return With(seen, [.. Test(atlas.Schools[school], test, next.Id, seen, lot)]);
    }

    private static IEnumerable<Observed> Test(
        AtlasSchool school,
        SchoolRow test,
        string upTo,
        Evidence before,
        SeededRandom lot
    )
    {
        var known = before.Observations;
        var last = AtlasMaker.IndexOf(school, upTo);
        // Only when all is done is it known whether a shutoff was shown tight.
        var atTheEnd = school.Steps.Skip(last + 1).All(s => !s.IsCheckpoint);
        for (var step = 0; step < school.Steps.Length; step++)
        {
            var (key, sights) = (school.Steps[step].Key, school.Steps[step].Sights);
            if (step > last && !key.StartsWith(upTo + "/", StringComparison.Ordinal))
                continue;
            if (
                test.Steps[step] == AtlasRow.Reached
                && !sights.IsEmpty
                && !known.Any(o => o is Observed.SightMet m && m.Step == key)
            )
                yield return new Observed.SightMet(key, Observed.SightMet.None) { Place = "" };
            if (
                test.Steps[step] == 0
                && school.Steps[step].IsCheckpoint
                && !known.Any(o => o is Observed.SightMet m && m.Step == key)
            )
                yield return new Observed.SightMet(key, Observed.SightMet.NotReached) { Place = "" };
            for (var bit = 0; bit < sights.Length; bit++)
                if (
                    (test.Steps[step] & (1 << bit)) != 0
                    && !known.Any(o => o is Observed.SightMet m && m.Step == key && m.Sight == sights[bit])
                )
                {
                    var told = lot.Between(0, 1) < Likelihood.SightTold ? bit : lot.Next(sights.Length);
                    yield return new Observed.SightMet(key, sights[told]) { Place = "" };
                }

            foreach (var item in school.Steps[step].Items)
                if (
                    school.Items.IndexOf(item) is >= 0 and var at
                    && (!item.MayBeNotShown || atTheEnd)
                    && !float.IsNaN(test.Items[at])
                    && (test.Steps[step] & AtlasRow.Reached) != 0
                    && !known.Any(o => o is Observed.ItemRead r && r.Item == item)
                )
                {
                    known = known.Add(new Observed.ItemRead(item, Told(item, test.Items[at], lot)) { Place = "" });
                    yield return known[^1];
                }
        }
    }

    private static ItemValue Told(TestItem item, float value, SeededRandom lot) =>
        item.Kind switch
        {
            ItemKind.TightOrLeaks => value > 1.5
                ? new ItemValue.NotShown()
                : new ItemValue.Tightness(value > 0.5 != lot.Between(0, 1) < Likelihood.AnswerWrong),
            ItemKind.TrueOrFalse => new ItemValue.YesNo(value > 0.5 != lot.Between(0, 1) < Likelihood.AnswerWrong),
            ItemKind.LinePressure => new ItemValue.Line(new(Math.Round((decimal)value), LinePressureUnit.Psi)),
            // About a tenth either way: the sum of three lots is near enough to what hands and gauges do.
            _ => ItemValue.Of(
                Math.Max(
                    0,
                    Math.Round(
                        (decimal)(value + lot.Between(-0.1, 0.1) + lot.Between(-0.1, 0.1) + lot.Between(-0.1, 0.1)),
                        1
                    )
                ),
                DifferentialUnit.Psid
            ),
        };

    private static Evidence With(Evidence evidence, params Observed[] more) =>
        evidence with
        {
            Observations = evidence.Observations.AddRange(more),
        };

    private static int Pick(SeededRandom lot, double[] chances)
    {
        var left = lot.Between(0, chances.Sum());
        for (var i = 0; i < chances.Length; i++)
            if ((left -= chances[i]) < 0)
                return i;
        return chances.Length - 1;
    }
}
