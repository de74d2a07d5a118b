using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Puts a seal at the end of an assembly's chain. The order is the chain's own, by number, whatever the clock says; two
/// at once cannot take the same place. Saved with the rest of the caller's transaction.
/// </summary>
public sealed class SealWriter(Store store, SigningKeys keys, Alarms alarms)
{
    /// <summary>The id of the one row of the ledger.</summary>
    public const int TheLedger = 1;

    /// <summary>Seals a record.</summary>
    /// <param name="assembly">The assembly whose chain it belongs to.</param>
    /// <param name="run">The run.</param>
    /// <param name="amendment">The amendment; null when it is the run itself.</param>
    /// <param name="record">The record's canonical text.</param>
    /// <param name="paper">Hash of the PDF; null where none was made.</param>
    /// <param name="at">When.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<SealRow> Append(
        Guid assembly,
        Guid run,
        Guid? amendment,
        string record,
        string? paper,
        DateTimeOffset at,
        CancellationToken cancel
    )
    {
        var ledgerRow = await store.Ledger.FindAsync([TheLedger], cancel);
        var ledger = await Ledger(ledgerRow, cancel);
        var chainRow = await store.Chains.FindAsync([assembly], cancel);
        var head = await Head(assembly, chainRow, cancel);
        var link = new SealLink
        {
            Assembly = assembly,
            Sequence = head.Length + 1,
            Number = ledger.Count + 1,
            Run = run,
            Amendment = amendment,
            Record = ContentHash.Compute(record),
            Paper = paper,
            Previous = head.Last,
            At = at,
            Key = keys.Id,
        };
        var text = SealFormat.Write(link);
        var hash = ContentHash.Compute(text);
        var row = new SealRow
        {
            Number = link.Number,
            AssemblyId = assembly,
            Sequence = link.Sequence,
            RunId = run,
            AmendmentId = amendment,
            Code = SealRow.CodeOf(link),
            Link = text,
            Hash = hash,
            Signature = keys.Sign(hash),
            Record = Packed.Pack(record),
        };
        store.Seals.Add(row);
        Measures.Seals.Add(1);
        var end = SealFormat.Write(new ChainHead(assembly, link.Sequence, hash, keys.Id));
        if (chainRow is null)
            store.Chains.Add(
                new()
                {
                    AssemblyId = assembly,
                    Head = end,
                    Signature = keys.Sign(end),
                }
            );
        else
            (chainRow.Head, chainRow.Signature) = (end, keys.Sign(end));
        var all = SealFormat.Write(new Ledger(link.Number, SealFormat.Running(ledger.Running, hash), keys.Id));
        if (ledgerRow is null)
            store.Ledger.Add(
                new()
                {
                    Id = TheLedger,
                    Text = all,
                    Signature = keys.Sign(all),
                }
            );
        else
            (ledgerRow.Text, ledgerRow.Signature) = (all, keys.Sign(all));
        return row;
    }

    // A chain whose end was tampered with goes on behind everything that is known of it: what lacks stays visible as a
    // gap, and a new test is not held up.
    private async Task<ChainHead> Head(Guid assembly, ChainRow? row, CancellationToken cancel)
    {
        if (row is not null && keys.Signed(row) is { } head)
            return head;
        var last = store.Seals.Local.Where(s => s.AssemblyId == assembly).MaxBy(s => s.Sequence)
            ?? await store
                .Seals.AsNoTracking()
                .Where(s => s.AssemblyId == assembly)
                .OrderByDescending(s => s.Sequence)
                .FirstOrDefaultAsync(cancel);
        if (row is null && last is null)
            return new(assembly, 0, ContentHash.Beginning, keys.Id);
        await alarms.Raise(
            Alarms.CarriedOn + Alarms.OfChain(assembly),
            ["The end of the chain was not as it was signed when another seal was put behind it."],
            cancel
        );
        return new(
            assembly,
            Math.Max(last?.Sequence ?? 0, row is null ? 0 : SealFormat.ReadHead(row.Head)?.Length ?? 0),
            last?.Hash ?? ContentHash.Beginning,
            keys.Id
        );
    }

    private async Task<Ledger> Ledger(LedgerRow? row, CancellationToken cancel)
    {
        if (row is not null && keys.Signed(row) is { } ledger)
            return ledger;
        var last = store.Seals.Local.Select(s => (long?)s.Number).Max()
            ?? await store.Seals.MaxAsync(s => (long?)s.Number, cancel);
        if (row is null && last is null)
            return new(0, ContentHash.Beginning, keys.Id);
        await alarms.Raise(
            Alarms.CarriedOn + "ledger",
            ["The ledger of all seals was not as it was signed when another seal was made."],
            cancel
        );
        var read = row is null ? null : SealFormat.ReadLedger(row.Text);
        return new(Math.Max(last ?? 0, read?.Count ?? 0), read?.Running ?? ContentHash.Beginning, keys.Id);
    }
}
