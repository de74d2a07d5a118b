using Microsoft.AspNetCore.Identity;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>What somebody signs in with beside a password: passkeys, and codes of a device of theirs.</summary>
public sealed class KeepWaysIn(Store store, UserManager<Account> users, ChangeLog log)
{
    /// <summary>How many codes are put by.</summary>
    public const int PutBy = 8;

    private const int MostPasskeys = 10;

    /// <summary>Keeps a passkey under a name.</summary>
    public async Task<Reply<Guid>> AddPasskey(
        Guid accountId,
        UserPasskeyInfo passkey,
        string? name,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(passkey);
        var fields = new FieldErrors();
        passkey.Name = fields.Text("name", name, "What it is on", 60);
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        if ((await users.GetPasskeysAsync(account)).Count >= MostPasskeys)
            return Reply<Guid>.Refused($"{MostPasskeys} passkeys are enough; take one away first.");
        if (await users.AddOrUpdatePasskeyAsync(account, passkey) is { Succeeded: false } wrong)
            return Reply<Guid>.Refused(wrong.Errors.First().Description);
        return await Done(account, "passkey", "", passkey.Name, transaction, cancel);
    }

    /// <summary>Takes one away.</summary>
    /// <param name="accountId">Whose.</param>
    /// <param name="credential">Its id, in hexadecimal.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<Reply<Guid>> RemovePasskey(Guid accountId, string? credential, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (
            await users.FindByIdAsync($"{accountId}") is not { } account
            || (await users.GetPasskeysAsync(account)).FirstOrDefault(k => IdOf(k) == credential) is not { } key
        )
            return Reply<Guid>.NotFound("There is no such passkey.");
        await users.RemovePasskeyAsync(account, key.CredentialId);
        return await Done(account, "passkey", key.Name ?? "one", "taken away", transaction, cancel);
    }

    /// <summary>The id of a passkey as pages carry it, in hexadecimal.</summary>
    public static string IdOf(UserPasskeyInfo passkey)
    {
        ArgumentNullException.ThrowIfNull(passkey);
        return Convert.ToHexStringLower(passkey.CredentialId);
    }

    /// <summary>
    /// A new secret for a device that shows codes; nothing is asked for until a code of it was typed.
    /// </summary>
    public async Task<Reply<string>> BeginCodes(Guid accountId, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<string>.NotFound("There is no such account.");
        if (account.TwoFactorEnabled)
            return Reply<string>.Refused("Codes are asked for already.");
        await users.ResetAuthenticatorKeyAsync(account);
        var key = await users.GetAuthenticatorKeyAsync(account);
        await transaction.CommitAsync(cancel);
        return key!;
    }

    /// <summary>Asks for codes from now on; answers those to put by.</summary>
    public async Task<Reply<IReadOnlyList<string>>> AskForCodes(Guid accountId, string? code, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<IReadOnlyList<string>>.NotFound("There is no such account.");
        var digits = new string([.. (code ?? "").Where(char.IsAsciiDigit)]);
        var fields = new FieldErrors();
        fields.That(
            "code",
            !account.TwoFactorEnabled
                && await users.VerifyTwoFactorTokenAsync(
                    account,
                    users.Options.Tokens.AuthenticatorTokenProvider,
                    digits
                ),
            "That is not the code that the device shows now. Is its clock right?"
        );
        if (fields.Any)
            return fields;
        await users.SetTwoFactorEnabledAsync(account, true);
        var putBy = await users.GenerateNewTwoFactorRecoveryCodesAsync(account, PutBy);
        await Done(account, "codes", "", "asked for", transaction, cancel);
        return new([.. putBy!], null, null);
    }

    /// <summary>Asks for codes no more.</summary>
    public async Task<Reply<Guid>> AskForNone(Guid accountId, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await users.FindByIdAsync($"{accountId}") is not { } account)
            return Reply<Guid>.NotFound("There is no such account.");
        await users.SetTwoFactorEnabledAsync(account, false);
        await users.ResetAuthenticatorKeyAsync(account);
        return await Done(account, "codes", "asked for", "not asked for", transaction, cancel);
    }

    private async Task<Reply<Guid>> Done(
        Account account,
        string what,
        string from,
        string to,
        Writing transaction,
        CancellationToken cancel
    )
    {
        log.Write(new(account.FullName), Things.Person, account.Id, what, from, to);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return account.Id;
    }
}
