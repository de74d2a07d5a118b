using Mordel.Core.Formats;
using Mordel.Core.Verdicts;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands;

/// <summary>Proves a sealed run from what is stored: the log and its head must give the hash, and the installation's key must have signed it.</summary>
public sealed class CheckSeal(InstallationKey key)
{
    /// <summary>Whether the run is as it was signed.</summary>
    public bool Holds(RunFile run)
    {
        ArgumentNullException.ThrowIfNull(run);
        var row = run.Row;
        return row is { IsSealed: true, SealedSerial: not null, SealedKit: not null, Hash: { } hash, KeySignature: { } signature, Outcome: { } outcome }
            && Seal.Hash(Seal.Canonical(SealStamp.Head(row, outcome), run.Log)) == hash
            && key.Verifies(hash, signature)
            && row.Amendments.All(a => Seal.Hash(AmendRun.Canonical(a)) == a.Hash && key.Verifies(a.Hash, a.KeySignature));
    }
}
