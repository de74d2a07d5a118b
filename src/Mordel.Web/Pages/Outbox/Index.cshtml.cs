using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Outside;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Rows;
using Mordel.Simulators;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Outbox;

/// <summary>What leaves the house: what is stuck and why, what waits, what was delivered.</summary>
public sealed class IndexModel(
    OutboxList list,
    SendReports send,
    OutboxBell bell,
    IFiles files,
    SimulatedOutside? outside = null
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
        (OutsideMood.Garbles, "answers something unreadable"),
    ];

    public async Task OnGet(CancellationToken cancel) => Outbox = await list.All(cancel);

    /// <summary>Tries again what is stuck.</summary>
    public async Task<IActionResult> OnPostAgain(Guid id, CancellationToken cancel) =>
        await this.Answer(await send.Again(id, cancel), _ => "/outbox", () => OnGet(cancel));

    /// <summary>Says how the simulated outside behaves from now on.</summary>
    public async Task<IActionResult> OnPostMood(OutsideMood mood, CancellationToken cancel)
    {
        if (outside is null)
            return NotFound();
        if (!ModelState.IsValid || !Enum.IsDefined(mood))
        {
            await OnGet(cancel);
            return this.Wrong("Choose one of the ways it can behave.");
        }

        outside.Mood = mood;
        bell.Ring();
        return Redirect("/outbox");
    }

    /// <summary>A letter as the simulated mail server keeps it.</summary>
    public async Task<IActionResult> OnGetLetter(Guid id, CancellationToken cancel) =>
        outside is not null
        && await list.Find(id, cancel) is { Way: OutboxWays.Mail } row
        && await files.Read(SimulatedMail.FileOf(row.Key), cancel) is { } letter
            ? File(letter, "text/plain; charset=utf-8")
            : NotFound();
}
