using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>
/// A run in the tester's own words: <c>SampleRun.Begun().To("cv1.read").Reads(1.8m)</c>; a double check by the sight
/// tube unless another school is named.
/// </summary>
internal sealed class SampleRun
{
    private static readonly DateTimeOffset Start = new(2031, 4, 2, 8, 0, 0, TimeSpan.Zero);
    private int made,
        waited;
    private readonly PlayedLog played;

    private SampleRun(RunPlan plan) => (Plan, played) = (plan, new(plan));

    public RunPlan Plan { get; }
    public RunLog Log => played.Log;
    public RunState State => played.State;
    public PlannedStep Now => State.Current ?? throw new InvalidOperationException("The run is at its end.");
    public Verdict Verdict => Plan.VerdictOn(State);

    public static RunPlan PlanWith(
        Kit kit,
        Profile? profile = null,
        string school = "dc-sight-tube",
        BodyFeatures features = default,
        string? body = null
    )
    {
        var procedure = SchoolCatalogue.Named(school)!;
        profile ??= BuiltInProfiles.All.First(p => p.School(school) is not null);
        return new(
            procedure,
            new Rig(Bodies.Find(procedure.Type, body ?? procedure.Body, features), kit),
            profile,
            Differential.Psid(0.2m),
            Differential.Psid(0.1m),
            Differential.Psid(15m)
        );
    }

    public static SampleRun Begun(Kit? kit = null) => Of(PlanWith(kit ?? Kit.FiveValve));

    public static SampleRun Of(RunPlan plan) => new(plan);

    public static SampleRun Of(string school, Kit? kit = null, Profile? profile = null) =>
        Of(PlanWith(kit ?? Kit.FiveValve, profile, school));

    public SampleRun Says(EntryBody body)
    {
        var entry = Entry(body);
        played.Take([entry]);
        return this;
    }

    public Entry Entry(EntryBody body, long? tick = null)
    {
        var id = new byte[16];
        BitConverter.TryWriteBytes(id, ++made);
        id[15] = 1;
        return new(new(new Guid(id)), tick ?? Log.LastTick + 1, Start.AddSeconds(20 * made + waited), body);
    }

    /// <summary>Enters how the line was found.</summary>
    public SampleRun Found(Arrival arrival) =>
        arrival
            .Of(Plan.Rig.Body)
            .Aggregate(this, (run, found) => run.Says(new EntryBody.AsFound(found.Part, found.Position)));

    /// <summary>Time goes by before the next entry.</summary>
    public SampleRun Waits(int seconds)
    {
        waited += seconds;
        return this;
    }

    public SampleRun Done()
    {
        var key = Now.Key;
        Says(new EntryBody.Done(key));
        return State.Current?.Key == key
            ? throw new InvalidOperationException($"{key} cannot simply be done: {State.SetAside.LastOrDefault()?.Why}")
            : this;
    }

    public SampleRun Sees(string sight) => Says(new EntryBody.Saw(Now.Key, sight));

    public SampleRun Reads(decimal psid) => Says(new EntryBody.Taken(Now.Key, new Reading(Differential.Psid(psid))));

    /// <summary>
    /// Does what is right at the step at hand: watches where a watch is asked for, reads a sound number, sees what
    /// should be seen.
    /// </summary>
    public SampleRun GoesOn()
    {
        var (planned, step) = (Now, Now.Step);
        if (step.Holds && Plan.School.HoldSeconds > 0 && !Watched(planned.Key))
        {
            if (State.Holds.GetValueOrDefault(planned.Key) is not { EndedAt: null })
                Says(new EntryBody.HoldStarted(planned.Key, null));
            Waits(Plan.School.HoldSeconds);
            Says(new EntryBody.HoldEnded(planned.Key, null, null));
        }

        if (step.MustAnswer)
            return Sees((step.Sights.FirstOrDefault(s => s.Good) ?? step.Sights[0]).Id);
        return step.Capture is { } capture ? Gives(capture) : Done();
    }

    private bool Watched(string key) =>
        State.Holds.GetValueOrDefault(key) is { EndedAt: not null } hold
        && (hold.Change ?? 0m) <= Plan.Resolution.Amount;

    private SampleRun Gives(Capture capture) =>
        capture.Item.Kind switch
        {
            ItemKind.LinePressure => Says(
                new EntryBody.Answered(Now.Key, capture.Item, new ItemValue.Line(new(62m, LinePressureUnit.Psi)))
            ),
            ItemKind.Length => Says(
                new EntryBody.Answered(Now.Key, capture.Item, new ItemValue.Clearance(new(14m, LengthUnit.Inch)))
            ),
            _ => Reads(Sound(capture.Item)),
        };

    /// <summary>What a sound assembly of this type reads, in psid.</summary>
    public decimal Sound(TestItem item) =>
        Plan.Rig.Body.Type != AssemblyTypes.RP
            ? item == TestItem.AirInletOpening
                ? 1.4m
                : 2.0m
            : item == TestItem.ReliefOpening
                ? 2.6m
                : item == TestItem.Check2
                    ? 1.6m
                    : 7.4m;

    public SampleRun To(string stepId)
    {
        while (Now.Step.Id != stepId)
            Done();
        return this;
    }

    /// <summary>On by what is right until a step is at hand.</summary>
    public SampleRun OnTo(string stepId)
    {
        for (var i = 0; i < 200 && State.Current is { } now && now.Step.Id != stepId; i++)
            GoesOn();
        return State.Current?.Step.Id == stepId
            ? this
            : throw new InvalidOperationException($"{stepId} does not come.");
    }

    public SampleRun ToTheEnd()
    {
        while (State.Current is not null)
            Done();
        return this;
    }

    /// <summary>By what is right to the end.</summary>
    public SampleRun Through()
    {
        for (var i = 0; i < 300 && State.Current is not null; i++)
            GoesOn();
        return State.Current is null
            ? this
            : throw new InvalidOperationException($"The run does not end; it stands at {Now.Key}.");
    }

    public SampleRun TakesBackLast() => Says(new EntryBody.TookBack(Log.Entries.Last().Id));

    public decimal? Value(TestItem item) =>
        State.Readings.TryGetValue(item, out var taken) ? taken.Reading.Value.Amount : null;

    public string[] Findings => [.. State.Findings.Select(f => f.Kind?.Id).OfType<string>()];
}
