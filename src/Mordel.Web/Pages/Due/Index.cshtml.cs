using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using Mordel.Core.Register;
using Mordel.Data;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Due;

/// <summary>What is owed: a year at a glance, overdue first; any set goes into a round.</summary>
public sealed class IndexModel(DueList list, KitsAndPeopleList people, AddStops add, TimeProvider clock) : PageModel
{
    // Beyond these no week is owed anything.
    private const int FirstYear = 1950,
        LastYear = 2200;

    public DueFilter Filter { get; private set; } = new();
    public DueYear Year { get; private set; } = new(0, [], 0, 0);
    public IReadOnlyList<DueLine> Lines { get; private set; } = [];
    public bool More { get; private set; }
    public IReadOnlyList<DueChoice> Authorities { get; private set; } = [];
    public IReadOnlyList<string> Districts { get; private set; } = [];
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public IReadOnlyList<Data.Rows.Account> Testers { get; private set; } = [];
    public string? OwnerName { get; private set; }
    public DateOnly Today => clock.Today();

    /// <summary>How many went into a round just now.</summary>
    public AddedStops? Added { get; private set; }

    public async Task OnGet(DueFilter filter, string? after, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        (Authorities, Districts, Branches) = await list.Choices(User.Id(), cancel);
        Filter = filter with
        {
            Branch = Branches.Shown(filter.Branch),
            Week = filter.Week is { Year: >= FirstYear and < LastYear } day ? DueList.MondayOf(day) : null,
        };
        Year = await list.Year(Filter, cancel);
        var lines = await list.Lines(Filter, After(after), cancel);
        (Lines, More) = ([.. lines.Take(DueList.PageSize)], lines.Count > DueList.PageSize);
        Testers = await people.In(Roles.Tester, cancel, User.Sends(Branches, Filter.Branch));
        OwnerName = Filter.Owner is { } owner ? await list.OwnerName(owner, cancel) : null;
    }

    /// <summary>Puts the marked ones into a round.</summary>
    public async Task<IActionResult> OnPost(DueFilter filter, List<Guid> ids, NewStop stop, CancellationToken cancel)
    {
        var reply = await add.With(ids, stop, cancel);
        await OnGet(filter, null, cancel);
        if (reply.Why is not null)
            this.Say(reply.Errors);
        else
            Added = reply.Value;
        return Page();
    }

    /// <summary>The page with another filter.</summary>
    public static string Link(DueFilter filter, string? after = null)
    {
        ArgumentNullException.ThrowIfNull(filter);
        var query = new Dictionary<string, string?>
        {
            ["show"] = filter.Show,
            ["authority"] = filter.Authority?.ToString(),
            ["district"] = filter.District,
            ["type"] = filter.Type,
            ["use"] = filter.Use,
            ["owner"] = filter.Owner?.ToString(),
            ["branch"] = filter.Branch,
            ["week"] = filter.Week is { } week ? Days.Write(week) : null,
            ["after"] = after,
        };
        return QueryHelpers.AddQueryString("/due", query.Where(q => q.Value is not null));
    }

    /// <summary>Under which head a line stands.</summary>
    public string Group(AssemblyRow assembly)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        var day = assembly.NextDue!.Value;
        return day < Today ? "Overdue"
            : DueList.MondayOf(day) == DueList.MondayOf(Today) ? "This week"
            : day < Today.AddDays(31) ? "Within a month"
            : day.ToString("MMMM yyyy", CultureInfo.InvariantCulture);
    }

    private static (DateOnly, string)? After(string? after) =>
        after is { Length: > 11 } && Days.Read(after[..10]) is { } day ? (day, after[11..]) : null;
}
