using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rounds;

/// <summary>What is chosen when rounds are to be planned.</summary>
public sealed record RoundChoice
{
    public DateOnly? Day { get; init; }
    public DateOnly? Until { get; init; }

    /// <summary>The testers who may go.</summary>
    public List<Guid> Testers { get; init; } = [];

    /// <summary>The assemblies, where they were marked; else what is due.</summary>
    public List<Guid> Ids { get; init; } = [];

    /// <summary>Everything that is due by this day, where none is marked.</summary>
    public DateOnly? DueBy { get; init; }

    /// <summary>How many of it at most.</summary>
    public int? Most { get; init; }

    /// <summary>The branch whose people go to what it owes; null for the own, <c>all</c> for all.</summary>
    public string? Branch { get; init; }

    /// <summary>Whether there is work on Saturday and Sunday.</summary>
    public bool Weekends { get; init; }
}

/// <summary>Rounds: what is planned in the days ahead, proposals, and a new one.</summary>
public sealed class IndexModel(
    ProposalList list,
    RoundsAhead ahead,
    KitsAndPeopleList people,
    BranchList branches,
    ProposeRounds propose,
    ConsentList consents,
    TimeProvider clock
) : PageModel
{
    public const int UsualMost = 40;

    public IReadOnlyList<ProposalList.Line> Proposals { get; private set; } = [];
    public IReadOnlyList<RoundAhead> Ahead { get; private set; } = [];

    /// <summary>What owners ask for and the rounds do not give.</summary>
    public IReadOnlyList<OpenWish> Wishes { get; private set; } = [];
    public IReadOnlyList<Data.Rows.Account> Testers { get; private set; } = [];
    public RoundChoice Choice { get; private set; } = new();
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public DateOnly Today => clock.Today();

    /// <summary>The next day on which somebody works.</summary>
    public DateOnly NextDay =>
        Today.AddDays(
            Today.DayOfWeek switch
            {
                DayOfWeek.Friday => 3,
                DayOfWeek.Saturday => 2,
                _ => 1,
            }
        );

    public async Task OnGet(string? branch, CancellationToken cancel)
    {
        Branches = await branches.For(User.Id(), cancel);
        Choice = Choice with { Branch = Branches.Shown(branch) };
        Proposals = await list.Latest(cancel);
        Testers = await people.In(Roles.Tester, cancel, User.Sends(Branches, Choice.Branch));
        Ahead = await ahead.From(Today, Choice.Branch, cancel);
        Wishes = await consents.Open(Choice.Branch, cancel);
    }

    /// <summary>The form again with what was marked in Due.</summary>
    public async Task OnPostChoose(RoundChoice choice, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(choice);
        ModelState.Clear();
        Choice = choice with { Testers = [], Day = null };
        if (choice.Ids.Count == 0)
            this.Say([new FieldError("", "Nothing was marked in Due; choose here what is due.")]);
        await OnGet(choice.Branch, cancel);
    }

    /// <summary>Begins a proposal.</summary>
    public async Task<IActionResult> OnPostPlan(RoundChoice choice, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(choice);
        Choice = choice;
        if (choice.Day is not { } first || (choice.Until ?? first) < first)
        {
            this.Say([new FieldError("day", "Choose a day, and a last one that is not before it.")]);
            await OnGet(choice.Branch, cancel);
            return Page();
        }

        var ids =
            choice.Ids.Count > 0
                ? choice.Ids
                : await ahead.Due(choice.DueBy, choice.Most ?? UsualMost, choice.Branch, cancel);
        var days = Enumerable
            .Range(0, Math.Min(60, (choice.Until ?? first).DayNumber - first.DayNumber + 1))
            .Select(first.AddDays)
            .Where(d => choice.Weekends || d == first || d.DayOfWeek is not (DayOfWeek.Saturday or DayOfWeek.Sunday));
        return await this.Answer(
            await propose.With(new([.. days], [.. choice.Testers], [.. ids]), new(User.Name()), cancel),
            id => $"/rounds/{id}",
            () => OnGet(choice.Branch, cancel)
        );
    }

    /// <summary>Plans what is left of today anew, from now.</summary>
    public async Task<IActionResult> OnPostAgain(List<Guid> withoutKit, string? branch, CancellationToken cancel)
    {
        await OnGet(branch, cancel);
        var testers = Ahead.Where(a => a.Day == Today).Select(a => a.TesterId).ToList();
        var now = TimeOnly.FromDateTime(clock.GetLocalNow().DateTime);
        return await this.Answer(
            await propose.With(
                new([Today], [.. testers], [], new(now.Hour, now.Minute)) { WithoutKit = [.. withoutKit] },
                new(User.Name()),
                cancel
            ),
            id => $"/rounds/{id}",
            () => Task.CompletedTask
        );
    }
}
