namespace Mordel.Simulators;

/// <summary>
/// Stands in for the clock (the framework's own door for it is <see cref="TimeProvider"/>): the system's time, set
/// forward or back.
/// </summary>
public sealed class SimulatedClock : TimeProvider
{
    /// <summary>How far it is from the system's.</summary>
    public TimeSpan Offset { get; set; }

    /// <inheritdoc/>
    public override DateTimeOffset GetUtcNow() => System.GetUtcNow() + Offset;
}
