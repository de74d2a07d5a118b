using Mordel.Core.Outside;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;

namespace Mordel.Simulators;

/// <summary>Puts a <see cref="SimulatedGauge"/> on the rig of every run that is listened to.</summary>
/// <param name="mood">How the gauges behave.</param>
/// <param name="clock">Their time.</param>
public sealed class SimulatedGauges(GaugeMood mood, TimeProvider clock) : IGaugeSource
{
    /// <inheritdoc/>
    public IAsyncEnumerable<GaugeLine> Lines(GaugeWatch watch, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(watch);
        return new SimulatedGauge(Performable(watch.Plan), clock).Stream(watch.Step, mood, cancel);
    }

    // A kept sheet says what is done; the simulated tester performs the school's own acts. Where that school is gone,
    // the sheet's words must do.
    private static RunPlan Performable(RunPlan plan) =>
        SchoolCatalogue.Named(plan.Procedure.Id) is { } procedure
            ? new(procedure, plan.Rig, plan.Profile, plan.Accuracy, plan.Resolution, plan.FullScale)
            : plan;
}
