using Mordel.Core.Runs;
using Mordel.Core.Serialization;

namespace Mordel.Core.Outside;

/// <summary>A run whose gauge is listened to.</summary>
/// <param name="Run">The run.</param>
/// <param name="Plan">What it is made with.</param>
/// <param name="Step">The step that it stands at; may be asked at any time.</param>
public sealed record GaugeWatch(Guid Run, RunPlan Plan, Func<string> Step);

/// <summary>Where the lines of a gauge that streams come from.</summary>
public interface IGaugeSource
{
    /// <summary>The lines from now on, each in the unit its gauge reads in, until it is told to end.</summary>
    IAsyncEnumerable<GaugeLine> Lines(GaugeWatch watch, CancellationToken cancel);
}
