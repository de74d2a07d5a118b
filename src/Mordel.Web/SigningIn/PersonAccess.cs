using System.Text.Encodings.Web;
using System.Text.Json;
using Microsoft.AspNetCore.Identity;
using Mordel.Data;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Web.SigningIn;

/// <summary>What the owner sees of somebody's account, and the commands for it.</summary>
public sealed class PersonAccess(
    UserManager<Data.Rows.Account> users,
    Sessions sessions,
    RoundsAhead rounds,
    AboutPerson about,
    AuditLog audit,
    TimeProvider clock,
    KeepPasswords passwords,
    KeepRoles roles,
    ForgetPerson forget
)
{
    private static readonly JsonSerializerOptions Readable = new(JsonSerializerDefaults.Web)
    {
        WriteIndented = true,
        Encoder = JavaScriptEncoder.UnsafeRelaxedJsonEscaping,
    };

    public KeepPasswords Passwords => passwords;
    public KeepRoles Roles => roles;
    public ForgetPerson Forget => forget;

    /// <summary>How many passkeys there are.</summary>
    public int Passkeys { get; private set; }

    /// <summary>How many stops lie ahead.</summary>
    public int Ahead { get; private set; }

    /// <summary>Where they are signed in.</summary>
    public IReadOnlyList<SessionRow> Open { get; private set; } = [];

    /// <summary>Reads it.</summary>
    public async Task Load(Guid id, CancellationToken cancel)
    {
        if (await users.FindByIdAsync($"{id}") is not { } account)
            return;
        (Passkeys, Open) = ((await users.GetPasskeysAsync(account)).Count, await sessions.Open(id, cancel));
        Ahead = await rounds.StopsFrom(id, clock.Today(), cancel);
    }

    /// <summary>All that is kept about somebody, as a file; null where there is no such person.</summary>
    public async Task<byte[]?> About(Guid id, CancellationToken cancel)
    {
        if (await about.All(id, cancel) is not { } all)
            return null;
        await audit.Write(AuditKinds.Exported, $"{id}", "all that is kept about them", cancel);
        return JsonSerializer.SerializeToUtf8Bytes(all, Readable);
    }
}
