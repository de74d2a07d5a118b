using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data.Setups;

namespace Mordel.Data.Seals;

/// <summary>
/// What was sealed, some runs at a time, for who works something out from many: their seals are not checked here.
/// </summary>
public sealed class SealedRuns(Store store, SetupReader setups)
{
    private const int Batch = 100;

    /// <summary>The runs that are sealed and can be read, in no order.</summary>
    public async IAsyncEnumerable<SealedRun> Of(
        IReadOnlyCollection<Guid> runs,
        [System.Runtime.CompilerServices.EnumeratorCancellation] CancellationToken cancel
    )
    {
        foreach (var batch in runs.Chunk(Batch))
        {
            var seals = await store
                .Seals.AsNoTracking()
                .Where(s => batch.Contains(s.RunId) && s.AmendmentId == null)
                .ToListAsync(cancel);
            var records = seals.Select(s => s.RecordText).OfType<string>().ToList();
            await setups.Fetch(records, cancel);
            foreach (var record in records)
                if (SealedRunFormat.Read(record, setups.Parts, out _) is { } run)
                    yield return run;
        }
    }
}
