using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Checks seals of the form that sealed a run's log and a few facts beside it (<c>mordel.sealed-run/1</c>,
/// <c>mordel.amendment/1</c>).
/// </summary>
public sealed class EarlierForm(SigningKeys keys)
{
    /// <summary>Whether a run is as it was signed then.</summary>
    public bool Holds(RunRow row, EarlierSealRow seal, RunLog log)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(seal);
        if (
            seal
            is not {
                Serial: not null,
                Kit: not null,
                Certificate: not null,
                Ink: not null,
                PreviousHash: not null,
                Hash: { } hash,
                KeySignature: { } signature
            }
        )
            return false;
        if (row is not { SignedAt: { } at, SignedName: { } name, Outcome: { } outcome })
            return false;
        var head = new SealedHead(
            row.Id,
            seal.Serial,
            row.ProcedureId,
            row.ProfileId,
            row.ProfileVersion,
            seal.Kit,
            name,
            seal.Certificate,
            outcome,
            at,
            ContentHash.Compute(seal.Ink),
            seal.PreviousHash
        );
        return ContentHash.Compute(EarlierSealFormat.Canonical(head, log)) == hash && keys.AnyVerifies(hash, signature);
    }

    /// <summary>Whether an amendment is as it was signed then.</summary>
    public bool Holds(AmendmentRow row, EarlierSealRow seal)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(seal);
        if (seal is not { PreviousHash: { } previous, Hash: { } hash, KeySignature: { } signature })
            return false;
        var text =
            $"mordel.amendment/1\n{row.Id:D}\n{row.RunId:D}\n{row.At.UtcDateTime:yyyy-MM-ddTHH:mm:ss.fffZ}\n"
            + $"{row.By}\n{previous}\n{row.Text}\n";
        return ContentHash.Compute(text) == hash && keys.AnyVerifies(hash, signature);
    }
}
