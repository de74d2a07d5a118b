using Microsoft.EntityFrameworkCore;
using Mordel.Core.Formats;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>Adds an amendment to a sealed run: a new sealed record that refers to the old one, which stays as it was.</summary>
public sealed class AmendRun(Store store, InstallationKey key, TimeProvider clock)
{
    /// <summary>The longest amendment, in characters.</summary>
    public const int LongestText = 2_000;

    /// <summary>Adds it.</summary>
    public async Task<Reply<Guid>> With(Guid runId, Guid testerId, string? text, CancellationToken cancel)
    {
        if (string.IsNullOrWhiteSpace(text)) return Reply<Guid>.Refused("Say what was wrong and what is right.");
        if (text.Length > LongestText) return Reply<Guid>.Refused($"An amendment may have {LongestText} characters.");
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        var run = await store.Runs.Include(r => r.Tester).FirstOrDefaultAsync(r => r.Id == runId && r.TesterId == testerId, cancel);
        if (run is null) return Reply<Guid>.Refused("There is no such run of yours.");
        if (!run.IsSealed) return Reply<Guid>.Refused("This run is not signed yet: correct it in the run itself.");
        var at = clock.GetUtcNow();
        var previous = await new SealChain(store).LastHash(run.AssemblyId, cancel) ?? Seal.Beginning;
        var row = new AmendmentRow
        {
            Id = Guid.CreateVersion7(),
            RunId = runId,
            Text = text.Trim(),
            By = run.Tester!.FullName,
            At = at,
            PreviousHash = previous,
            Hash = "",
            KeySignature = "",
        };
        row.Hash = Seal.Hash(Canonical(row));
        row.KeySignature = key.Sign(row.Hash);
        store.Amendments.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    /// <summary>The canonical form that is hashed.</summary>
    public static string Canonical(AmendmentRow row)
    {
        ArgumentNullException.ThrowIfNull(row);
        return $"mordel.amendment/1\n{row.Id:D}\n{row.RunId:D}\n{row.At.UtcDateTime:yyyy-MM-ddTHH:mm:ss.fffZ}\n{row.By}\n{row.PreviousHash}\n{row.Text}\n";
    }
}
