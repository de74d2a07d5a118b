using Microsoft.AspNetCore.Identity;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// Passwords: everybody changes their own, the owner gives one to who has forgotten theirs or has none yet. Whoever is
/// signed in with the one before is signed out at the next look at it.
/// </summary>
public sealed class KeepPasswords(Store store, UserManager<Account> users, ChangeLog log)
{
    /// <summary>Changes one's own.</summary>
    /// <param name="accountId">Whose it is: who asks.</param>
    /// <param name="current">The one there is; not asked where there is none.</param>
    /// <param name="wanted">The one wanted.</param>
    /// <param name="again">The same, typed again.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> Change(
        Guid accountId,
        string? current,
        string? wanted,
        string? again,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        fields.That("again", wanted == again, "The two new passwords are not the same.");
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        if (await users.HasPasswordAsync(account) && !await users.CheckPasswordAsync(account, current ?? ""))
        {
            // Tries at it count as tries to sign in do.
            await users.AccessFailedAsync(account);
            await transaction.CommitAsync(cancel);
            fields.That("current", false, "That is not your password.");
            return fields;
        }

        return await Set(account, wanted, new(account.FullName), "changed", transaction, cancel);
    }

    /// <summary>Gives one to somebody.</summary>
    /// <param name="accountId">To whom.</param>
    /// <param name="wanted">The password; they change it when they have signed in.</param>
    /// <param name="author">The owner.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> Give(Guid accountId, string? wanted, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        return await users.FindByIdAsync($"{accountId}") is { } account
            ? await Set(account, wanted, author, "given by the owner", transaction, cancel)
            : Reply<Guid>.NotFound("There is no such account.");
    }

    private async Task<Reply<Guid>> Set(
        Account account,
        string? wanted,
        Author author,
        string how,
        Writing transaction,
        CancellationToken cancel
    )
    {
        foreach (var rule in users.PasswordValidators)
            if (await rule.ValidateAsync(users, account, wanted ?? "") is { Succeeded: false } wrong)
                return MakeOwner.Problems(wrong);
        if (await users.HasPasswordAsync(account))
            await users.RemovePasswordAsync(account);
        if (await users.AddPasswordAsync(account, wanted ?? "") is { Succeeded: false } not)
            return MakeOwner.Problems(not);
        await users.ResetAccessFailedCountAsync(account);
        await users.SetLockoutEndDateAsync(account, null);
        log.Write(author, Things.Person, account.Id, "password", "", how);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return account.Id;
    }
}
