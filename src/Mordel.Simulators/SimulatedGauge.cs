using System.Runtime.CompilerServices;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Units;

namespace Mordel.Simulators;

/// <summary>How a simulated gauge behaves.</summary>
public enum GaugeMood
{
    /// <summary>As it should.</summary>
    Steady,

    /// <summary>It falls silent for two seconds in every seven.</summary>
    DropsOut,

    /// <summary>What it says is a second and a half old.</summary>
    Lags,
}

/// <summary>
/// Stands in for a digital gauge on the rig of a run: a sound assembly of that type, worked by a careful tester on the
/// water. At each step of the run it streams what the needle did at that step, from its beginning; then it stays where
/// it came to rest.
/// </summary>
public sealed class SimulatedGauge
{
    // Seconds between two lines; as long as a dropout lasts and comes again; how old a lagging line is; between two
    // looks of the careful tester; over which it measures its rate.
    private const double Every = 0.2,
        SilentFor = 2,
        SilentEvery = 7,
        Lag = 1.5,
        Looks = 0.25,
        RateOver = 0.5;

    private readonly Dictionary<string, List<double>> ways = [];
    private readonly DifferentialUnit unit;
    private readonly TimeProvider clock;

    /// <summary>A gauge for a run.</summary>
    /// <param name="plan">The run's school, rig and rules.</param>
    /// <param name="clock">Its time.</param>
    public SimulatedGauge(RunPlan plan, TimeProvider clock)
    {
        ArgumentNullException.ThrowIfNull(plan);
        this.clock = clock;
        unit = plan.Resolution.Unit;
        var situation = new Situation
        {
            Rig = plan.Rig,
            Springs = Springs.Healthy(plan.Rig.Body.Type),
            FullScale = (double)plan.FullScale.In(DifferentialUnit.Psid),
        };
        _ = new SimulatedTester(SchoolCatalogue.Afresh(plan), situation, moment =>
            (ways.TryGetValue(moment.Step, out var way) ? way : ways[moment.Step] = []).Add(moment.Water.Needle)
        ).Perform();
    }

    /// <summary>
    /// What it shows so many seconds into a step, psid; at a step that the careful tester never came to, zero.
    /// </summary>
    public double At(string step, double seconds)
    {
        if (ways.GetValueOrDefault(step) is not { Count: > 0 } way)
            return 0;
        var at = Math.Clamp(seconds / Looks, 0, way.Count - 1);
        var (before, after) = (way[(int)at], way[Math.Min(way.Count - 1, (int)at + 1)]);
        return before + ((after - before) * (at - Math.Floor(at)));
    }

    /// <summary>Streams until it is told to end.</summary>
    /// <param name="step">The step that the run stands at, asked at every line.</param>
    /// <param name="mood">How it behaves.</param>
    /// <param name="cancel">Ends it.</param>
    public async IAsyncEnumerable<GaugeLine> Stream(
        Func<string> step,
        GaugeMood mood,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(step);
        var (began, since, at) = (clock.GetUtcNow(), clock.GetUtcNow(), step());
        var (left, last) = (At(at, 0), At(at, 0));
        using var beat = new PeriodicTimer(TimeSpan.FromSeconds(Every), clock);
        while (await beat.WaitForNextTickAsync(cancel))
        {
            var now = clock.GetUtcNow();
            if (step() is var here && here != at)
                (at, since, left) = (here, now, last);
            var running = (now - began).TotalSeconds;
            var seconds = Math.Max(0, (now - since).TotalSeconds - (mood == GaugeMood.Lags ? Lag : 0));
            var shown = At(at, seconds);
            var rate = (shown - (seconds < RateOver ? left : At(at, seconds - RateOver))) / RateOver;
            last = shown;
            if (mood == GaugeMood.DropsOut && running % SilentEvery > SilentEvery - SilentFor)
                continue;
            yield return new GaugeLine(
                new(decimal.Round((decimal)shown, 2), DifferentialUnit.Psid),
                decimal.Round((decimal)rate, 3),
                decimal.Round((decimal)Math.Max(0.05, 0.93 - (running / 36_000)), 2),
                Simulated: true
            ).In(unit);
        }
    }
}
