using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>What a chain's links say of themselves, without their records.</summary>
/// <param name="Number">Its place among all seals.</param>
/// <param name="Sequence">Its place in the chain.</param>
/// <param name="RunId">The run.</param>
/// <param name="Link">The link.</param>
/// <param name="Hash">Its hash.</param>
/// <param name="Signature">The signature over that.</param>
public sealed record ChainLink(long Number, int Sequence, Guid RunId, string Link, string Hash, string Signature);

/// <summary>
/// Checks an assembly's chain in both directions: each link names the one before, and the signed end names the last and
/// how many there are.
/// </summary>
public sealed class ChainCheck(SigningKeys keys)
{
    /// <summary>What is wrong with a chain, as sentences; empty when it is whole.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="links">All its links, in any order.</param>
    /// <param name="end">The signed end; null when there is none.</param>
    /// <param name="signedRuns">The runs of this assembly that are signed according to their rows.</param>
    public IReadOnlyList<string> Of(
        Guid assemblyId,
        IReadOnlyCollection<ChainLink> links,
        ChainRow? end,
        IReadOnlyCollection<Guid> signedRuns
    )
    {
        ArgumentNullException.ThrowIfNull(links);
        ArgumentNullException.ThrowIfNull(signedRuns);
        var wrong = new List<string>();
        var (expected, previous) = (1, ContentHash.Beginning);
        foreach (var link in links.OrderBy(l => l.Sequence))
        {
            for (; expected < link.Sequence; expected++)
            {
                wrong.Add($"Seal {expected} of this assembly is missing.");
                previous = "";
            }

            expected = link.Sequence + 1;
            if (ContentHash.Compute(link.Link) != link.Hash || SealFormat.ReadLink(link.Link) is not { } read)
                wrong.Add($"Seal {link.Sequence} of this assembly is not as it was made.");
            else if (!keys.Verifies(read.Key, link.Hash, link.Signature))
                wrong.Add($"The signature under seal {link.Sequence} of this assembly does not hold.");
            else if (
                read.Assembly != assemblyId
                || read.Sequence != link.Sequence
                || read.Number != link.Number
                || read.Run != link.RunId
            )
                wrong.Add($"Seal {link.Sequence} of this assembly was made for another place.");
            else if (previous.Length > 0 && read.Previous != previous)
                wrong.Add($"Seal {link.Sequence} of this assembly does not follow the one before it.");
            previous = link.Hash;
        }

        if (links.Count > 0 || end is not null)
            End(assemblyId, links, end, expected, previous, wrong);
        foreach (var _ in signedRuns.Where(r => links.All(l => l.RunId != r)))
            wrong.Add("A run of this assembly is signed without a seal.");
        foreach (var run in links.Select(l => l.RunId).Distinct().Where(r => !signedRuns.Contains(r)))
            wrong.Add(
                $"A sealed run of this assembly is missing or no longer signed (seal "
                    + $"{links.First(l => l.RunId == run).Sequence})."
            );
        return wrong;
    }

    /// <summary>Whether a signed end says that the chain has so many links, and that this is the last one.</summary>
    public bool EndsAt(ChainRow end, int length, string? lastHash) =>
        keys.Signed(end) is { } head && head.Length == length && head.Last == lastHash;

    private void End(
        Guid assemblyId,
        IReadOnlyCollection<ChainLink> links,
        ChainRow? end,
        int expected,
        string last,
        List<string> wrong
    )
    {
        if (end is null)
        {
            wrong.Add("The signed end of this assembly's chain is missing.");
            return;
        }

        if (end.AssemblyId != assemblyId || keys.Signed(end) is not { } head)
        {
            wrong.Add("The signed end of this assembly's chain is not as it was made.");
            return;
        }

        for (var missing = expected; missing <= head.Length; missing++)
            wrong.Add($"Seal {missing} of this assembly is missing.");
        if (head.Length < expected - 1)
            wrong.Add($"This assembly's chain has {links.Count} seals, where {head.Length} were made.");
        else if (head.Length == expected - 1 && head.Last != last)
            wrong.Add("The last seal of this assembly is not the one that was made.");
    }
}
