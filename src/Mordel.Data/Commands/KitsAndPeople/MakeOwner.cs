using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>Makes the first account of an installation, which owns it; nobody can once anybody exists.</summary>
public sealed class MakeOwner(Store store, UserManager<Account> users)
{
    /// <summary>Whether somebody is there already.</summary>
    public Task<bool> IsTooLate(CancellationToken cancel) => store.Users.AnyAsync(cancel);

    /// <summary>Makes the account; null with no problems when somebody was first.</summary>
    public async Task<(Account? Owner, IReadOnlyList<string> Problems)> Of(
        string? userName,
        string fullName,
        string? password,
        CancellationToken cancel
    )
    {
        // Several at once stand in a line here: the first makes the owner, the others find the door closed.
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        if (await IsTooLate(cancel))
            return (null, []);
        var account = new Account
        {
            Id = Guid.CreateVersion7(),
            UserName = userName,
            FullName = fullName,
        };
        var made = await users.CreateAsync(account, password ?? "");
        if (!made.Succeeded)
            return (null, [.. made.Errors.Select(e => e.Description)]);
        await users.AddToRolesAsync(account, [Roles.Owner, Roles.Tester]);
        await transaction.CommitAsync(cancel);
        return (account, []);
    }
}
