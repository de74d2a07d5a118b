using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// Deletes what is kept of somebody who was dismissed, but for what the law of records keeps: their name on what they
/// tested and changed, their certificates, and the log of what was done.
/// </summary>
public sealed class ForgetPerson(
    Store store,
    UserManager<Account> users,
    KeepLinks links,
    ChangeLog log,
    TimeProvider clock
)
{
    /// <summary>What stands for the name of somebody who never tested, certified or changed anything.</summary>
    public const string Nameless = "Somebody who left";

    /// <summary>What is deleted, in words.</summary>
    public static readonly IReadOnlyList<string> Deletes =
    [
        "name to sign in with, password, passkeys, codes",
        "mail address and telephone",
        "where and with which devices they were signed in",
        "keys for programs and the link to their calendar",
        "working hours",
        "what they did at the bench and in classes",
    ];

    /// <summary>What stays, in words, with the reason.</summary>
    public static readonly IReadOnlyList<string> Keeps =
    [
        "their name in sealed reports, runs, certificates and repairs: a report must say who tested, with what right",
        "certificates with their papers",
        "the log of what was done, which nobody can change",
    ];

    /// <summary>Deletes it.</summary>
    public async Task<Reply<Guid>> Of(Guid accountId, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        if (account.DismissedAt is null)
            return Reply<Guid>.Refused("Dismiss them first: who still works here cannot be forgotten.");
        if (account.ForgottenAt is not null)
            return accountId;
        await DeleteRows(account, cancel);
        await links.End(LinkPurposes.Calendar, accountId, null, cancel);
        var isOnRecord =
            await store.Runs.AnyAsync(r => r.TesterId == accountId, cancel)
            || await store.Certificates.AnyAsync(c => c.AccountId == accountId, cancel)
            || await store.Repairs.AnyAsync(r => r.OpenedById == accountId, cancel);
        if (!isOnRecord)
            account.FullName = Nameless;
        account.UserName = $"left-{accountId:N}";
        (account.Email, account.PhoneNumber, account.PasswordHash) = (null, null, null);
        (account.EmailConfirmed, account.TwoFactorEnabled) = (false, false);
        account.ForgottenAt = clock.Now();
        if (await users.UpdateAsync(account) is { Succeeded: false } wrong)
            return MakeOwner.Problems(wrong);
        log.Write(author, Things.Person, accountId, "", "", "what the law of records does not keep was deleted");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return accountId;
    }

    private async Task DeleteRows(Account account, CancellationToken cancel)
    {
        var id = account.Id;
        await store.Sessions.Where(s => s.AccountId == id).ExecuteDeleteAsync(cancel);
        await store.Tokens.Where(t => t.AccountId == id).ExecuteDeleteAsync(cancel);
        await store.UserTokens.Where(t => t.UserId == id).ExecuteDeleteAsync(cancel);
        await store.UserLogins.Where(l => l.UserId == id).ExecuteDeleteAsync(cancel);
        await store.WorkingHours.Where(h => h.AccountId == id).ExecuteDeleteAsync(cancel);
        await store.Attempts.Where(a => a.AccountId == id).ExecuteDeleteAsync(cancel);
        await store.ClassMembers.Where(m => m.AccountId == id).ExecuteDeleteAsync(cancel);
        foreach (var key in await users.GetPasskeysAsync(account))
            await users.RemovePasskeyAsync(account, key.CredentialId);
    }
}
