using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// Performs cases on the water model, every look and every school, through the ordinary hands and eyes. The same
/// numbers come out on every machine; cases are independent of each other.
/// </summary>
public sealed class AtlasMaker
{
    // Cases of a set: nothing wrong and single faults are what is met most, so their rows lie closest.
    private const int OfOne = 48,
        OfTwo = 20;

    private static readonly Kit Kit = Kit.FiveValve;
    private readonly AssemblyBody body;
    private readonly ImmutableArray<(Procedure Procedure, Profile Profile, AtlasSchool School)> schools;
    private readonly ImmutableArray<ServiceLook> looks;

    /// <summary>A maker for a body.</summary>
    public AtlasMaker(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        this.body = body;
        looks = [.. ServiceLooks.For(body).Where(l => !l.CanShow.IsEmpty)];
        schools =
        [
            .. SchoolCatalogue
                .All.Where(p => p.Type == body.Type && (p.Body is null || p.Body == body.Name))
                .Select(p => (p, Usual(p)))
                .Select(p => (p.p, p.Item2, School(p.p, p.Item2))),
        ];
        Sets = [.. AtlasCase.Sets(body)];
        Cases =
        [
            .. Sets.SelectMany(
                (set, i) =>
                    Enumerable
                        .Range(
                            0,
                            set.Faults.Length > 1 ? OfTwo
                                : set.Faults.IsEmpty ? 2 * OfOne
                                : OfOne
                        )
                        .Select(draw => (i, new AtlasCase(body, set, draw)))
            ),
        ];
    }

    /// <summary>The fault sets, in the atlas's order.</summary>
    public ImmutableArray<FaultSet> Sets { get; }

    /// <summary>The cases, each with the index of its set.</summary>
    public ImmutableArray<(int Set, AtlasCase Case)> Cases { get; }

    /// <summary>
    /// A short name for the model as it works today: what sound and leaking assemblies do under every school, to the
    /// last bit, and which steps there are.
    /// </summary>
    public string Model()
    {
        var hash = 14695981039346656037UL;
        void Mix(string text)
        {
            foreach (var letter in text)
                hash = (hash ^ letter) * 1099511628211UL;
        }

        foreach (var set in new[] { FaultSet.None, new FaultSet([new(Parts.Cv1, FaultKind.Leaks)]) })
        foreach (var (procedure, profile, school) in schools)
        {
            var test = new Scenario(new AtlasCase(body, set, 0).Situation(Kit), procedure, profile).Perform();
            Mix(test.Fingerprint);
            foreach (var step in school.Steps)
                Mix(step.Key + string.Join(',', step.Sights));
        }

        foreach (var (set, one) in Cases)
        {
            var drawn = one.Situation(Kit);
            foreach (var number in Numbers(drawn))
                Mix(number.ToString("0.####", CultureInfo.InvariantCulture));
            Mix(Sets[set].ToString());
        }

        return hash.ToString("x16", CultureInfo.InvariantCulture)[..8];
    }

    private static double[] Numbers(Situation drawn) =>
        [
            .. drawn.Rig.Body.Type.Facts().Drawn.Select(d => drawn.Springs[d.Part]),
            drawn.Supply.Psi,
            drawn.Supply.Swing,
            drawn.SiteBehind.OutletHeight,
            drawn.SiteBehind.Pressure,
            drawn.Sizes.Weep,
        ];

    /// <summary>The row of a case.</summary>
    /// <param name="index">Which of <see cref="Cases"/>.</param>
    public AtlasRow Row(int index) => Row(Cases[index].Set, Cases[index].Case);

    /// <summary>The row of any case of the body, an atlas's own or another.</summary>
    /// <param name="set">What the row says of its set.</param>
    /// <param name="one">The case.</param>
    public AtlasRow Row(int set, AtlasCase one)
    {
        ArgumentNullException.ThrowIfNull(one);
        return Row(set, one.Situation(Kit));
    }

    /// <summary>The rows of a case without one of its faults at a time: what shows all the same.</summary>
    /// <param name="one">The case.</param>
    public IEnumerable<AtlasRow> Without(AtlasCase one)
    {
        ArgumentNullException.ThrowIfNull(one);
        var whole = one.Situation(Kit);
        foreach (var fault in one.Faults.Faults)
        {
            var (low, high) = AtlasCase.SpringRange(body, fault.Part, worn: false);
            yield return Row(
                -1,
                fault.Part == Parts.Supply ? whole with { Supply = new(whole.Supply.Psi) }
                    : fault.Kind == PartFault.SpringWeak
                        ? whole with
                        {
                            Springs = whole.Springs.With(fault.Part, (low + high) / 2),
                        }
                    : whole with
                    {
                        Faults = [.. whole.Faults.Where(f => f.Kind != fault.Known || f.Part != fault.OfRig)],
                    }
            );
        }
    }

