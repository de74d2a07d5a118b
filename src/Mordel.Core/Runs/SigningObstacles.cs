namespace Mordel.Core.Runs;

/// <summary>
/// What stands in the way of a signature. The server asks it at the seal, a device while there is no signal.
/// </summary>
public static class SigningObstacles
{
    /// <summary>Why a run cannot be signed, a sentence each; empty when it can.</summary>
    /// <param name="setup">What it is made with.</param>
    /// <param name="state">Where it stands.</param>
    /// <param name="day">The day of the test.</param>
    /// <param name="right">Whether its tester may sign such a test on that day.</param>
    public static IReadOnlyList<string> Of(RunSetup setup, RunState state, DateOnly day, SigningRight right)
    {
        ArgumentNullException.ThrowIfNull(setup);
        ArgumentNullException.ThrowIfNull(state);
        var obstacles = new List<string>();
        if (right.Why is { } none)
            obstacles.Add(none);
        if (setup.Kit.Unfit(day) is { } unfit)
            obstacles.Add(unfit);
        if (!setup.Profile.InForceOn(day))
            obstacles.Add(
                $"{setup.Profile.Name}, version {setup.Profile.Version}, is not in force on {day:d MMMM yyyy}."
            );
        if (state.Paused is { } paused)
            obstacles.Add(
                $"The test was broken off for today ({paused}). Take it up again, or end it as not testable."
            );
        if (!state.AtTheEnd)
            obstacles.Add($"The run is not at its end: next is \"{state.Current!.Step.Title}\".");
        return obstacles;
    }

    /// <summary>The moment of the last reading or answer; null while there is none.</summary>
    public static ReceivedEntry? LastTold(IEnumerable<ReceivedEntry> received) =>
        received.LastOrDefault(r =>
            r.Entry.Body is EntryBody.Taken or EntryBody.HoldEnded or EntryBody.Answered or EntryBody.Saw
        );
}
