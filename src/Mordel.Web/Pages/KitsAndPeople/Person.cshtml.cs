using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Runs;
using Mordel.Data;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>A person: what may be signed on a day, certificates with their papers, what was changed.</summary>
public sealed class PersonModel(
    KitsAndPeopleList list,
    BranchList branches,
    TesterRights rights,
    AddCertificate certificates,
    PersonAccess access,
    MakeProfile rules,
    ChangeList changes,
    Sessions sessions,
    AuditLog audit,
    TimeProvider clock
) : PageModel
{
    public PersonLine Person { get; private set; } = null!;
    public DateOnly Today => clock.Today();

    /// <summary>The day that is asked about.</summary>
    public DateOnly Day { get; private set; }

    /// <summary>What may be signed on it, by authority and type.</summary>
    public IReadOnlyList<(string Authority, string Type, SigningRight Right)> May { get; private set; } = [];
    public IReadOnlyList<AuthorityRow> Authorities { get; private set; } = [];
    public IReadOnlyList<ChangeRow> Changes { get; private set; } = [];

    /// <summary>The branch that the person works for; null where there is none.</summary>
    public BranchOf? Branch { get; private set; }

    /// <summary>The devices on which a round was taken along.</summary>
    public IReadOnlyList<SessionRow> Devices { get; private set; } = [];

    /// <summary>
    /// A device is lost: its session ends, and it wipes what was taken along when it is next heard of.
    /// </summary>
    public async Task<IActionResult> OnPostCutOff(Guid id, Guid session, CancellationToken cancel)
    {
        if (await sessions.CutOff(session, id, cancel) is not { } device)
            return NotFound();
        await audit.Write(AuditKinds.CutOff, $"{id}", device.Device, cancel);
        return Redirect($"/kits-and-people/{id}#devices");
    }

    public async Task<IActionResult> OnGet(Guid id, DateOnly? day, CancellationToken cancel)
    {
        if ((await list.People(cancel)).FirstOrDefault(p => p.Account.Id == id) is not { } person)
            return NotFound();
        (Person, Day) = (person, day ?? Today);
        Branch = await branches.OfPerson(id, User.Id(), cancel);
        May = await rights.Of(person.Account, Day, cancel);
        Authorities = await rules.Authorities(cancel);
        Changes = await changes.Of([id], cancel);
        Devices = await sessions.WithRounds(id, cancel);
        if (User.IsInRole(Roles.Owner))
            await access.Load(id, cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostCertificate(
        Guid id,
        NewCertificate certificate,
        IFormFile? scan,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return await Shown(
            id,
            await certificates.With(certificate with { AccountId = id }, await scan.AsPaper(cancel), Author, cancel),
            cancel
        );
    }

    public async Task<IActionResult> OnPostScan(Guid id, Guid certificate, IFormFile? scan, CancellationToken cancel) =>
        await Shown(id, await certificates.Scan(certificate, await scan.AsPaper(cancel), Author, cancel), cancel);

    public async Task<IActionResult> OnPostEnd(
        Guid id,
        Guid certificate,
        DateOnly? lastDay,
        CancellationToken cancel
    ) => await Shown(id, await certificates.End(certificate, lastDay, Author, cancel), cancel);

    /// <summary>What the owner sees and does: roles, ways in, where they are signed in.</summary>
    public PersonAccess Access => access;

    /// <summary>A link to a new password, shown this once.</summary>
    public string? Link { get; private set; }

    public Task<IActionResult> OnPostPassword(Guid id, string? wanted, CancellationToken cancel) =>
        ByOwner(id, () => access.Passwords.Give(id, wanted, Author, cancel), cancel);

    public Task<IActionResult> OnPostRoles(Guid id, string[] roles, CancellationToken cancel) =>
        ByOwner(id, () => access.Roles.Set(id, roles, Author, cancel), cancel);

    public Task<IActionResult> OnPostMail(Guid id, string? mail, CancellationToken cancel) =>
        ByOwner(id, () => access.Roles.Mail(id, mail, Author, cancel), cancel);

    public Task<IActionResult> OnPostDismiss(Guid id, CancellationToken cancel) =>
        ByOwner(id, () => access.Roles.Dismiss(id, Author, cancel), cancel);

    public Task<IActionResult> OnPostTakeBack(Guid id, CancellationToken cancel) =>
        ByOwner(id, () => access.Roles.TakeBack(id, Author, cancel), cancel);

    public Task<IActionResult> OnPostForget(Guid id, CancellationToken cancel) =>
        ByOwner(id, () => access.Forget.Of(id, Author, cancel), cancel);

    public async Task<IActionResult> OnPostLink(Guid id, CancellationToken cancel)
    {
        if (!User.IsInRole(Roles.Owner))
            return Forbid();
        var made = await access.Passwords.Link(id, KeepPasswords.LinkGiven, Author, cancel);
        if (made.Why == NotDone.NotFound)
            return NotFound();
        this.Say(made.Errors);
        Link = made.Value is { } secret ? $"{Request.Scheme}://{Request.Host}/new-password/{secret}" : null;
        return await OnGet(id, null, cancel);
    }

    /// <summary>All that is kept about somebody, who has asked for it.</summary>
    public async Task<IActionResult> OnGetAbout(Guid id, CancellationToken cancel)
    {
        if (!User.IsInRole(Roles.Owner))
            return Forbid();
        return await access.About(id, cancel) is { } file
            ? File(file, "application/json", "about-a-person.json")
            : NotFound();
    }

    private async Task<IActionResult> ByOwner(Guid id, Func<Task<Reply<Guid>>> command, CancellationToken cancel) =>
        User.IsInRole(Roles.Owner) ? await Shown(id, await command(), cancel) : Forbid();

    private Author Author => new(User.Name());

    private Task<IActionResult> Shown(Guid id, Reply<Guid> reply, CancellationToken cancel) =>
        this.Answer(reply, _ => $"/kits-and-people/{id}", () => OnGet(id, null, cancel));
}
