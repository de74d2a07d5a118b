using Mordel.Core.Formats;
using Mordel.Core.Verdicts;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>Presses the seal on a run's row: head, hash, the installation's signature, projections. Whether it may be sealed is decided before.</summary>
public static class SealStamp
{
    /// <summary>Writes seal and projections into the row.</summary>
    /// <param name="row">The row; its assembly is loaded.</param>
    /// <param name="run">The run.</param>
    /// <param name="verdict">Its verdict.</param>
    /// <param name="ink">The signature.</param>
    /// <param name="certificate">The certificate's number.</param>
    /// <param name="at">When it is signed.</param>
    /// <param name="previous">The last hash of the assembly's chain; null begins one.</param>
    /// <param name="key">The installation's key.</param>
    public static void Press(RunRow row, RunFile run, Verdict verdict, string ink, string certificate, DateTimeOffset at, string? previous, InstallationKey key)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(run);
        ArgumentNullException.ThrowIfNull(verdict);
        ArgumentNullException.ThrowIfNull(key);
        row.SealedSerial = run.State.Serial?.Serial ?? row.Assembly!.Serial;
        row.SealedKit = run.Row.Kit!.Serial;
        row.PreviousHash = previous ?? Seal.Beginning;
        row.SignedAt = at;
        row.SignedName = run.Row.Tester!.FullName;
        row.Certificate = certificate;
        row.Ink = ink;
        row.Hash = Seal.Hash(Seal.Canonical(Head(row, verdict.Overall.Id()), run.Log));
        row.KeySignature = key.Sign(row.Hash);
        Projection.Write(row, run, verdict, DateOnly.FromDateTime(at.ToLocalTime().DateTime));
    }

    /// <summary>What the seal of a row covers beside its entries.</summary>
    public static SealedHead Head(RunRow row, string outcome)
    {
        ArgumentNullException.ThrowIfNull(row);
        return new(
            row.Id, row.SealedSerial!, row.ProcedureId, row.ProfileId, row.ProfileVersion, row.SealedKit!, row.SignedName!, row.Certificate!,
            outcome, row.SignedAt!.Value, Seal.Hash(row.Ink!), row.PreviousHash!);
    }
}
