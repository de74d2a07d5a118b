using System.Threading.RateLimiting;
using Mordel.Data.Processes;

namespace Mordel.Web.Application;

/// <summary>Lets so many through within a window of time, wherever they are counted.</summary>
/// <param name="counts">Where.</param>
/// <param name="key">By what.</param>
/// <param name="most">How many.</param>
/// <param name="window">How long a window is.</param>
public sealed class CountedLimiter(WindowCounts counts, string key, int most, TimeSpan window) : RateLimiter
{
    private long asked = Environment.TickCount64;

    /// <inheritdoc/>
    public override TimeSpan? IdleDuration =>
        TimeSpan.FromMilliseconds(Environment.TickCount64 - Interlocked.Read(ref asked));

    /// <inheritdoc/>
    public override RateLimiterStatistics? GetStatistics() => null;

    // Nobody is let through without being counted, and that may take a moment.
    protected override RateLimitLease AttemptAcquireCore(int permitCount) => new Counted(false);

    protected override async ValueTask<RateLimitLease> AcquireAsyncCore(
        int permitCount,
        CancellationToken cancellationToken
    )
    {
        Interlocked.Exchange(ref asked, Environment.TickCount64);
        return new Counted(await counts.Add($"limit {key}", window, cancellationToken) <= most);
    }

    private sealed class Counted(bool isAcquired) : RateLimitLease
    {
        public override bool IsAcquired => isAcquired;

        public override IEnumerable<string> MetadataNames => [];

        public override bool TryGetMetadata(string metadataName, out object? metadata)
        {
            metadata = null;
            return false;
        }
    }
}
