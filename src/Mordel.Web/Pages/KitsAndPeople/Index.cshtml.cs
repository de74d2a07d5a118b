using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>Who tests with what, and until when they may; the desk adds to it.</summary>
public sealed class IndexModel(
    KitsAndPeopleList list,
    BranchList branches,
    AddKit addKit,
    ColourHoses colour,
    AddCertificate addCertificate,
    AddPerson addPerson,
    KeepWorkingHours keepHours,
    MakeProfile rules,
    ChangeList changes,
    TimeProvider clock
) : PageModel
{
    public IReadOnlyList<PersonLine> People { get; private set; } = [];
    public DateOnly Today => clock.Today();
    public bool MayAdd => User.IsAtTheDesk();

    private IEnumerable<PersonLine> Here => People.Where(p => p.Account.DismissedAt is null);

    /// <summary>Who comes in no more.</summary>
    public IReadOnlyList<PersonLine> Gone => [.. People.Where(p => p.Account.DismissedAt is not null)];

    /// <summary>Who tests, or has a kit or a certificate.</summary>
    public IReadOnlyList<PersonLine> Testers =>
        [.. Here.Where(p => p.Roles.Contains(Roles.Tester) || p.Kit is not null || p.Certificates.Count > 0)];

    /// <summary>Who only learns.</summary>
    public IReadOnlyList<PersonLine> Learners =>
        [.. Here.Except(Testers).Where(p => p.Roles.All(r => r == Roles.Learner))];

    /// <summary>Everybody else.</summary>
    public IReadOnlyList<PersonLine> Others => [.. Here.Except(Testers).Except(Learners)];

    /// <summary>A role as people say it.</summary>
    public static string InWords(string role) =>
        role switch
        {
            Roles.Tester => "tests",
            Roles.Office => "office",
            Roles.Instructor => "teaches at the bench",
            Roles.Learner => "learns",
            Roles.Owner => "owns the installation",
            _ => role,
        };

    /// <summary>Roles as people say them.</summary>
    public static string InWords(IReadOnlyList<string> roles) => string.Join(", ", roles.Select(InWords));

    /// <summary>The kits that nobody has.</summary>
    public IReadOnlyList<KitRow> PutBy { get; private set; } = [];

    /// <summary>Whose history is shown; null for everybody's.</summary>
    public PersonLine? Of { get; private set; }

    /// <summary>Who changed what about people and kits, the latest first.</summary>
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    /// <summary>What runs out soon, or has.</summary>
    public IReadOnlyList<(DateOnly Day, string What, Guid? Person)> Ending =>
        KitsAndPeopleList.Ending(Here.Where(p => p.Roles.Contains(Roles.Tester)), Today);

    /// <summary>The authorities that may take a certificate alone.</summary>
    public IReadOnlyList<AuthorityRow> Authorities { get; private set; } = [];

    /// <summary>The branches, and the one whose people are shown.</summary>
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public string? Branch { get; private set; }

    public async Task OnGet(Guid? of, string? branch, CancellationToken cancel)
    {
        Authorities = await rules.Authorities(cancel);
        Branches = await branches.For(User.Id(), cancel);
        Branch = Branches.Shown(branch);
        var only = BranchFilter.Id(Branch);
        People = [.. (await list.People(cancel)).Where(p => only is null || p.BranchId == only)];
        PutBy = await list.PutBy(Branch, cancel);
        Of = People.FirstOrDefault(p => p.Account.Id == of);
        var shown = Of is { } one ? [one] : People;
        if (MayAdd)
            Changes = await changes.Of(
                [
                    .. shown.Select(p => p.Account.Id),
                    .. shown.Select(p => p.Kit?.Id).OfType<Guid>(),
                    .. Of is null ? PutBy.Select(k => k.Id) : [],
                ],
                cancel
            );
    }

    public async Task<IActionResult> OnPostKit(NewKit kit, CancellationToken cancel) =>
        MayAdd ? await Shown(await addKit.With(kit, Author, cancel), cancel) : Forbid();

    public async Task<IActionResult> OnPostHoses(
        Guid kitId,
        string? high,
        string? low,
        string? bypass,
        CancellationToken cancel
    ) => await Shown(await colour.Of(kitId, User.Id(), MayAdd, high, low, bypass, Author, cancel), cancel);

    public async Task<IActionResult> OnPostCertificate(
        NewCertificate certificate,
        IFormFile? scan,
        CancellationToken cancel
    ) =>
        MayAdd
            ? await Shown(await addCertificate.With(certificate, await scan.AsPaper(cancel), Author, cancel), cancel)
            : Forbid();

    public async Task<IActionResult> OnPostHours(TypedHours hours, CancellationToken cancel) =>
        MayAdd ? await Shown(await keepHours.With(hours, Author, cancel), cancel) : Forbid();

    public async Task<IActionResult> OnPostPerson(
        string? fullName,
        string? userName,
        string? role,
        string? password,
        CancellationToken cancel
    )
    {
        if (!User.IsInRole(Roles.Owner))
            return Forbid();
        return await Shown(await addPerson.With(fullName, userName, role, password, Author, cancel), cancel);
    }

    private Author Author => new(User.Name());

    private Task<IActionResult> Shown(Reply<Guid> reply, CancellationToken cancel) =>
        this.Answer(reply, _ => "/kits-and-people", () => OnGet(null, null, cancel));
}
