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

    // What each answer does to a row: chances of the answers by row.
    private sealed record Candidate(
        NextLook Look,
        double[][] Chances,
        ImmutableArray<(string Name, string Words)> CanShow
    );

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
            Chances(look.CanShow.Length, (row, answer) => Likelihood.Of(look.CanShow[answer], row.Outlets[at])),
            [.. look.CanShow.Select(a => (ServiceLooks.Name(a), ServiceLooks.Words(a)))]
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
        foreach (var point in Checkpoints.Of(atlas, school).Points.Where(p => p.Step > reached))
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
                Chances(point.Words.Length, (_, answer, r) => point.Shows[r] < 0 ? 1.0 / point.Words.Length
                    : point.Shows[r] == answer ? 1 - Likelihood.SightWrong
                    : Likelihood.SightWrong / Math.Max(1, point.Words.Length - 1)),
                [.. point.Words.Select(w => (w, w))]
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
                $"open-{part}",
                $"Open {known.Label} and look at disc, seat and spring",
                "What lies there?",
                0,
                OpeningSeconds,
                LookTool.Wrench,
                Doer.Repairer,
                "Both shutoffs shut and the pressure off before a bolt is loosened; a spring may jump out.",
                []
            ),
            Chances(found.Length, (row, answer) => Likelihood.Of(found[answer], part, atlas.Sets[row.Set].Of(part))),
            [.. found.Select(f => (f.Name(), f.Words()))]
        );
    }

    private double[][] Chances(int answers, Func<AtlasRow, int, double> of) =>
        Chances(answers, (row, answer, _) => of(row, answer));

    private double[][] Chances(int answers, Func<AtlasRow, int, int, double> of)
    {
        var chances = new double[answers][];
        for (var a = 0; a < answers; a++)
        {
            chances[a] = new double[atlas.Rows.Length];
            for (var r = 0; r < atlas.Rows.Length; r++)
                chances[a][r] = of(atlas.Rows[r], a, r);
        }

        return chances;
    }

    private NextLook Weigh(Candidate candidate, double before)
    {
        var rows = weighing.Posterior;
        var after = 0.0;
        var expect = new List<ExpectedAnswer>();
        var sets = new double[atlas.Sets.Length];
        for (var a = 0; a < candidate.CanShow.Length; a++)
        {
            Array.Clear(sets);
            for (var r = 0; r < rows.Length; r++)
                sets[atlas.Rows[r].Set] += rows[r] * candidate.Chances[a][r];
            var nothing = weighing.Nothing / candidate.CanShow.Length;
            var chance = sets.Sum() + nothing;
            if (chance < 1e-9)
                continue;
            for (var s = 0; s < sets.Length; s++)
                sets[s] /= chance;
            after += chance * Entropy(sets, nothing / chance);
            if (chance >= 0.02)
                expect.Add(new(candidate.CanShow[a].Name, candidate.CanShow[a].Words, chance, PointsTo(sets)));
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
            foreach (var chances in c.Chances)
                apart += Math.Abs(weighing.Average(chances, one) - weighing.Average(chances, other));
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
