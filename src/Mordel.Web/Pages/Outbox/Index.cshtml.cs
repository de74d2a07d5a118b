using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Authorities;
using Mordel.Data.Commands.Notices;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Simulators;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Outbox;

/// <summary>What leaves the house: what is stuck and why, what waits, what was delivered.</summary>
public sealed class IndexModel(
    OutboxList list,
    BranchList branches,
    NoticeList notices,
    KeepNotices keep,
    SendAgain again,
    OutboxBell bell,
    SimulatedOutside? outside = null,
    SimulatedAuthorities? authorities = null
) : PageModel
{
    public OutboxView Outbox { get; private set; } = null!;

    /// <summary>How the simulated outside behaves; null where the outside is real.</summary>
    public OutsideMood? Mood => outside?.Mood;

    /// <summary>What the simulated outside can do, in words.</summary>
    public static IReadOnlyList<(OutsideMood Mood, string Says)> Moods { get; } =
    [
        (OutsideMood.Works, "works"),
        (OutsideMood.Down, "cannot be reached"),
        (OutsideMood.Refuses, "refuses what it gets"),
        (OutsideMood.LosesAnswers, "takes it, and its answer is lost"),
        (OutsideMood.Slow, "takes its time"),
        (OutsideMood.Garbles, "answers something unreadable"),
    ];

    /// <summary>The services of the demo's authorities; empty where there are none.</summary>
    public IReadOnlyList<AuthorityService> Services =>
        [.. (authorities?.Running.Values ?? []).OrderBy(s => s.Name, StringComparer.Ordinal)];

    /// <summary>How a service behaves, in words.</summary>
    public static string Says(AuthorityService service)
    {
        ArgumentNullException.ThrowIfNull(service);
        return service.Desk.DownUntil is { } until
            ? $"is closed until {until.ToLocalTime():HH:mm}"
            : AuthorityMoods.All.First(m => m.Mood == service.Desk.Mood).Says;
    }

    /// <summary>What has come back and nobody has put away.</summary>
    public IReadOnlyList<IncomingRow> Came { get; private set; } = [];

    /// <summary>The branches, and the one that is shown.</summary>
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public string? Branch { get; private set; }

    public async Task OnGet(string? branch, CancellationToken cancel)
    {
        Branches = await branches.For(User.Id(), cancel);
        Branch = Branches.Shown(branch);
        (Outbox, Came) = (await list.All(Branch, cancel), await notices.Unseen(cancel));
    }

    /// <summary>Puts away what has come.</summary>
    public async Task<IActionResult> OnPostSeen(Guid id, CancellationToken cancel) =>
        await this.Answer(await keep.Seen(id, new(User.Name()), cancel), _ => "/outbox", () => OnGet(null, cancel));

    /// <summary>Tries again what is stuck.</summary>
    public async Task<IActionResult> OnPostAgain(Guid id, CancellationToken cancel) =>
        await this.Answer(await again.It(id, new(User.Name()), cancel), _ => "/outbox", () => OnGet(null, cancel));

    /// <summary>Says how the simulated outside behaves from now on.</summary>
    public async Task<IActionResult> OnPostMood(OutsideMood mood, CancellationToken cancel)
    {
        if (outside is null)
            return NotFound();
        if (!ModelState.IsValid || !Enum.IsDefined(mood))
        {
            await OnGet(null, cancel);
            return this.Wrong("Choose one of the ways it can behave.");
        }

        outside.Mood = mood;
        bell.Ring();
        return Redirect("/outbox");
    }
}
