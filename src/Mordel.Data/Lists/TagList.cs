using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Lists;

/// <summary>What the tags on assemblies say.</summary>
public sealed class TagList(
    Store store,
    RegisterSearch search,
    SealReader seals,
    Installation installation,
    TimeProvider clock
)
{
    /// <summary>The most tags that are printed at once.</summary>
    public const int Most = 210;

    /// <summary>The first of what a search and a filter show, by tag; at most <see cref="Most"/>.</summary>
    public Task<List<AssemblyRow>> Shown(string? words, RegisterFilter filter, CancellationToken cancel) =>
        search
            .Matching(words, filter)
            .AsNoTracking()
            .Include(a => a.Place)
            .OrderBy(a => a.Tag)
            .Take(Most)
            .ToListAsync(cancel);

    /// <summary>Some assemblies, by tag; at most <see cref="Most"/>.</summary>
    public Task<List<AssemblyRow>> Of(IReadOnlyCollection<Guid> ids, CancellationToken cancel) =>
        store
            .Assemblies.AsNoTracking()
            .Include(a => a.Place)
            .Where(a => ids.Contains(a.Id))
            .OrderBy(a => a.Tag)
            .Take(Most)
            .ToListAsync(cancel);

    /// <summary>Their tags, in the same order, without links.</summary>
    public async Task<IReadOnlyList<AssemblyTag>> Tags(IReadOnlyList<AssemblyRow> rows, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(rows);
        var last = await seals.LastOf([.. rows.Select(a => a.Id)], cancel);
        var runs = last.Values.Select(l => l.RunId).OfType<Guid>().ToList();
        var names = await store
            .Runs.Where(r => runs.Contains(r.Id))
            .ToDictionaryAsync(r => r.Id, r => r.SignedName, cancel);
        return [.. rows.Select(a => Tag(a, last.GetValueOrDefault(a.Id), names))];
    }

    // A test that was brought in from elsewhere was not ours: the tag says what is known of it.
    private AssemblyTag Tag(AssemblyRow a, LastSealed? last, Dictionary<Guid, string?> names) =>
        new()
        {
            Tag = a.Tag,
            Type = a.Type,
            Size = a.Size,
            Serial = a.Serial,
            Outcome = last?.Outcome ?? (a.BroughtOutcome is { Length: > 0 } brought ? brought : null),
            TestedOn =
                last is null ? a.BroughtOn
                : last.SignedAt is { } at ? clock.DayOf(at)
                : null,
            Tester = last?.RunId is { } run ? names.GetValueOrDefault(run) ?? "" : "",
            NextDue = a.State == AssemblyStates.InService ? a.NextDue : null,
            Firm =
                installation.FirmPhone.Length > 0
                    ? $"{installation.Firm}, {installation.FirmPhone}"
                    : installation.Firm,
        };
}
