using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// What to look at next: of what this person may do and the rig's state allows, that by which what is open is expected
/// to lessen most for its effort.
/// </summary>
internal sealed class NextLooks(Atlas atlas, Weighing weighing, Evidence evidence, LookOrder order)
{
    // Bits: less is not worth going there, nor taking an assembly apart. Seconds that any look costs beside its own.
    private const double WorthIt = 0.03,
        WorthOpening = 0.4,
        Overhead = 45;

    // Seconds: the kit fetched, laid out and hung up; a body opened and closed again.
    private const int SettingUp = 300,
        OpeningSeconds = 1500;

    private const int Most = 3,
        MostAnswers = 6;

    private const double TellsApart = 0.12;

    private static readonly string[] ShutFirst =
    [
        ServiceLooks.InService,
        ServiceLooks.So2Closed,
        ServiceLooks.Tc4Opened,
    ];
    private static readonly string[] FlowFirst =
    [
        ServiceLooks.InService,
        ServiceLooks.TapOpened,
        ServiceLooks.So2Closed,
    ];

    // A look, and for each answer how much of each set's weight would show it.
    private sealed record Candidate(NextLook Look, double[][] Shares, Func<int, (string Name, string Words)> Answer);

    /// <summary>The best looks, and which of the leading sets no look that is left can tell apart.</summary>
    /// <param name="leading">The sets that are shown.</param>
    public (ImmutableArray<NextLook> Next, ImmutableArray<ImmutableArray<int>> Alike) Find(IReadOnlyList<int> leading)
    {
        var all = Candidates().ToList();
        var before = Entropy(weighing.Sets, weighing.Nothing);
        var weighed = all.Where(c => c.Look.By <= evidence.By).Select(c => Weigh(c, before)).ToList();
        var fixedOrder = order switch
        {
            LookOrder.ShutFirst => ShutFirst,
            LookOrder.FlowFirst => FlowFirst,
            _ => [],
        };
        var next = weighed
            .Where(l => l.Gain > (l.Tool == LookTool.Wrench ? WorthOpening : WorthIt) || fixedOrder.Contains(l.Id))
            .OrderBy(l => Array.IndexOf(fixedOrder, l.Id) is >= 0 and var at ? at : fixedOrder.Length)
            .ThenByDescending(l => l.Gain / (l.Seconds + Overhead))
            .Take(Most);
        return ([.. next], Alike(all, leading));
    }

    private IEnumerable<Candidate> Candidates()
    {
        foreach (var look in ServiceLooks.For(atlas.Body))
            if (!look.CanShow.IsEmpty && !evidence.Made(look.Id) && Allowed(look))
                yield return OfPort(look);
        foreach (var candidate in OfTest())
            yield return candidate;
        foreach (var part in Evidence.Openable(atlas.Body))
            if (!evidence.Observations.Any(o => o is Observed.PartOpened opened && opened.Part == part))
                yield return OfOpening(part);
    }

    // The state of the rig: what must come right before has just been done.
    private bool Allowed(ServiceLook look) =>
        look.After is not { } after
        || evidence.Observations.OfType<Observed.PortSeen>().LastOrDefault() is { } last && last.Look == after;

    private Candidate OfPort(ServiceLook look)
    {
        var at = atlas.PortLooks.IndexOf(look.Id);
        return new(
            new(look.Id, look.Title, look.Ask, 0, look.Seconds, look.Tool, look.By, look.Caution, []),
            SharesOfPort(look.CanShow, at),
            a => (ServiceLooks.Name(look.CanShow[a]), ServiceLooks.Words(look.CanShow[a]))
        );
    }

    private IEnumerable<Candidate> OfTest()
    {
        var school = Math.Max(0, RowFit.SchoolOf(atlas, evidence.Procedure));
        var known = atlas.Schools[school];
        var reached = evidence
            .Observations.Select(o =>
                o switch
                {
                    Observed.SightMet met => AtlasMaker.IndexOf(known, met.Step),
                    // Whether a shutoff is tight comes along with many steps.
                    Observed.ItemRead { Item.MayBeNotShown: false } result => StepOf(known, result.Item),
                    _ => -1,
                }
            )
            .DefaultIfEmpty(-1)
            .Max();
        var began = reached < 0 ? 0 : known.Steps[reached].Seconds;
        var checkpoints = Checkpoints.Of(atlas, school);
        foreach (var point in checkpoints.Points.Where(p => p.Step > reached))
        {
            var step = known.Steps[point.Step];
            yield return new(
                new(
                    step.Key,
                    reached < 0
                        ? $"Test it by the run sheet, as far as: {step.Title}"
                        : $"Go on with the run sheet, as far as: {step.Title}",
                    "Answer each step as it shows.",
                    0,
                    Math.Max(60, step.Seconds - began) + (reached < 0 ? SettingUp : 0),
                    LookTool.Gauge,
                    Doer.Tester,
                    "The site is without water during the test: permission first, every shutoff slowly.",
                    []
                ),
                SharesOf(point),
                a => checkpoints.Words(point, a) is var words ? (words, words) : default
            );
        }
    }

    private static int StepOf(AtlasSchool school, TestItem item)
    {
        for (var i = 0; i < school.Steps.Length; i++)
            if (school.Steps[i].IsCheckpoint && school.Steps[i].Items.Contains(item))
                return i;
        return -1;
    }

