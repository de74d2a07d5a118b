using Mordel.Data;
using Mordel.Data.Processes;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>Makes a backup every night, or when the owner asks, and tidies the shelf behind it.</summary>
public sealed partial class BackupWorker(
    Leases leases,
    BackupDesk desk,
    TimeProvider clock,
    MordelOptions options,
    ILogger<BackupWorker> log
) : Worker(leases, "backups")
{
    private static readonly TimeSpan AfterStart = TimeSpan.FromMinutes(5);
    private static readonly TimeOnly Night = new(2, 15);

    protected override async Task Work(CancellationToken stopping)
    {
        if (!options.MakesBackups)
            return;
        // A machine that is off at night has missed it.
        for (
            var wait = Missed ? AfterStart : clock.Until(Night);
            !stopping.IsCancellationRequested;
            wait = clock.Until(Night)
        )
        {
            await Task.Delay(wait, clock, stopping);
            try
            {
                if (await desk.Make("nightly", null, stopping) is { } why)
                    NotMade(why);
            }
            catch (Exception e) when (e is not OperationCanceledException)
            {
                Failed(e);
            }
        }
    }

    private bool Missed => desk.Shelf.All() is not [var last, ..] || clock.GetUtcNow() - last.At > TimeSpan.FromDays(1);

    [LoggerMessage(Level = LogLevel.Error, Message = "No backup was made: {Why}")]
    private partial void NotMade(string why);

    [LoggerMessage(Level = LogLevel.Error, Message = "The backup ended in trouble.")]
    private partial void Failed(Exception e);
}
