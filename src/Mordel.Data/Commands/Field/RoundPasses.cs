using System.Globalization;
using Mordel.Core.Outside;

namespace Mordel.Data.Commands.Field;

/// <summary>
/// What a device may begin without a signal: a test of a stop, with exactly the setup that was given out.
/// </summary>
/// <param name="Run">The id that the run gets: every device that takes the stop along has the same.</param>
/// <param name="Stop">The stop.</param>
/// <param name="Tester">Who may begin it.</param>
/// <param name="Setup">SHA-256 of the setup.</param>
/// <param name="MadeAt">When it was given out.</param>
public sealed record RoundPass(Guid Run, Guid Stop, Guid Tester, string Setup, DateTimeOffset MadeAt);

/// <summary>
/// Gives passes out and knows them again: a device brings home what it was given, and nothing has to be kept here
/// until it does.
/// </summary>
public sealed class RoundPasses(ISecretBox box)
{
    private const string Kind = "round-pass/1";

    /// <summary>A pass as it travels.</summary>
    public string Give(RoundPass pass)
    {
        ArgumentNullException.ThrowIfNull(pass);
        return box.Hide(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Kind}|{pass.Run:D}|{pass.Stop:D}|{pass.Tester:D}|{pass.Setup}|{pass.MadeAt.UtcTicks}"
            )
        );
    }

    /// <summary>The pass; null where it is none of ours.</summary>
    public RoundPass? Read(string text) =>
        box.Show(text)?.Split('|') is [Kind, var run, var stop, var tester, var setup, var ticks]
        && Guid.TryParse(run, out var runId)
        && Guid.TryParse(stop, out var stopId)
        && Guid.TryParse(tester, out var testerId)
        && long.TryParse(ticks, CultureInfo.InvariantCulture, out var at)
            ? new(runId, stopId, testerId, setup, new(at, TimeSpan.Zero))
            : null;
}
