using System.Threading.RateLimiting;

namespace Mordel.Web.Application;

/// <summary>
/// Lets as many compute at once as there are processors, and two on a small machine, so that a heavy one does not keep
/// all others waiting; whoever comes later waits for a turn, in order.
/// </summary>
public sealed class ComputeQueue : IDisposable
{
    private readonly ConcurrencyLimiter limiter = new(
        new()
        {
            PermitLimit = Math.Max(2, Environment.ProcessorCount),
            QueueLimit = int.MaxValue,
            QueueProcessingOrder = QueueProcessingOrder.OldestFirst,
        }
    );

    /// <summary>Does work when its turn comes, off the request's thread.</summary>
    /// <typeparam name="T">What comes of it.</typeparam>
    /// <param name="work">Does it.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <exception cref="OperationCanceledException">Whoever asked is gone.</exception>
    public async Task<T> Take<T>(Func<Task<T>> work, CancellationToken cancel)
    {
        using var lease = await limiter.AcquireAsync(1, cancel);
        return await Task.Run(work, cancel);
    }

    public void Dispose() => limiter.Dispose();
}
