using System.Collections.Immutable;
using Mordel.Core.Rigs;
using static Mordel.Core.Rigs.Parts;

namespace Mordel.Core.Training;

/// <summary>
/// What happens if a step is done otherwise than the sheet has it: a few actions that the bench performs on the
/// learner's own rig, from where it stands. The water answers; afterwards the bench steps back.
/// </summary>
/// <param name="Procedure">The school.</param>
/// <param name="Step">The step at which it is offered.</param>
/// <param name="Title">What is done otherwise.</param>
/// <param name="Actions">What, at ticks from its beginning.</param>
/// <param name="Seconds">How long the water is watched.</param>
public sealed record WhatIf(
    string Procedure,
    string Step,
    string Title,
    ImmutableArray<TimedAction> Actions,
    int Seconds
)
{
    /// <summary>All of them.</summary>
    public static ImmutableArray<WhatIf> All { get; } =
    [
        Of(
            "dc-sight-tube",
            "cv1.fill",
            "Read with the air left in the hose",
            75,
            Turn(2, Tc2, 1),
            Turn(8, Tc3, 1),
            Turn(12, Tc3, 0),
            Turn(14, So2, 0, 2),
            Lift(17, 9),
            Turn(18, So1, 0, 2),
            Turn(22, Tc3, 1, 2)
        ),
        Of(
            "dc-sight-tube",
            "cv1.shut-so2",
            "Leave the gauge where it hangs, a foot below",
            40,
            Turn(1, So2, 0, 2),
            Turn(4, So1, 0, 2),
            Turn(8, Tc3, 1, 2)
        ),
        Of("dc-sight-tube", "cv1.shut-so1", "Open TC3 with SO1 still open", 12, Turn(1, Tc3, 1, 2)),
        Of(
            "dc-sight-tube",
            "cv1.read",
            "Open the tee wide while it settles",
            30,
            Turn(1, Tc3, 1, 2),
            Turn(8, BleedOff, 0.6m, 1)
        ),
        Of(
            "dc-sight-tube",
            "cv1.leave",
            "Take the hose off with TC2 open and SO1 open again",
            8,
            Turn(0, So1, 1, 2),
            Off(4, HighHose)
        ),
        Of("dc-draw-down", "cv1.draw", "Open the low control wide", 10, Turn(1, LowControl, 1)),
        Of("rp-relief-first", "ready.flush", "Open TC2 first, with nothing running at TC4", 8, Turn(1, Tc2, 1)),
        Of("rp-check-first", "ready.flush", "Open TC2 first, with nothing running at TC4", 8, Turn(1, Tc2, 1)),
        Of(
            "rp-relief-first",
            "hook.hoses",
            "Swap the two hoses",
            20,
            Put(1, HighHose, Tc3),
            Put(2, LowHose, Tc2),
            Turn(3, Tc3, 1),
            Turn(4, Tc2, 1)
        ),
        Of("rp-relief-first", "hook.so2", "Open a tap downstream with SO2 left open", 12, Tap(1, true), Tap(9, false)),
        Of(
            "rp-relief-first",
            "rv.feed",
            "Fling the low control open",
            6,
            Turn(0, HighControl, 1),
            Turn(1, LowControl, 1)
        ),
        Of(
            "rp-check-first",
            "rv.feed",
            "Fling the low control open",
            6,
            Turn(0, HighControl, 1),
            Turn(1, LowControl, 1)
        ),
        Of("rp-relief-first", "cv1.read", "Do not restore the zone", 20),
        Of(
            "pvb-inlet-first",
            "ai.shut",
            "Close SO1 first, while the site still draws",
            26,
            Tap(0, true),
            Turn(1, So1, 0, 2),
            Turn(22, So2, 0, 2)
        ),
        Of(
            "pvb-inlet-first",
            "ai.lower",
            "Open the bleed all at once",
            6,
            Turn(1, HighBleed, 1),
            Turn(1, BypassControl, 1),
            Turn(1, HighControl, 1)
        ),
        Of(
            "pvb-inlet-first",
            "cv1.shut",
            "Leave the gauge a foot low and read",
            40,
            Lift(1, -11),
            Turn(2, So1, 0, 2),
            Turn(6, Tc2, 1, 2)
        ),
        Of("svb-check-first", "cv1.read", "Take the screw out at one go", 12, Turn(1, VentScrew, 1)),
        Of(
            "svb-static-first",
            "static.so1",
            "Close SO1 while a tap runs and SO2 is open",
            12,
            Turn(0, So2, 1, 1),
            Tap(1, true),
            Turn(2, So1, 0, 2)
        ),
    ];

    /// <summary>What can be tried at a step of a school.</summary>
    public static IEnumerable<WhatIf> At(string procedure, string step) =>
        All.Where(o => o.Procedure == procedure && o.Step == step);

    /// <summary>
    /// The actions that this rig has the parts for: another kit lowers the pressure through other valves.
    /// </summary>
    public ImmutableArray<TimedAction> For(Rig rig) =>
        [.. Actions.Where(d => d.What is not BenchAction.Turn t || rig.Has(t.Part))];

    private static WhatIf Of(string procedure, string step, string title, int seconds, params TimedAction[] actions) =>
        new(procedure, step, title, [.. actions], seconds);

    private static TimedAction Turn(int second, PartId part, decimal to, int over = 0) =>
        new(second * Recording.PerSecond, new BenchAction.Turn(part, new(to), over * Recording.PerSecond));

    private static TimedAction Put(int second, PartId item, PartId to) =>
        new(second * Recording.PerSecond, new BenchAction.Connect(item, to));

    private static TimedAction Off(int second, PartId item) =>
        new(second * Recording.PerSecond, new BenchAction.TakeOff(item));

    private static TimedAction Lift(int second, decimal inches) =>
        new(second * Recording.PerSecond, new BenchAction.Lift(inches));

    private static TimedAction Tap(int second, bool open) =>
        new(second * Recording.PerSecond, new BenchAction.DrawOff(open));
}
