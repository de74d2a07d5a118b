using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>Makes a backup every night, or when the owner asks, and tidies the shelf behind it.</summary>
public sealed partial class BackupWorker(
    BackupDesk desk,
    TimeProvider clock,
    MordelOptions options,
    ILogger<BackupWorker> log
) : Worker
{
    private static readonly TimeSpan AfterStart = TimeSpan.FromMinutes(5);
    private static readonly TimeOnly Night = new(2, 15);

    protected override async Task Work(CancellationToken stopping)
    {
        if (!options.MakesBackups)
            return;
        // A machine that is off at night has missed it.
        for (var wait = Missed ? AfterStart : UntilNight(); !stopping.IsCancellationRequested; wait = UntilNight())
        {
            await Task.Delay(wait, clock, stopping);
            if (await desk.Make("nightly", null, stopping) is { } why)
                Failed(why);
        }
    }

    private bool Missed => desk.Shelf.All() is not [var last, ..] || clock.GetUtcNow() - last.At > TimeSpan.FromDays(1);

    private TimeSpan UntilNight()
    {
        var now = clock.GetLocalNow().DateTime;
        var next = now.Date.Add(Night.ToTimeSpan());
        return (next > now ? next : next.AddDays(1)) - now;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "No backup was made: {Why}")]
    private partial void Failed(string why);
}
