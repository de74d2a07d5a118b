using System.Threading.Channels;
using Microsoft.Extensions.Logging;
using Npgsql;

namespace Mordel.Data.Processes;

/// <summary>The processes that share a server: they hear of each other by its LISTEN and NOTIFY.</summary>
public sealed partial class PostgresNeighbours(string connection, ILogger<PostgresNeighbours> log) : Neighbours
{
    private const string Name = "mordel";

    // Signs that the server passes on, with room for who says it and what; messages that may wait.
    private const int Longest = 7_500,
        Most = 10_000;
    private static readonly TimeSpan Again = TimeSpan.FromSeconds(1);

    private readonly string self = Guid.NewGuid().ToString("N");
    private readonly Channel<string> waiting = Channel.CreateBounded<string>(
        new BoundedChannelOptions(Most) { FullMode = BoundedChannelFullMode.DropOldest }
    );

    /// <inheritdoc/>
    public override void Tell(string what, string says = "")
    {
        ArgumentNullException.ThrowIfNull(says);
        if (says.Length <= Longest)
            waiting.Writer.TryWrite($"{self} {what} {says}");
    }

    /// <inheritdoc/>
    public override Task Run(CancellationToken stopping) =>
        Task.WhenAll(Repeated(Listen, stopping), Repeated(Send, stopping));

    // A server that is started again is found again.
    private async Task Repeated(Func<CancellationToken, Task> work, CancellationToken stopping)
    {
        while (!stopping.IsCancellationRequested)
            try
            {
                await work(stopping);
            }
            catch (Exception e) when (!stopping.IsCancellationRequested)
            {
                Lost(e.Message);
                await Task.Delay(Again, stopping);
            }
    }

    private async Task Listen(CancellationToken stopping)
    {
        // One of its own, that is known to be alive.
        var own = new NpgsqlConnectionStringBuilder(connection) { Pooling = false, KeepAlive = 10 };
        await using var open = new NpgsqlConnection(own.ConnectionString);
        open.Notification += (_, told) => Take(told.Payload);
        await open.OpenAsync(stopping);
        await using (var listen = new NpgsqlCommand($"LISTEN {Name}", open))
            await listen.ExecuteNonQueryAsync(stopping);
        Missed();
        while (true)
            await open.WaitAsync(stopping);
    }

    private async Task Send(CancellationToken stopping)
    {
        while (await waiting.Reader.WaitToReadAsync(stopping))
        {
            await using var open = new NpgsqlConnection(connection);
            await open.OpenAsync(stopping);
            await using var tell = new NpgsqlCommand($"SELECT pg_notify('{Name}', $1)", open);
            var says = tell.Parameters.Add(new() { NpgsqlDbType = NpgsqlTypes.NpgsqlDbType.Text });
            while (waiting.Reader.TryRead(out var message))
            {
                says.Value = message;
                await tell.ExecuteNonQueryAsync(stopping);
            }
        }
    }

    private void Take(string message)
    {
        var parts = message.Split(' ', 3);
        if (parts is [var who, var what, var says] && who != self)
            Heard(what, says);
    }

    [LoggerMessage(Level = LogLevel.Warning, Message = "The other processes are not heard for the moment: {Why}")]
    private partial void Lost(string why);
}
