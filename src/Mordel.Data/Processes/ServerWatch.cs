using Npgsql;

namespace Mordel.Data.Processes;

/// <summary>
/// Whether the database server is there. Who has met it away says so; it is asked until it answers, and whoever waits
/// goes on then.
/// </summary>
/// <param name="connection">How it is reached; null where there is only a file, which is always there.</param>
public sealed class ServerWatch(string? connection)
{
    private static readonly TimeSpan Again = TimeSpan.FromMilliseconds(200);
    private readonly Lock turn = new();
    private Task? asking;

    /// <summary>Whether there is a server to be away.</summary>
    public bool IsOfServer => connection is not null;

    /// <summary>Somebody has met it away.</summary>
    public void Missed()
    {
        lock (turn)
            if (connection is not null)
                asking ??= Task.Run(Ask);
    }

    /// <summary>Waits until it is there, at most so long; answers whether it is.</summary>
    public async Task<bool> Back(TimeSpan atMost, CancellationToken cancel)
    {
        if (asking is not { } until)
            return true;
        try
        {
            await until.WaitAsync(atMost, cancel);
            return true;
        }
        catch (TimeoutException)
        {
            return false;
        }
    }

    private async Task Ask()
    {
        var own = new NpgsqlConnectionStringBuilder(connection) { Pooling = false, Timeout = 2 }.ConnectionString;
        while (true)
            try
            {
                await using var open = new NpgsqlConnection(own);
                await open.OpenAsync();
                await using var command = new NpgsqlCommand("SELECT 1", open);
                await command.ExecuteScalarAsync();
                break;
            }
            catch (Exception e) when (e is NpgsqlException or TimeoutException)
            {
                await Task.Delay(Again);
            }

        // Connections of before are of no use.
        NpgsqlConnection.ClearAllPools();
        lock (turn)
            asking = null;
    }
}
