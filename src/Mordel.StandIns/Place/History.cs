using Mordel.Core.Procedures;
using Mordel.Core.Runs;
using Mordel.Core.Units;

namespace Mordel.StandIns.Place;

/// <summary>What is true inside an assembly on a day: two springs, and what leaks.</summary>
/// <param name="Cv1">Spring of the first check in psid; 0 when it leaks.</param>
/// <param name="Cv2">Spring of the second check in psid; 0 when it leaks.</param>
/// <param name="So1Leaks">Whether SO1 lets water in.</param>
/// <param name="So2Leaks">Whether SO2 leaks with the flow.</param>
public sealed record Inside(decimal Cv1, decimal Cv2, bool So1Leaks = false, bool So2Leaks = false);

/// <summary>
/// Writes the log that a careful tester would leave: performs the procedure step by step, meets the sights that the inside of the
/// assembly brings about, and reads the springs at the kit's resolution.
/// </summary>
public sealed class History(RunPlan plan, Random random)
{
    private RunLog log = RunLog.Empty;
    private DateTimeOffset now;

    /// <summary>The log of one whole run.</summary>
    public RunLog Write(Inside inside, DateTimeOffset start)
    {
        ArgumentNullException.ThrowIfNull(inside);
        (log, now) = (RunLog.Empty, start);
        while (Replay.Of(plan, log).Current is { } step) Answer(step, inside);
        return log;
    }

    /// <summary>When the last entry was made.</summary>
    public DateTimeOffset End => now;

    private void Answer(PlannedStep planned, Inside inside)
    {
        var (key, step) = (planned.Key, planned.Step);
        var first = step.Id.StartsWith("cv1.", StringComparison.Ordinal);
        var spring = first ? inside.Cv1 : inside.Cv2;
        var sight = step.Id.Split('.')[^1] switch
        {
            "shut-so1" when first && inside.So2Leaks => "left-the-peg",
            "read" when spring <= 0m => "runs-to-zero",
            "read" when !first && inside.So2Leaks => "level-sinks",
            "read" when inside.So1Leaks => "never-stops",
            "bleed" => "slows",
            _ => null,
        };
        Add(sight is not null ? new EntryBody.Saw(key, sight)
            : step.Capture is not null ? new EntryBody.Taken(key, new Reading(AtResolution(spring), plan.Resolution))
            : new EntryBody.Done(key));
    }

    private Differential AtResolution(decimal psid)
    {
        var value = Differential.Psid(psid).In(plan.Resolution.Unit);
        var step = plan.Resolution.Amount;
        return new(decimal.Round(value / step, MidpointRounding.ToEven) * step, plan.Resolution.Unit);
    }

    private void Add(EntryBody body)
    {
        now = now.AddSeconds(random.Next(15, 75));
        var id = new byte[16];
        random.NextBytes(id);
        log = log.With(new Entry(new(new Guid(id)), log.LastTick + 1, now, body));
    }
}
