using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Runs;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Commands.Rules;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.KitsAndPeople;

/// <summary>A person: what may be signed on a day, certificates with their papers, what was changed.</summary>
public sealed class PersonModel(
    KitsAndPeopleList list,
    TesterRights rights,
    AddCertificate certificates,
    KeepPasswords passwords,
    MakeProfile rules,
    ChangeList changes,
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

    public async Task<IActionResult> OnGet(Guid id, DateOnly? day, CancellationToken cancel)
    {
        if ((await list.People(cancel)).FirstOrDefault(p => p.Account.Id == id) is not { } person)
            return NotFound();
        (Person, Day) = (person, day ?? Today);
        May = await rights.Of(person.Account, Day, cancel);
        Authorities = await rules.Authorities(cancel);
        Changes = await changes.Of([id], cancel);
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

    /// <summary>The owner gives a password.</summary>
    public async Task<IActionResult> OnPostPassword(Guid id, string? wanted, CancellationToken cancel) =>
        User.IsInRole(Roles.Owner)
            ? await Shown(id, await passwords.Give(id, wanted, Author, cancel), cancel)
            : Forbid();

    private Author Author => new(User.Name());

    private Task<IActionResult> Shown(Guid id, Reply<Guid> reply, CancellationToken cancel) =>
        this.Answer(reply, _ => $"/kits-and-people/{id}", () => OnGet(id, null, cancel));
}
