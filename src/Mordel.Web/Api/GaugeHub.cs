using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Mordel.Core.Outside;
using Mordel.Core.Serialization;

namespace Mordel.Web.Api;

/// <summary>
/// Passes the lines of a gauge's bridge on to the screens that look at the same run. Nothing is kept: a reading is what
/// a tester takes.
/// </summary>
public sealed class GaugeHub : IGaugeSource
{
    private readonly ConcurrentDictionary<Guid, ConcurrentDictionary<Channel<GaugeLine>, byte>> listening = new();

    /// <inheritdoc/>
    public async IAsyncEnumerable<GaugeLine> Lines(GaugeWatch watch, [EnumeratorCancellation] CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(watch);
        // A slow screen misses lines rather than getting old ones.
        var channel = Channel.CreateBounded<GaugeLine>(
            new BoundedChannelOptions(4) { FullMode = BoundedChannelFullMode.DropOldest }
        );
        var all = listening.GetOrAdd(watch.Run, _ => new());
        all[channel] = 0;
        try
        {
            await foreach (var line in channel.Reader.ReadAllAsync(cancel))
                yield return line;
        }
        finally
        {
            all.TryRemove(channel, out _);
        }
    }

    /// <summary>A line has come; answers how many screens got it.</summary>
    public int Pass(Guid run, GaugeLine line)
    {
        if (!listening.TryGetValue(run, out var all))
            return 0;
        foreach (var channel in all.Keys)
            channel.Writer.TryWrite(line);
        return all.Count;
    }
}