    private AtlasRow Row(int set, Situation situation)
    {
        var seen = OutletWatch.Make(new WaterModel(situation), looks).ToDictionary(l => l.Look.Id, l => l.Seen);
        // No test is made while the main swings: the sheets say to wait until it stands.
        var tested = situation.Supply.Swing == 0;
        return new(
            set,
            [.. Atlas.SpringsOf(body).Select(p => (float)Math.Round(situation.Springs[p], 3))],
            (float)situation.Supply.Psi,
            [.. looks.Select(l => seen[l.Id])],
            [.. schools.Select(s => tested ? Perform(situation, s.Procedure, s.Profile, s.School) : null)]
        );
    }

    /// <summary>The atlas from all its rows.</summary>
    public Atlas Bind(string model, ImmutableArray<AtlasRow> rows) =>
        new(body, model, Sets, [.. schools.Select(s => s.School)], rows);

    private static SchoolRow Perform(Situation situation, Procedure procedure, Profile profile, AtlasSchool school)
    {
        var test = new Scenario(situation, procedure, profile).Perform();
        var steps = new ushort[school.Steps.Length];
        foreach (var entry in test.Log.Entries)
        {
            var (key, sight) = entry.Body switch
            {
                EntryBody.Saw s => (s.Step, s.Sight),
                EntryBody.Taken t => (t.Step, null),
                EntryBody.Answered a => (a.Step, null),
                EntryBody.Done d => (d.Step, null),
                _ => (null, (string?)null),
            };
            if (key is null || IndexOf(school, PlannedStep.PathOf(key)) is not (>= 0 and var at))
                continue;
            steps[at] |= AtlasRow.Reached;
            if (sight is not null && school.Steps[at].Sights.IndexOf(sight) is >= 0 and var bit)
                steps[at] |= (ushort)(1 << bit);
        }

        var results = test.State.Results();
        return new(steps, [.. school.Items.Select(i => Value(i, results[i], test))]);
    }

    internal static int IndexOf(AtlasSchool school, string key)
    {
        for (var i = 0; i < school.Steps.Length; i++)
            if (school.Steps[i].Key == key)
                return i;
        return -1;
    }

    private static float Value(TestItem item, ItemValue? answer, SimulatedTest test) =>
        answer switch
        {
            ItemValue.Measured when test.Exact.TryGetValue(item, out var exact) => (float)Math.Round(exact, 3),
            ItemValue.Measured m => (float)m.Reading.Value.In(Units.DifferentialUnit.Psid),
            ItemValue.Tightness t => t.Tight ? 1 : 0,
            ItemValue.YesNo y => y.Yes ? 1 : 0,
            ItemValue.NotShown => 2,
            _ => float.NaN,
        };

    // The first that has the school: its sheets go on where a stricter one would end early.
    private static Profile Usual(Procedure procedure) =>
        BuiltInProfiles.All.First(p => p.School(procedure.Id) is not null);

    private AtlasSchool School(Procedure procedure, Profile profile)
    {
        var sheet = SchoolCatalogue.Sheet(procedure, Kit, profile, body: body.Name);
        var sound = new Scenario(
            new AtlasCase(body, FaultSet.None, 0).Situation(Kit) with
            {
                SiteBehind = default,
            },
            procedure,
            profile
        ).Perform();
        var passed = new Dictionary<string, int>();
        foreach (var behind in sound.State.Behind)
            passed[behind.Planned.Path] = (int)(behind.By.At - DateTimeOffset.UnixEpoch).TotalSeconds;
        var steps = ImmutableArray.CreateBuilder<AtlasStep>();
        var last = 0;
        foreach (var (path, step) in sheet.EveryStep().DistinctBy(s => s.Path))
        {
            // A branch is as far as the step of the main line that it leaves.
            last = passed.GetValueOrDefault(path, last);
            if (!step.Sights.IsEmpty || step.Capture is not null)
                steps.Add(Step(path, step, last));
        }

        return new(
            procedure.Id,
            steps.ToImmutable(),
            [.. TestItem.All.Where(i => steps.Any(s => s.Items.Contains(i)) && i != TestItem.ReliefClearance)]
        );
    }

    private static AtlasStep Step(string path, Step step, int seconds)
    {
        TestItem?[] items =
        [
            step.Capture is { Provisional: false } c ? c.Item : null,
            .. step.Sights.SelectMany(s => s.Gives.Select(g => g.Item).Append(s.Item!)),
        ];
        return new(
            path,
            step.Title,
            [.. step.Sights.Select(s => s.Id).Take(15)],
            [.. items.OfType<TestItem>().Where(i => i != TestItem.ReliefClearance).Distinct()],
            seconds
        );
    }
}
