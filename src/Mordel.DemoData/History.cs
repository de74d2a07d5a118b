using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.DemoData;

/// <summary>What is true inside an assembly on a day: its springs in psid, and what leaks.</summary>
/// <param name="Cv1">Spring of the first check; 0 when it leaks.</param>
/// <param name="Cv2">Spring of the second check; 0 when it leaks.</param>
/// <param name="Relief">Opening point of an RP's relief valve.</param>
/// <param name="Inlet">Opening point of a vacuum breaker's air inlet.</param>
/// <param name="So1Leaks">Whether SO1 lets water in.</param>
/// <param name="So2Leaks">Whether SO2 leaks with the flow.</param>
public sealed record Inside(
    decimal Cv1,
    decimal Cv2,
    decimal Relief = 0m,
    decimal Inlet = 0m,
    bool So1Leaks = false,
    bool So2Leaks = false
);

/// <summary>
/// Writes the log that a careful tester would leave: performs the procedure step by step, meets the sights that the
/// inside of the assembly brings about, and reads the springs at the kit's resolution.
/// </summary>
/// <param name="plan">What the run is made with.</param>
/// <param name="contact">Whom the tester asks there.</param>
/// <param name="random">Chance, from a seed.</param>
public sealed class History(RunPlan plan, string contact, Random random)
{
    private Replay replay = null!;
    private RunLog log = RunLog.Empty;
    private DateTimeOffset now;
    private bool mended;

    /// <summary>The log of one whole run.</summary>
    public RunLog Write(Inside inside, DateTimeOffset start)
    {
        ArgumentNullException.ThrowIfNull(inside);
        (replay, log, now, mended) = (new(plan), RunLog.Empty, start, false);
        for (var state = replay.State; state.Current is { } step; )
        {
            foreach (var asked in Asked(step.Step.Asks))
                state = Add(asked);
            if (step.Step.Holds && plan.School.HoldSeconds > 0 && !state.Holds.ContainsKey(step.Key))
            {
                Add(new EntryBody.HoldStarted(step.Key, null));
                now = now.AddSeconds(plan.School.HoldSeconds);
                state = Add(new EntryBody.HoldEnded(step.Key, null, null));
            }

            state = Add(Answer(step, inside));
        }

        return log;
    }

    /// <summary>When the last entry was made.</summary>
    public DateTimeOffset End => now;

    // What people are asked, and how the shutoffs stand: entered, like everything that a report says.
    private IEnumerable<EntryBody> Asked(Question question) =>
        question switch
        {
            Question.Permission => [new EntryBody.Agreed(Matter.Permission, contact)],
            Question.BeforeRestoring => [new EntryBody.Agreed(Matter.Restoring, contact)],
            Question.Arrival =>
            [
                new EntryBody.AsFound(Parts.So1, ValvePosition.Open),
                new EntryBody.AsFound(Parts.So2, ValvePosition.Open),
            ],
            Question.Departure =>
            [
                new EntryBody.AsLeft(Parts.So1, ValvePosition.Open),
                new EntryBody.AsLeft(Parts.So2, ValvePosition.Open),
            ],
            _ => [],
        };

    private EntryBody Answer(PlannedStep planned, Inside inside)
    {
        var (key, step) = (planned.Key, planned.Step);
        if (Seen(step, inside) is { } sight)
            return new EntryBody.Saw(key, sight);
        return step.Capture is not { } capture
            ? new EntryBody.Done(key)
            : capture.Item.Kind switch
            {
                ItemKind.LinePressure => new EntryBody.Answered(
                    key,
                    capture.Item,
                    new ItemValue.Line(
                        InPsid
                            ? new(random.Next(52, 74), LinePressureUnit.Psi)
                            : new(random.Next(360, 510), LinePressureUnit.Kpa)
                    )
                ),
                ItemKind.Length => new EntryBody.Answered(
                    key,
                    capture.Item,
                    new ItemValue.Clearance(
                        InPsid
                            ? new(random.Next(8, 22), LengthUnit.Inch)
                            : new(10 * random.Next(31, 60), LengthUnit.Millimetre)
                    )
                ),
                _ => new EntryBody.Taken(
                    key,
                    new Reading(AtResolution(Spring(step, capture.Item, inside)), plan.Resolution)
                ),
            };
    }

    // What the inside brings about at a step; null when all is as it should be and nothing must be answered.
    private string? Seen(Step step, Inside inside)
    {
        var (leaks1, leaks2, outlet) = (inside.Cv1 <= 0m, inside.Cv2 <= 0m, inside.So2Leaks && !mended);
        var seen = step.Id switch
        {
            "hook.so2" when leaks1 => "relief-runs",
            "cv1.shut-so1" when outlet => "left-the-peg",
            "cv1.read" when leaks1 => step.SightNamed("runs-to-zero")?.Id ?? step.SightNamed("relief-runs")?.Id,
            "cv2.read" when leaks2 => "runs-to-zero",
            "cv2.read" when outlet => step.SightNamed("level-sinks")?.Id,
            "cv1.read" or "cv2.read" when inside.So1Leaks => step.SightNamed("never-stops")?.Id,
            "cv1.bleed" or "cv2.bleed" => "slows",
            "bp.test" when leaks2 => step.SightNamed("sinks")?.Id ?? "discharges",
            "flow.read" when leaks2 => "runs-to-zero",
            "so2.test" or "iso.test" when outlet => "falls",
            "so2.mend" or "iso.mend-so2" => "mended",
            "ai.shut" or "ready.shut" when outlet => "falls",
            "ai.read" when leaks1 => step.SightNamed("open-already")?.Id,
            _ => null,
        };
        if (seen == "mended")
            mended = true;
        return seen ?? (step.MustAnswer ? (step.Sights.FirstOrDefault(s => s.Good) ?? step.Sights[0]).Id : null);
    }

    private bool InPsid => plan.Resolution.Unit == DifferentialUnit.Psid;

    private static decimal Spring(Step step, TestItem item, Inside inside) =>
        item == TestItem.ReliefOpening || step.Id == "hook.check-rest" ? inside.Relief
        : item == TestItem.AirInletOpening ? inside.Inlet
        : item == TestItem.Check2 ? inside.Cv2
        : item == TestItem.Apparent ? inside.Cv1 + 0.1m
        : inside.Cv1;

    private Differential AtResolution(decimal psid)
    {
        var value = Differential.Psid(psid).In(plan.Resolution.Unit);
        var step = plan.Resolution.Amount;
        return new(decimal.Round(value / step, MidpointRounding.ToEven) * step, plan.Resolution.Unit);
    }

    private RunState Add(EntryBody body)
    {
        now = now.AddSeconds(
            body is EntryBody.Agreed or EntryBody.AsFound or EntryBody.AsLeft ? random.Next(3, 9) : random.Next(15, 75)
        );
        var id = new byte[16];
        random.NextBytes(id);
        var entry = new Entry(new(new Guid(id)), log.LastTick + 1, now, body);
        log = log.With(entry);
        return replay.Add(entry);
    }
}
