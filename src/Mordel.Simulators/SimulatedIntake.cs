using System.Collections.Concurrent;
using System.Collections.Immutable;
using System.Security.Cryptography;
using System.Text;
using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>
/// Stands in for the services of authorities. It takes each key once: who hands in the same again gets the same
/// receipt.
/// </summary>
public sealed class SimulatedIntake(SimulatedOutside outside) : IAuthorityIntake
{
    private readonly ConcurrentDictionary<string, string> taken = new();

    /// <summary>How many reports it has taken.</summary>
    public int Taken => taken.Count;

    /// <inheritdoc/>
    public Task<Delivery> Submit(Submission submission, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(submission);
        return Answer(submission, cancel);
    }

    /// <inheritdoc/>
    public Task<ImmutableArray<IntakeRuling>> Rulings(
        string address,
        string? secret,
        long after,
        CancellationToken cancel
    ) => Task.FromResult<ImmutableArray<IntakeRuling>>([]);

    private async Task<Delivery> Answer(Submission submission, CancellationToken cancel)
    {
        if (outside.Mood == OutsideMood.Slow)
            await Task.Delay(outside.Slowness, cancel);
        return (
            outside.Mood switch
            {
                OutsideMood.Works or OutsideMood.Slow => new Delivery.Accepted(Take(submission)),
                OutsideMood.Down => new Delivery.Later($"{submission.Address} cannot be reached."),
                OutsideMood.Refuses => new Delivery.Declined(
                    $"{submission.Authority} refuses report {submission.Number}: its intake is closed for this type."
                ),
                OutsideMood.Garbles => new Delivery.Later($"{submission.Address} answered something unreadable."),
                _ => Lost(submission),
            }
        );
    }

    private Delivery.Later Lost(Submission submission)
    {
        Take(submission);
        return new($"{submission.Address} did not answer in time; it may have taken the report.");
    }

    // Derived from the key, so that a stand-in that was started anew gives the same receipt too.
    private string Take(Submission submission) =>
        taken.GetOrAdd(submission.Key, key =>
            $"R-{Convert.ToHexString(SHA256.HashData(Encoding.UTF8.GetBytes(key)))[..8]}"
        );
}
