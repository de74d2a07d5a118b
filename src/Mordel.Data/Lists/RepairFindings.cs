using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;

namespace Mordel.Data.Lists;

/// <summary>Reads what lay in opened bodies, as far as it counts.</summary>
public sealed class RepairFindings(Store store)
{
    // The latest of them; more would move no rate any further.
    private const int Most = 20_000;

    /// <summary>A make and model, as it is told apart.</summary>
    public static string Family(string make, string model) => $"{make} {model}";

    /// <summary>How an opened part stands in a row: <c>cv1 debris</c>; null for every other look.</summary>
    public static string? Text(Observed? observed) =>
        observed is Observed.PartOpened opened ? $"{opened.Part} {opened.Lay.Name()}" : null;

    /// <summary>From when on repairs count, by whom it was said; null where all count and nobody said so.</summary>
    public Task<Rows.RateResetRow?> LatestReset(CancellationToken cancel) =>
        store
            .RateResets.AsNoTracking()
            .OrderByDescending(r => r.At)
            .ThenByDescending(r => r.Id)
            .FirstOrDefaultAsync(cancel);

    /// <summary>What was found in bodies of a kind.</summary>
    public async Task<IReadOnlyList<RepairFinding>> Of(AssemblyBody body, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(body);
        var since = (await LatestReset(cancel))?.From ?? DateTimeOffset.MinValue;
        var (type, name) = (body.Type.Name, body.Type.Facts().HasChoiceOfBodies ? body.Name : null);
        var rows = await (
            from o in store.Observations.AsNoTracking()
            where o.Opened != null && o.At >= since
            where !store.Observations.Any(back => back.TakesBack == o.Id)
            join d in store.Diagnoses on o.DiagnosisId equals d.Id
            join a in store.Assemblies on d.AssemblyId equals a.Id
            where a.Type == type && (name == null || a.Body == name)
            orderby o.At descending
            select new
            {
                d.Id,
                a.Make,
                a.Model,
                o.Opened,
            }
        )
            .Take(Most)
            .ToListAsync(cancel);
        return
        [
            .. from row in rows
            let words = row.Opened!.Split(' ')
            let lay = FoundNames.Named(words[^1])
            where lay is not null
            select new RepairFinding(row.Id, Family(row.Make, row.Model), new(words[0]), lay.Value),
        ];
    }
}
