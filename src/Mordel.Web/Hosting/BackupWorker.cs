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
    private static readonly TimeOnly Night = new(2, 15);

    protected override async Task Work(CancellationToken stopping)
    {
        if (!options.MakesBackups)
            return;
        while (!stopping.IsCancellationRequested)
        {
            await Task.Delay(UntilNight(), clock, stopping);
            if (await desk.Make("nightly", null, stopping) is { } why)
                Failed(why);
        }
    }

    private TimeSpan UntilNight()
    {
        var now = clock.GetLocalNow().DateTime;
        var next = now.Date.Add(Night.ToTimeSpan());
        return (next > now ? next : next.AddDays(1)) - now;
    }

    [LoggerMessage(Level = LogLevel.Error, Message = "No backup was made: {Why}")]
    private partial void Failed(string why);
}
