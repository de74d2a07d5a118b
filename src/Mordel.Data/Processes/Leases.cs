using Medallion.Threading;
using Medallion.Threading.Postgres;
using Npgsql;

namespace Mordel.Data.Processes;

/// <summary>A duty that one process alone has, as long as it holds it.</summary>
/// <param name="held">What is let go of at the end.</param>
/// <param name="lost">Cancelled when it is lost before: the connection to the server is gone.</param>
public sealed class Lease(IAsyncDisposable? held, CancellationToken lost) : IAsyncDisposable
{
    /// <summary>Cancelled when it is lost.</summary>
    public CancellationToken Lost => lost;

    /// <summary>Gives it back; what is lost need not be.</summary>
    public async ValueTask DisposeAsync()
    {
        try
        {
            if (held is not null)
                await held.DisposeAsync();
        }
        catch (Exception e) when (e is NpgsqlException or InvalidOperationException)
        {
            // Its connection is gone, and the server has given it on.
        }
    }
}

/// <summary>Who does what only one process may do: a process that is alone does everything.</summary>
public class Leases
{
    /// <summary>Waits until this process is the one.</summary>
    /// <param name="duty">The duty: a short word.</param>
    /// <param name="cancel">Ends the wait.</param>
    public virtual Task<Lease> Take(string duty, CancellationToken cancel) =>
        Task.FromResult(new Lease(null, CancellationToken.None));
}

/// <summary>
/// Duties by the server's advisory locks. They belong to a connection: when a process dies, the server lets the next
/// one have its duties, at once where the machine goes on, within some seconds where it is gone with it.
/// </summary>
public sealed class PostgresLeases(string connection) : Leases
{
    private static readonly TimeSpan Alive = TimeSpan.FromSeconds(5);

    private readonly string own = new NpgsqlConnectionStringBuilder(connection)
    {
        // Asked for by the server too: a machine that has gone says nothing.
        Options =
            $"{new NpgsqlConnectionStringBuilder(connection).Options} -c tcp_keepalives_idle=5 "
            + "-c tcp_keepalives_interval=5 -c tcp_keepalives_count=3",
        ApplicationName = "mordel duties",
    }.ConnectionString;

    /// <inheritdoc/>
    public override async Task<Lease> Take(string duty, CancellationToken cancel)
    {
        var key = new PostgresAdvisoryLockKey($"mordel {duty}", allowHashing: true);
        IDistributedLock duties = new PostgresDistributedLock(key, own, o => o.KeepaliveCadence(Alive));
        var handle = await duties.AcquireAsync(timeout: null, cancel);
        return new(handle, handle.HandleLostToken);
    }
}
