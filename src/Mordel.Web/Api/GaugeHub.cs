using System.Collections.Concurrent;
using System.Threading.Channels;
using Mordel.Core.Serialization;

namespace Mordel.Web.Api;

/// <summary>
/// Passes the lines of a gauge's bridge on to the screens that look at the same run. Nothing is kept: a reading is what
/// a tester takes.
/// </summary>
public sealed class GaugeHub
{
    private readonly ConcurrentDictionary<Guid, ConcurrentDictionary<Channel<GaugeLine>, byte>> listening = new();

    /// <summary>A screen begins to listen.</summary>
    public Channel<GaugeLine> Listen(Guid run)
    {
        // A slow screen misses lines rather than getting old ones.
        var channel = Channel.CreateBounded<GaugeLine>(
            new BoundedChannelOptions(4) { FullMode = BoundedChannelFullMode.DropOldest }
        );
        listening.GetOrAdd(run, _ => new())[channel] = 0;
        return channel;
    }

    /// <summary>It ends.</summary>
    public void Leave(Guid run, Channel<GaugeLine> channel)
    {
        ArgumentNullException.ThrowIfNull(channel);
        channel.Writer.TryComplete();
        if (listening.TryGetValue(run, out var all))
            all.TryRemove(channel, out _);
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
