using Microsoft.AspNetCore.Identity;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>
/// Passwords: everybody changes their own; who has forgotten theirs gets one from the owner, or a link by which to set
/// one. Whoever is signed in with the one before is signed out.
/// </summary>
public sealed class KeepPasswords(
    Store store,
    UserManager<Account> users,
    Sessions sessions,
    KeepLinks links,
    ChangeLog log,
    WhoAsks who
)
{
    /// <summary>How long a link given by the owner holds, and one asked for by mail.</summary>
    public static readonly TimeSpan LinkGiven = TimeSpan.FromDays(3),
        LinkByMail = TimeSpan.FromHours(1);

    /// <summary>Changes one's own.</summary>
    /// <param name="accountId">Whose it is: who asks.</param>
    /// <param name="current">The one there is; not asked where there is none.</param>
    /// <param name="wanted">The one wanted.</param>
    /// <param name="again">The same, typed again.</param>
    /// <param name="session">Where it is done: that goes on.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> Change(
        Guid accountId,
        Guid? session,
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
            who.Note(AuditKinds.SignInFailed, $"{account.Id}", "at the change of the password");
            await store.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            fields.That("current", false, "That is not your password.");
            return fields;
        }

        var reply = await Set(account, wanted, new(account.FullName), "changed", mustChange: false, cancel);
        return await Done(reply, session, transaction, cancel);
    }

    /// <summary>Gives one to somebody, who must change it before anything else.</summary>
    /// <param name="accountId">To whom.</param>
    /// <param name="wanted">The password.</param>
    /// <param name="author">The owner.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> Give(Guid accountId, string? wanted, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        var reply = await Set(account, wanted, author, "given by the owner", mustChange: true, cancel);
        return await Done(reply, null, transaction, cancel);
    }

    /// <summary>Makes a link by which somebody sets one.</summary>
    /// <param name="accountId">Who.</param>
    /// <param name="holds">How long it holds.</param>
    /// <param name="author">Who makes it.</param>
    /// <param name="cancel">Ends the wait.</param>
    /// <returns>Its secret, the only copy.</returns>
    public async Task<Reply<string>> Link(Guid accountId, TimeSpan holds, Author author, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<string>.NotFound("There is no such account.");
        if (account.DismissedAt is not null)
            return Reply<string>.Refused($"{account.FullName} was dismissed. Take them back in first.");
        log.Write(author, Things.Person, accountId, "password", "", "a link to set one was made");
        await links.End(LinkPurposes.Password, accountId, null, cancel);
        var secret = links.Add(LinkPurposes.Password, accountId, holds, author.By).Secret;
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return secret;
    }

    /// <summary>Sets one by a link, which holds no more.</summary>
    /// <param name="secret">What the link carries.</param>
    /// <param name="wanted">The password wanted.</param>
    /// <param name="again">The same, typed again.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> ByLink(string? secret, string? wanted, string? again, CancellationToken cancel)
    {
        var fields = new FieldErrors();
        fields.That("again", wanted == again, "The two passwords are not the same.");
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await Whose(secret, cancel) is not { } account)
            return Reply<Guid>.NotFound("The link is used, or too old.");
        who.Is(account.Id, account.FullName, who.From);
        var reply = await Set(account, wanted, new(account.FullName), "set by a link", mustChange: false, cancel);
        return await Done(reply, null, transaction, cancel);
    }

    /// <summary>Whose password a link sets; null where it is not known, used, too old, or theirs who was
    /// dismissed.</summary>
    public async Task<Account?> Whose(string? secret, CancellationToken cancel) =>
        await links.Find(secret, cancel, LinkPurposes.Password) is { } link
        && await users.FindByIdAsync($"{link.OfId}") is { DismissedAt: null } account
            ? account
            : null;

    private async Task<Reply<Guid>> Set(
        Account account,
        string? wanted,
        Author author,
        string how,
        bool mustChange,
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
        account.MustChangePassword = mustChange;
        log.Write(author, Things.Person, account.Id, "password", "", how);
        await store.SaveChangesAsync(cancel);
        return account.Id;
    }

    // Whoever had the old one, or a link, has nothing any more.
    private async Task<Reply<Guid>> Done(Reply<Guid> reply, Guid? goesOn, Writing transaction, CancellationToken cancel)
    {
        if (reply.Why is not null)
            return reply;
        await links.End(LinkPurposes.Password, reply.Value, null, cancel);
        await sessions.EndAll(reply.Value, goesOn, cancel);
        await transaction.CommitAsync(cancel);
        return reply;
    }
}
