using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Simulation;

// What the tester sees and answers.
public partial class SimulatedTester
{
    private static bool MayFallByItself(Step step) =>
        step.Sights.Any(s => s.Branch.Any(b => b.Cue.Kind == CueKind.FallsByItself));

    private void Watch(Step step, string stage)
    {
        switch (step.Cue.Kind)
        {
            case CueKind.FirstDrip when eyes.NeedleAtDrip is not null:
            case CueKind.Pop when eyes.NeedleAtPop is not null:
                return;
            case CueKind.FallsByItself:
                hands.Brake(Patience);
                return;
            case CueKind.OnlyDrips:
                hands.BleedToTheDrip();
                break;
        }

        if (step.Sights.IsEmpty && step.Capture is null)
        {
            hands.Wait(stage == "finish" ? 1 : 2);
            return;
        }

        // Where nothing is read and nothing must be answered, a glance is enough.
        var patience = step.Capture is null && !step.MustAnswer ? Glance : Patience;

        // A pegged needle says nothing by standing still: what may pull it off needs time, and is acted on as soon as
        // it shows.
        var falls = step.Sights.Any(s => ObservationRules.NeedsThePegWatched(s.Shows));
        if (falls && eyes.Pegged && !eyes.LeftThePeg && step.Cue.Kind == CueKind.Still)
            for (var waited = 0; waited < WatchingThePeg && !eyes.OffThePeg; waited++)
                hands.Wait(1);
        if (MayFallByItself(step) && eyes.LeftThePeg)
            return;
        hands.Settle(patience);
    }

    private RunState Answer(PlannedStep planned, RunState before)
    {
        var (key, step) = (planned.Key, planned.Step);
        var sight = ObservationRules.Find(step, Scene());
        if (sight is { Good: false })
            return See(planned, sight);
        if (step.Capture is { } capture && capture.Item.Kind != ItemKind.Differential)
        {
            ItemValue value =
                capture.Item.Kind == ItemKind.Length
                    ? new ItemValue.Clearance(visit.Clearance)
                    : new ItemValue.Line(LineGauge());
            return Add(new EntryBody.Answered(key, capture.Item, value));
        }

        if (step.Holds && plan.School.HoldSeconds > 0 && !before.Holds.ContainsKey(key))
        {
            var still = step.Cue.Kind == CueKind.Still;
            Add(new EntryBody.HoldStarted(key, null));
            if (still)
                hands.Wait(plan.School.HoldSeconds);
            Add(new EntryBody.HoldEnded(key, null, still ? null : "The number is taken as it happens."));
            if (still && ObservationRules.Find(step, Scene()) is { Good: false } late)
                return See(planned, late);
        }

        if (sight is not null)
            return Add(new EntryBody.Saw(key, sight.Id));
        if (step.Capture is not { } wanted)
            return Add(new EntryBody.Done(key));
        var needle = step.Cue.Kind switch
        {
            CueKind.FirstDrip => eyes.NeedleAtDrip,
            CueKind.Pop or CueKind.FallsByItself => eyes.NeedleAtPop,
            _ => null,
        } ?? eyes.Needle;
        (wanted.Provisional ? noted : exact)[wanted.Item] = needle;
        var speed = step.Cue.Kind is CueKind.FirstDrip or CueKind.Pop or CueKind.FallsByItself
            ? Math.Max(0, eyes.Falling(1))
            : 0;
        return Add(
            new EntryBody.Taken(
                key,
                new Reading(
                    Shown(needle),
                    plan.Resolution,
                    new Differential(decimal.Round(InUnit(speed), 3), plan.Resolution.Unit)
                )
            )
        );
    }

    private RunState See(PlannedStep planned, Sight sight)
    {
        met.Add(new(planned.Key, sight, water.Time, eyes.Needle));
        if (sight.Leads == LeadsTo.Repeat && planned.Attempt >= Tries)
            return Add(new EntryBody.Stopped($"{sight.Seen}: {Tries} tries led no further."));
        if (sight.Findings.Contains(FindingKind.HosesSwapped))
        {
            // Seen is mended: from here the hoses go where they belong.
            swaps.Add(FindingKind.HosesSwapped);
            hands.Crossed = false;
        }

        var item = sight.Item ?? planned.Step.Capture?.Item;
        if (item is not null && sight.Takes == TakesValue.ZeroOnDial)
            exact[item] = eyes.Needle;
        if (item is not null && sight.Takes == TakesValue.NumberHeld && noted.TryGetValue(item, out var held))
            exact[item] = held;
        return Add(new EntryBody.Saw(planned.Key, sight.Id));
    }

    private Scene Scene() =>
        new(
            eyes,
            hands.ReachedTheEnd,
            hands.Crossed,
            -water.Through(Parts.BypassHose),
            water.TubeLevel,
            water.InletOpening,
            water.Spills(Parts.BleedOff),
            water.Spills(Parts.Site)
        );

    private LinePressure LineGauge()
    {
        var chamber = plan.Rig.At(new(plan.Rig.Body.SupplyCock, "in"))!.Id;
        // A line gauge has no marks below its zero.
        var psi = Math.Clamp((decimal)water.PressureIn(chamber), 0m, 999m);
        return plan.Resolution.Unit == DifferentialUnit.Psid
            ? new(decimal.Round(psi), LinePressureUnit.Psi)
            : new(decimal.Round(psi * DifferentialUnits.KpaPerPsi), LinePressureUnit.Kpa);
    }

    private decimal InUnit(double psid) => Differential.Psid((decimal)psid).In(plan.Resolution.Unit);

    private Differential Shown(double psid)
    {
        var steps = decimal.Round(InUnit(psid) / plan.Resolution.Amount, MidpointRounding.ToEven);
        // No needle is read below its zero.
        return new(Math.Max(0m, steps) * plan.Resolution.Amount, plan.Resolution.Unit);
    }
}
