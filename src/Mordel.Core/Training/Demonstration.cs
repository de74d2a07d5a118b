using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>
/// How a careful tester does it: the simulated tester's own moves, put on a recording as if hands had made them at the
/// bench. A learner sees it beside the own run, and the marking is proved on it.
/// </summary>
public static class Demonstration
{
    // Ticks that careful hands take for a shutoff.
    private const int Gently = 2 * Recording.PerSecond;

    /// <summary>The recording.</summary>
    public static Recording Record(Scenario scenario)
    {
        ArgumentNullException.ThrowIfNull(scenario);
        var actions = new List<TimedAction>();
        var rig = scenario.Situation.Rig;
        var last = rig.InService();
        var levels = new WaterModel(scenario.Situation);
        var result = new SimulatedTester(scenario.Plan, scenario.Situation, null, (seconds, move) =>
        {
            if (Actions(move, last, levels) is { } action)
                actions.Add(new(Ticks(seconds), action));
            last = last.Apply(move).State;
        }).Perform();
        var end = Ticks(result.Seconds) + Gently + Recording.PerSecond;
        actions.AddRange(Written(result));
        actions.AddRange(
            result
                .Findings.Where(f => f.OfTheAssembly)
                .Select(f => new TimedAction(end, new BenchAction.ReportFinding(f, true)))
        );
        if (result.Verdict.Overall != Overall.Incomplete)
            actions.Add(new(end, new BenchAction.Conclude(result.Verdict.Overall)));
        // A number is written down before the hands go on.
        return new(scenario, [.. actions.OrderBy(d => d.At).ThenBy(d => d.What is not BenchAction.Write)], end);
    }

    private static int Ticks(double seconds) => (int)Math.Round(seconds * Recording.PerSecond);

    private static BenchAction? Actions(Move move, RigState before, WaterModel levels) =>
        move switch
        {
            // A screw is backed off to flush the vent; out it comes only when the pressure is.
            Move.Turn { Part: var screw, To.Fraction: 1m } when screw == Parts.VentScrew && before[Parts.So1].IsOpen =>
                new BenchAction.Turn(screw, new(0.4m), 0),
            Move.Turn t => before[t.Part] == t.To
                ? null
                : new BenchAction.Turn(
                    t.Part,
                    new(decimal.Round(t.To.Fraction, 6)),
                    before.Rig[t.Part].Kind == PartKind.Shutoff && t.To.Fraction is 0m or 1m ? Gently : 0
                ),
            Move.Connect c => new BenchAction.Connect(c.Item, c.To),
            Move.TakeOff o => before.Connections.ContainsKey(o.Item) ? new BenchAction.TakeOff(o.Item) : null,
            Move.Hold h => new BenchAction.Lift(decimal.Round((decimal)levels.LevelOf(h.Level.With), 3)),
            Move.Lift l => new BenchAction.Lift(l.Inches),
            _ => null,
        };

    private static IEnumerable<TimedAction> Written(SimulatedTest result)
    {
        int At(Entry entry) => Ticks((entry.At - DateTimeOffset.UnixEpoch).TotalSeconds);
        foreach (var (item, taken) in result.State.Readings.OrderBy(r => TestItem.All.IndexOf(r.Key)))
        {
            // A number that was held and then taken over counts from when it was noted.
            var noted =
                result.State.Held.GetValueOrDefault(item) is { } held && held.Reading.Value == taken.Reading.Value
                    ? held
                    : taken;
            yield return new(At(noted.Entry), new BenchAction.Write(item, new ItemValue.Measured(taken.Reading)));
        }

        foreach (var (item, given) in result.State.Given.OrderBy(g => TestItem.All.IndexOf(g.Key)))
            if (given.Value is ItemValue.Tightness or ItemValue.YesNo)
                yield return new(At(given.Entry), new BenchAction.Write(item, given.Value));
    }
}
