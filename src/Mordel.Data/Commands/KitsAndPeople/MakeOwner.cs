using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>Makes the first account of an installation, which owns it; nobody can once anybody exists.</summary>
public sealed class MakeOwner(Store store, UserManager<Account> users)
{
    /// <summary>Whether somebody is there already.</summary>
    public Task<bool> IsTooLate(CancellationToken cancel) => store.Users.AnyAsync(cancel);

    /// <summary>Makes the account; refused when somebody was first.</summary>
    public async Task<Reply<Account>> Of(string? userName, string fullName, string? password, CancellationToken cancel)
    {
        // Several at once stand in a line here: the first makes the owner, the others find the door closed.
        await using var transaction = await store.BeginWriting(cancel);
        if (await IsTooLate(cancel))
            return Reply<Account>.Refused("Somebody has an account here already.");
        var account = new Account
        {
            Id = Guid.CreateVersion7(),
            UserName = userName,
            FullName = fullName,
        };
        var made = await users.CreateAsync(account, password ?? "");
        if (!made.Succeeded)
            return Problems(made);
        await users.AddToRolesAsync(account, [Roles.Owner, Roles.Tester]);
        await transaction.CommitAsync(cancel);
        return account;
    }

    /// <summary>What the rules for accounts have against one, for the field of its password.</summary>
    public static FieldErrors Problems(IdentityResult made)
    {
        ArgumentNullException.ThrowIfNull(made);
        var fields = new FieldErrors();
        foreach (var error in made.Errors)
            fields.That("password", false, error.Description);
        return fields;
    }
}