    private Candidate OfOpening(PartId part)
    {
        var known = atlas.Body.Parts.First(p => p.Id == part);
        var found = FoundNames.In(known.Kind).ToArray();
        return new(
            new(
                NextLook.IdOfOpening(part),
                $"Open {known.Label} and look at disc, seat and spring",
                "What lies there?",
                0,
                OpeningSeconds,
                LookTool.Wrench,
                Doer.Repairer,
                "Both shutoffs shut and the pressure off before a bolt is loosened; a spring may jump out.",
                []
            ),
            [.. found.Select(f => Shares(s => weighing.Sets[s] * Likelihood.Of(f, part, atlas.Sets[s].Of(part))))],
            a => (found[a].Name(), found[a].Words())
        );
    }

    private double[] Shares(Func<int, double> ofSet)
    {
        var shares = new double[atlas.Sets.Length];
        for (var s = 0; s < shares.Length; s++)
            shares[s] = ofSet(s);
        return shares;
    }

    // The weight of each set by what its rows show there.
    private double[][] ByState(int states, Func<int, int> stateOf)
    {
        var weights = new double[states][];
        for (var i = 0; i < states; i++)
            weights[i] = new double[atlas.Sets.Length];
        for (var r = 0; r < weighing.Posterior.Length; r++)
            if (stateOf(r) is >= 0 and var state)
                weights[state][atlas.Rows[r].Set] += weighing.Posterior[r];
        return weights;
    }

    private double[][] SharesOfPort(ImmutableArray<PortState> answers, int at)
    {
        var shown = ByState(1 + (int)PortState.More, r => (int)atlas.Rows[r].Outlets[at]);
        return
        [
            .. answers.Select(a =>
                Shares(s =>
                {
                    var sum = 0.0;
                    for (var state = 0; state < shown.Length; state++)
                        sum += shown[state][s] * Likelihood.Of(a, (PortState)state);
                    return sum;
                })
            ),
        ];
    }

    // Rows of a school that was not performed show anything.
    private double[][] SharesOf(Checkpoints.Point point)
    {
        var count = point.Rows.Length;
        var shown = ByState(count, r => point.Shows[r]);
        var performed = Shares(s =>
        {
            var sum = 0.0;
            foreach (var state in shown)
                sum += state[s];
            return sum;
        });
        return
        [
            .. shown.Select(state =>
                Shares(s =>
                    (state[s] * (1 - Likelihood.SightWrong))
                    + ((performed[s] - state[s]) * Likelihood.SightWrong / Math.Max(1, count - 1))
                    + (Math.Max(0, weighing.Sets[s] - performed[s]) / count)
                )
            ),
        ];
    }

    private NextLook Weigh(Candidate candidate, double before)
    {
        var after = 0.0;
        var expect = new List<ExpectedAnswer>();
        var sets = new double[atlas.Sets.Length];
        for (var a = 0; a < candidate.Shares.Length; a++)
        {
            candidate.Shares[a].CopyTo(sets, 0);
            var nothing = weighing.Nothing / candidate.Shares.Length;
            var chance = sets.Sum() + nothing;
            if (chance < 1e-9)
                continue;
            for (var s = 0; s < sets.Length; s++)
                sets[s] /= chance;
            after += chance * Entropy(sets, nothing / chance);
            if (chance >= 0.02)
            {
                var (name, words) = candidate.Answer(a);
                expect.Add(new(name, words, chance, PointsTo(sets)));
            }
        }

        return candidate.Look with
        {
            Gain = Math.Max(0, before - after),
            Expect = [.. expect.OrderByDescending(e => e.Chance).Take(MostAnswers)],
        };
    }

    private ImmutableArray<FaultSet> PointsTo(double[] sets)
    {
        var most = sets.Max();
        return
        [
            .. Enumerable
                .Range(0, sets.Length)
                .Where(s => sets[s] >= 0.5 * most)
                .OrderByDescending(s => sets[s])
                .Take(3)
                .Select(s => atlas.Sets[s]),
        ];
    }

    private ImmutableArray<ImmutableArray<int>> Alike(List<Candidate> all, IReadOnlyList<int> leading)
    {
        var groups = new List<List<int>>();
        for (var i = 0; i < leading.Count; i++)
        {
            var group = groups.Find(g => IsAlike(all, leading[g[0]], leading[i]));
            if (group is null)
                groups.Add([i]);
            else
                group.Add(i);
        }

        return [.. groups.Where(g => g.Count > 1).Select(g => g.ToImmutableArray())];
    }

    private bool IsAlike(List<Candidate> all, int one, int other) =>
        all.TrueForAll(c =>
        {
            var apart = 0.0;
            foreach (var shares in c.Shares)
                apart += Math.Abs((shares[one] / weighing.Sets[one]) - (shares[other] / weighing.Sets[other]));
            return apart / 2 < TellsApart;
        });

    private static double Entropy(double[] sets, double nothing)
    {
        var bits = nothing > 1e-12 ? -nothing * Math.Log2(nothing) : 0;
        foreach (var weight in sets)
            if (weight > 1e-12)
                bits -= weight * Math.Log2(weight);
        return bits;
    }
}
