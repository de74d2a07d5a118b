using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using Mordel.Core.Repairs;
using Mordel.Data;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Today;

/// <summary>A tester's day; for the office everybody's.</summary>
public sealed class IndexModel(
    TodayList today,
    KitsAndPeopleList people,
    BranchList branches,
    Alarms alarms,
    RepairList repairs,
    PartsList parts,
    ColourHoses colour,
    KeepCalendars calendars,
    TimeProvider clock
) : PageModel
{
    // More rounds than this are folded: who wants one opens it.
    private const int SeenAtOnce = 12;

    public DateOnly Day { get; private set; }
    public TodayView Mine { get; private set; } = null!;
    public IReadOnlyList<TodayView>? Rounds { get; private set; }

    /// <summary>Every round in a line, where there are too many to be seen at once.</summary>
    public IReadOnlyList<RoundLine>? Folded { get; private set; }

    /// <summary>What was found broken among what is sealed; for the desk.</summary>
    public IReadOnlyList<AlarmLine> AlarmLines { get; private set; } = [];

    /// <summary>Repairs not finished, and stopgaps to be put right: one's own, or everybody's.</summary>
    public IReadOnlyList<RepairRow> Repairs { get; private set; } = [];
    public IReadOnlyList<FollowUpRow> FollowUps { get; private set; } = [];

    /// <summary>What a tester takes along for the stops that are left, and why.</summary>
    public IReadOnlyList<Carried> Carry { get; private set; } = [];

    /// <summary>The branches, for the desk; and the one whose rounds are shown.</summary>
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public string? Branch { get; private set; }

    /// <param name="round">The tester whose round is opened, where rounds are folded.</param>
    /// <param name="branch">The branch whose rounds are shown; null for the own, <c>all</c> for all.</param>
    /// <param name="cancel">Cancels.</param>
    public async Task<IActionResult> OnGet(Guid? round, string? branch, CancellationToken cancel)
    {
        Day = clock.Today();
        if (!Rooms.Today.IsFor(User))
            return Redirect(Rooms.OpenTo(User).First().Href);
        var whose = User.Asker().SeesAll ? (Guid?)null : User.Id();
        Repairs = await repairs.Open(whose, cancel);
        FollowUps = await repairs.FollowUps(whose, cancel);
        if (User.Asker().SeesAll)
        {
            AlarmLines = [.. (await alarms.All(cancel)).Select(AlarmLine.From)];
            Branches = await branches.For(User.Id(), cancel);
            Branch = Branches.Shown(branch);
            var testers = await people.In(Roles.Tester, cancel, Branch);
            if (testers.Count > SeenAtOnce)
                Folded = await today.Lines(testers, Day, cancel);
            Rounds = await today.Days(
                Folded is null ? [.. testers] : [.. testers.Where(t => t.Id == round)],
                Day,
                cancel
            );
        }
        else
        {
            Mine = await today.For(User.Id(), Day, cancel);
            Carry = await parts.ToCarry(User.Id(), Day, cancel);
        }

        return Page();
    }

    /// <summary>The page with a round opened, or with none.</summary>
    public string Link(Guid? round, string? branch)
    {
        var address = QueryHelpers.AddQueryString(
            "/",
            new Dictionary<string, string?> { ["round"] = round?.ToString(), ["branch"] = branch }.Where(p =>
                p.Value is not null
            )
        );
        return round is null ? address : $"{address}#r-{round}";
    }

    /// <summary>A tester says what colours the own kit's hoses have.</summary>
    public async Task<IActionResult> OnPostHoses(
        Guid kitId,
        string? high,
        string? low,
        string? bypass,
        CancellationToken cancel
    )
    {
        if (!Rooms.Today.IsFor(User))
            return Forbid();
        return await this.Answer(
            await colour.Of(kitId, User.Id(), atTheDesk: false, high, low, bypass, new(User.Name()), cancel),
            _ => "/",
            () => OnGet(null, null, cancel)
        );
    }

    /// <summary>The address of the own calendar, just made; it is shown once.</summary>
    public string? CalendarAddress { get; private set; }

    /// <summary>A tester wants the rounds as a calendar at an address of its own; an earlier one ends.</summary>
    public async Task<IActionResult> OnPostCalendar(CancellationToken cancel)
    {
        if (!User.IsInRole(Roles.Tester))
            return Forbid();
        CalendarAddress =
            $"{Request.Scheme}://{Request.Host}/calendar/{await calendars.Issue(User.Id(), User.Name(), cancel)}.ics";
        return await OnGet(null, null, cancel);
    }

    /// <summary>The address of the own calendar ends.</summary>
    public async Task<IActionResult> OnPostNoCalendar(CancellationToken cancel)
    {
        if (!User.IsInRole(Roles.Tester))
            return Forbid();
        await calendars.Revoke(User.Id(), cancel);
        return Redirect("/");
    }

    /// <summary>
    /// The owner has dealt with an alarm. The next check raises it again when the thing is still broken.
    /// </summary>
    public async Task<IActionResult> OnPostSettle(Guid id, CancellationToken cancel)
    {
        if (!User.IsInRole(Roles.Owner))
            return Forbid();
        await alarms.End(id, cancel);
        return Redirect("/");
    }
}

/// <summary>An alarm with what it leads to.</summary>
public sealed record AlarmLine(
    Guid Id,
    string Subject,
    string Says,
    DateTimeOffset FirstSeenAt,
    Guid? RunId,
    Guid? AssemblyId
)
{
    /// <summary>The line of an alarm.</summary>
    public static AlarmLine From(AlarmRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return new(
            row.Id,
            row.Subject,
            row.Says,
            row.FirstSeenAt,
            Named(row.Subject, "run "),
            Named(row.Subject, "chain ")
        );
    }

    private static Guid? Named(string subject, string kind) =>
        subject.StartsWith(kind, StringComparison.Ordinal) && Guid.TryParse(subject[kind.Length..], out var id)
            ? id
            : null;
}
