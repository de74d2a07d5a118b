using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// People with their roles and certificates, a line a certificate. Nobody comes in with a password: who is new signs in
/// once the owner has given one.
/// </summary>
internal sealed class BroughtPeople(Store store, ChangeLog log, Author author)
{
    /// <summary>Takes them; what is wrong is said at each line.</summary>
    public async Task<List<LineState>> Take(IReadOnlyList<BroughtLine> lines, CancellationToken cancel)
    {
        var people = await store.Users.ToDictionaryAsync(u => u.NormalizedUserName ?? "", cancel);
        var roles = await store.Roles.ToDictionaryAsync(r => r.Name ?? "", cancel);
        var held = (await store.UserRoles.ToListAsync(cancel)).Select(r => (r.UserId, r.RoleId)).ToHashSet();
        var certificates = (await store.Certificates.ToListAsync(cancel))
            .Select(c => (c.AccountId, c.Number, c.ValidUntil))
            .ToHashSet();
        var authorities = await store.Authorities.ToDictionaryAsync(a => a.Name, a => a.Id, cancel);
        var states = new List<LineState>();
        foreach (var line in lines)
        {
            var (user, name) = (line.Text("user", 100), line.Text("name"));
            var theirs = line["roles"].Split(' ', StringSplitOptions.RemoveEmptyEntries);
            foreach (var role in theirs)
                line.Wants(Roles.All.Contains(role), $"{role} is no role; {string.Join(", ", Roles.All)}.");
            var normal = user.ToUpperInvariant();
            var state = LineState.Same;
            if (!people.TryGetValue(normal, out var account))
            {
                account = new()
                {
                    Id = Guid.CreateVersion7(),
                    UserName = user,
                    NormalizedUserName = normal,
                    FullName = name,
                    SecurityStamp = Guid.NewGuid().ToString("N"),
                    LockoutEnabled = true,
                };
                store.Users.Add(account);
                people[normal] = account;
                log.New(author, Things.Person, account.Id, $"{name} was brought in, without a password");
                state = LineState.New;
            }
            else if (account.FullName != name)
            {
                log.Write(author, Things.Person, account.Id, "name", account.FullName, name);
                account.FullName = name;
                state = LineState.Changed;
            }

            foreach (var role in theirs.Where(r => Roles.All.Contains(r)))
                if (held.Add((account.Id, Role(roles, role).Id)))
                {
                    store.UserRoles.Add(new() { UserId = account.Id, RoleId = roles[role].Id });
                    log.Write(author, Things.Person, account.Id, "role", "", role);
                    state = state == LineState.New ? state : LineState.Changed;
                }

            if (line["certificate"].Length > 0 && Certificate(line, account.Id, certificates, authorities))
                state = state == LineState.New ? state : LineState.Changed;
            states.Add(state);
        }

        return states;
    }

    private IdentityRole<Guid> Role(Dictionary<string, IdentityRole<Guid>> roles, string name)
    {
        if (roles.TryGetValue(name, out var role))
            return role;
        role = new()
        {
            Id = Guid.CreateVersion7(),
            Name = name,
            NormalizedName = name.ToUpperInvariant(),
        };
        store.Roles.Add(role);
        return roles[name] = role;
    }

    private bool Certificate(
        BroughtLine line,
        Guid account,
        HashSet<(Guid, string, DateOnly)> known,
        Dictionary<string, Guid> authorities
    )
    {
        var types = line["types"].Split(' ', StringSplitOptions.RemoveEmptyEntries);
        line.Wants(
            types.Length > 0 && types.All(t => AssemblyTypes.Names.Contains(t)),
            $"types are some of {string.Join(", ", AssemblyTypes.Names)}, a space between."
        );
        var only = line["authority"];
        line.Wants(
            only.Length == 0 || authorities.ContainsKey(only),
            $"there is no authority {only}: bring in the register first."
        );
        var row = new CertificateRow
        {
            Id = Guid.CreateVersion7(),
            AccountId = account,
            Number = line.Text("certificate", 60),
            Types = string.Join(' ', types),
            IssuedBy = line.Text("issued by"),
            ValidFrom = line.Day("valid from"),
            ValidUntil = line.Day("valid until"),
            AuthorityId = only.Length > 0 && authorities.TryGetValue(only, out var id) ? id : null,
            Class = line["class"],
        };
        line.Wants(row.ValidUntil >= row.ValidFrom, "its last day lies before its first.");
        line.Wants(row.Class.Length <= 40, "class is a text of up to 40 characters.");
        if (!known.Add((account, row.Number, row.ValidUntil)))
            return false;
        store.Certificates.Add(row);
        log.New(author, Things.Person, account, $"certificate {row.Number} of {row.IssuedBy}");
        return true;
    }
}
