using Microsoft.AspNetCore.Identity;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>Makes an account for somebody, with one role.</summary>
public sealed class AddPerson(Store store, UserManager<Account> users, ChangeLog log)
{
    /// <summary>Makes it.</summary>
    /// <param name="fullName">As it stands on reports.</param>
    /// <param name="userName">What they sign in with.</param>
    /// <param name="role">One of <see cref="Roles.All"/>.</param>
    /// <param name="password">Their first password.</param>
    /// <param name="author">Who adds them.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> With(
        string? fullName,
        string? userName,
        string? role,
        string? password,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        var account = new Account
        {
            Id = Guid.CreateVersion7(),
            FullName = fields.Text("fullName", fullName, "Full name"),
            UserName = fields.Text("userName", userName, "Name to sign in with", 100),
            // Whoever added them knows it.
            MustChangePassword = true,
        };
        var theirs = fields.OneOf("role", role, "Role", Roles.All);
        if (fields.Any)
            return fields;
        await using var transaction = await store.BeginWriting(cancel);
        var made = await users.CreateAsync(account, password ?? "");
        if (!made.Succeeded)
            return MakeOwner.Problems(made);
        await users.AddToRoleAsync(account, theirs);
        log.New(author, Things.Person, account.Id, $"{account.FullName} came in, as {theirs}");
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return account.Id;
    }
}
