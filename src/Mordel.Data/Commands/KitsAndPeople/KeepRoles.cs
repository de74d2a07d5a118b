using System.Net.Mail;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Accounts;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// What somebody may do here, and whether they come in at all. Whoever loses or gains something signs in anew; somebody
/// always owns the installation.
/// </summary>
public sealed class KeepRoles(
    Store store,
    UserManager<Account> users,
    Sessions sessions,
    KeepLinks links,
    ApiKeys keys,
    ChangeLog log,
    TimeProvider clock
)
{
    /// <summary>Sets somebody's roles.</summary>
    /// <param name="accountId">Whose.</param>
    /// <param name="roles">All that they have then, of <see cref="Roles.All"/>.</param>
    /// <param name="author">The owner.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> Set(
        Guid accountId,
        IReadOnlyCollection<string> roles,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(roles);
        var fields = new FieldErrors();
        fields.That("roles", roles.Count > 0, "Give at least one; who does not come in any more is dismissed instead.");
        foreach (var role in roles)
            fields.OneOf("roles", role, "Role", Roles.All);
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        var before = (await users.GetRolesAsync(account)).Order(StringComparer.Ordinal).ToList();
        var wanted = roles.Distinct().Order(StringComparer.Ordinal).ToList();
        if (before.SequenceEqual(wanted))
            return accountId;
        if (before.Except(wanted).Contains(Roles.Owner) && await IsTheOnlyOwner(accountId, cancel))
            return Reply<Guid>.Refused($"Nobody would own the installation. Make somebody else its owner first.");
        await users.RemoveFromRolesAsync(account, before.Except(wanted));
        await users.AddToRolesAsync(account, wanted.Except(before));
        log.Write(author, Things.Person, accountId, "roles", string.Join(", ", before), string.Join(", ", wanted));
        await store.SaveChangesAsync(cancel);
        await sessions.EndAll(accountId, null, cancel);
        await transaction.CommitAsync(cancel);
        return accountId;
    }

    /// <summary>Sets where a link to a new password may be sent; empty for nowhere.</summary>
    public async Task<Reply<Guid>> Mail(Guid accountId, string? mail, Author author, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        var wanted = mail?.Trim() ?? "";
        fields.That(
            "mail",
            wanted.Length == 0
                || (wanted.Length <= 200 && MailAddress.TryCreate(wanted, out var read) && read.Address == wanted),
            "That is no mail address."
        );
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        // Which, nobody could delete again from the log.
        if (wanted != (account.Email ?? ""))
            log.Write(author, Things.Person, accountId, "mail", "", wanted.Length == 0 ? "taken away" : "set");
        await users.SetEmailAsync(account, wanted.Length == 0 ? null : wanted);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return accountId;
    }

    /// <summary>
    /// Lets somebody come in no more: signed out everywhere, their keys for programs taken back. What they did stays.
    /// </summary>
    public async Task<Reply<Guid>> Dismiss(Guid accountId, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        if (account.DismissedAt is not null)
            return accountId;
        if (await IsTheOnlyOwner(accountId, cancel))
            return Reply<Guid>.Refused($"Nobody would own the installation. Make somebody else its owner first.");
        account.DismissedAt = clock.Now();
        log.Write(author, Things.Person, accountId, "", "", $"{account.FullName} was dismissed");
        await users.UpdateSecurityStampAsync(account);
        await store.SaveChangesAsync(cancel);
        await sessions.EndAll(accountId, null, cancel);
        await links.End(LinkPurposes.Password, accountId, null, cancel);
        await keys.RevokeAll(accountId, cancel);
        await transaction.CommitAsync(cancel);
        return accountId;
    }

    /// <summary>Lets somebody come in again, with the password they had.</summary>
    public async Task<Reply<Guid>> TakeBack(Guid accountId, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        if (account.ForgottenAt is not null)
            return Reply<Guid>.Refused("What they signed in with was deleted. Make a new account.");
        if (account.DismissedAt is null)
            return accountId;
        account.DismissedAt = null;
        log.Write(author, Things.Person, accountId, "", "", $"{account.FullName} was taken back in");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return accountId;
    }

    private async Task<bool> IsTheOnlyOwner(Guid accountId, CancellationToken cancel)
    {
        var owners = await (
            from link in store.UserRoles
            join role in store.Roles on link.RoleId equals role.Id
            join user in store.Users on link.UserId equals user.Id
            where role.Name == Roles.Owner && user.DismissedAt == null
            select user.Id
        ).ToListAsync(cancel);
        return owners is [var only] && only == accountId;
    }
}
