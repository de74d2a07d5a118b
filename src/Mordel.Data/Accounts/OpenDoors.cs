using System.Collections.Concurrent;
using Mordel.Data.Processes;

namespace Mordel.Data.Accounts;

/// <summary>
/// The sockets that are open: each ends when what it stands on ends, a session, a program's key, a run that is signed.
/// </summary>
public sealed class OpenDoors
{
    private const string Closed = "closed";
    private readonly ConcurrentDictionary<Door, byte> open = new();
    private readonly Neighbours neighbours;

    /// <summary>None is open.</summary>
    /// <param name="neighbours">Where others are open.</param>
    public OpenDoors(Neighbours neighbours)
    {
        ArgumentNullException.ThrowIfNull(neighbours);
        this.neighbours = neighbours;
        neighbours.HearOf(Closed, CloseHere);
    }

    /// <summary>Opens one; null where somebody has too many. Disposed when the socket is closed.</summary>
    /// <param name="who">Whose it is.</param>
    /// <param name="most">How many they may have.</param>
    /// <param name="standsOn">The ids whose end ends it.</param>
    /// <param name="cancel">Ends it too.</param>
    public Door? Open(Guid who, int most, IEnumerable<Guid> standsOn, CancellationToken cancel)
    {
        var door = new Door(this, who, [.. standsOn], cancel);
        open[door] = 0;
        if (open.Keys.Count(d => d.Who == who) <= most)
            return door;
        door.Dispose();
        return null;
    }

    /// <summary>Ends all that stand on something, in every process.</summary>
    public void Close(Guid what)
    {
        CloseHere(what);
        neighbours.TellOf(Closed, what);
    }

    private void CloseHere(Guid what)
    {
        foreach (var door in open.Keys)
            if (door.StandsOn.Contains(what))
                door.End();
    }

    /// <summary>How many are open.</summary>
    public int Count => open.Count;

    /// <summary>A socket that is open.</summary>
    public sealed class Door : IDisposable
    {
        private readonly OpenDoors all;
        private readonly CancellationTokenSource over;
        private readonly Lock ending = new();
        private bool gone;

        internal Door(OpenDoors all, Guid who, HashSet<Guid> standsOn, CancellationToken cancel)
        {
            (this.all, Who, StandsOn) = (all, who, standsOn);
            over = CancellationTokenSource.CreateLinkedTokenSource(cancel);
        }

        internal Guid Who { get; }
        internal HashSet<Guid> StandsOn { get; }

        /// <summary>Cancelled when it ends.</summary>
        public CancellationToken Over => over.Token;

        internal void End()
        {
            lock (ending)
                if (!gone)
                    over.Cancel();
        }

        /// <inheritdoc/>
        public void Dispose()
        {
            all.open.TryRemove(this, out _);
            lock (ending)
            {
                gone = true;
                over.Dispose();
            }
        }
    }
}
