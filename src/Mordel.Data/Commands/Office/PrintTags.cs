using Mordel.Core.Reports;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>Makes tags ready to be printed: each gets its link, the same whenever it is printed again.</summary>
public sealed class PrintTags(Store store, TagList list, KeepLinks links, Installation installation)
{
    /// <summary>The tags of some assemblies.</summary>
    public async Task<IReadOnlyList<AssemblyTag>> Of(
        IReadOnlyList<AssemblyRow> rows,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(rows);
        await using var transaction = await store.BeginWriting(cancel);
        var secrets = await links.OfTags([.. rows.Select(a => a.Id)], author.By, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        var tags = await list.Tags(rows, cancel);
        return [.. tags.Zip(rows, (tag, row) => tag with { Link = $"{installation.Address}/tag/{secrets[row.Id]}" })];
    }
}
