using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Audit;
using Mordel.Data.Backups;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Upkeep;

/// <summary>How the installation is: what is wrong, the last backup, the seals, who did what.</summary>
public sealed class IndexModel(
    InstallationState state,
    BackupDesk desk,
    WhoAsks who,
    MordelOptions options,
    TimeProvider clock
) : PageModel
{
    // A night that was missed may happen; two may not.
    private static readonly TimeSpan TooOld = TimeSpan.FromHours(50);

    public InstallationView View { get; private set; } = null!;

    /// <summary>What lies on the shelf, the latest first.</summary>
    public IReadOnlyList<ShelvedBackup> Backups { get; private set; } = [];

    public BackupDesk Desk => desk;

    public MordelOptions Options => options;

    /// <summary>Bytes: the database with what waits beside it, and what is free on its disk.</summary>
    public long DatabaseBytes { get; private set; }
    public long FreeBytes { get; private set; }

    /// <summary>Whether a backup is needed before anything else.</summary>
    public bool NeedsBackup => View.Backup is null || clock.GetUtcNow() - View.Backup.At > TooOld;

    /// <summary>Whether one was made just now.</summary>
    public bool Made { get; private set; }

    public async Task OnGet(bool made, CancellationToken cancel)
    {
        Made = made;
        View = await state.Now(cancel);
        Backups = desk.Shelf.All();
        DatabaseBytes = View.Bytes;
        FreeBytes = new DriveInfo(options.Data).AvailableFreeSpace;
    }

    /// <summary>Makes a backup now.</summary>
    public async Task<IActionResult> OnPost(CancellationToken cancel)
    {
        if (await desk.Make("asked for", who, cancel) is not { } why)
            return Redirect("/installation?made=true");
        await OnGet(false, cancel);
        return this.Wrong(why);
    }

    /// <summary>How long ago, in words.</summary>
    public string Ago(DateTimeOffset at) =>
        (clock.GetUtcNow() - at) switch
        {
            { TotalMinutes: < 2 } => "just now",
            { TotalMinutes: < 120 } ago => $"{ago.TotalMinutes:0} minutes ago",
            { TotalHours: < 48 } ago => $"{ago.TotalHours:0} hours ago",
            var ago => $"{ago.TotalDays:0} days ago",
        };

    /// <summary>A size in words.</summary>
    public static string Size(long bytes) =>
        bytes switch
        {
            < 1_000_000 => $"{bytes / 1000.0:0} KB",
            < 1_000_000_000 => $"{bytes / 1e6:0.#} MB",
            _ => $"{bytes / 1e9:0.#} GB",
        };
}
