using System.Collections.Concurrent;
using System.Runtime.CompilerServices;
using System.Threading.Channels;
using Mordel.Core.Outside;
using Mordel.Core.Serialization;
using Mordel.Data.Processes;

namespace Mordel.Web.Api;

/// <summary>
/// Passes the lines of a gauge's bridge on to the screens that look at the same run. Nothing is kept: a reading is what
/// a tester takes.
/// </summary>
public sealed class GaugeHub : IGaugeSource
{
    private const string Read = "gauge";
    private readonly ConcurrentDictionary<Guid, ConcurrentDictionary<Channel<GaugeLine>, byte>> listening = new();
    private readonly Neighbours neighbours;

    /// <summary>Nobody listens yet.</summary>
    /// <param name="neighbours">Where other screens listen.</param>
    public GaugeHub(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.Hear(Read, Heard);
    }

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

    /// <summary>A line has come; answers how many screens of this process got it.</summary>
    public int Pass(Guid run, GaugeLine line)
    {
        ArgumentNullException.ThrowIfNull(line);
        neighbours.Tell(Read, $"{run:N} {(line with { By = null }).Write()}\n{line.By}");
        return PassHere(run, line);
    }

    // The run, the line as its bridge wrote it, and the name of the bridge's key.
    private void Heard(string says)
    {
        var (from, to) = (says.IndexOf(' ', StringComparison.Ordinal), says.IndexOf('\n', StringComparison.Ordinal));
        if (
            from > 0
            && to > from
            && Guid.TryParse(says[..from], out var run)
            && GaugeLine.Read(says[(from + 1)..to], out _) is { } line
        )
            PassHere(run, line with { By = says[(to + 1)..] is { Length: > 0 } by ? by : null });
    }

    private int PassHere(Guid run, GaugeLine line)
    {
        if (!listening.TryGetValue(run, out var all))
            return 0;
        foreach (var channel in all.Keys)
            channel.Writer.TryWrite(line);
        return all.Count;
    }
}
