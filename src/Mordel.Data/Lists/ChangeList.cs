using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>A test that was brought in, with what was said of it.</summary>
/// <param name="Row">The test.</param>
/// <param name="Said">Readings, tester, kit, remarks, by field.</param>
public sealed record BroughtTest(BroughtTestRow Row, IReadOnlyDictionary<string, string> Said);

/// <summary>The history of changes, as it is shown.</summary>
public sealed class ChangeList(Store store)
{
    private const int Most = 200;

    /// <summary>Of some things, the latest first.</summary>
    public async Task<IReadOnlyList<ChangeRow>> Of(IReadOnlyCollection<Guid> things, CancellationToken cancel) =>
        await store
            .Changes.AsNoTracking()
            .Where(c => things.Contains(c.ThingId))
            .OrderByDescending(c => c.At)
            .ThenByDescending(c => c.Id)
            .Take(Most)
            .ToListAsync(cancel);

    /// <summary>Of the authorities and of the profiles that were made here, the latest first.</summary>
    public async Task<IReadOnlyList<ChangeRow>> OfTheRules(CancellationToken cancel) =>
        await Of(
            [
                .. await store.Authorities.Select(a => a.Id).ToListAsync(cancel),
                .. await store.Profiles.Select(p => p.Id).ToListAsync(cancel),
            ],
            cancel
        );

    /// <summary>What happened to an assembly, the latest first.</summary>
    public async Task<IReadOnlyList<AssemblyEventRow>> Events(Guid assemblyId, CancellationToken cancel) =>
        await store
            .AssemblyEvents.AsNoTracking()
            .Where(e => e.AssemblyId == assemblyId)
            .OrderByDescending(e => e.Day)
            .ThenByDescending(e => e.At)
            .Take(Most)
            .ToListAsync(cancel);

    /// <summary>Its tests that were brought in, the latest first.</summary>
    public async Task<IReadOnlyList<BroughtTest>> Brought(Guid assemblyId, CancellationToken cancel) =>
        [
            .. (
                await store
                    .BroughtTests.AsNoTracking()
                    .Where(t => t.AssemblyId == assemblyId)
                    .OrderByDescending(t => t.Day)
                    .Take(Most)
                    .ToListAsync(cancel)
            ).Select(t => new BroughtTest(t, t.Said())),
        ];

    /// <summary>The entries that were merged into it.</summary>
    public async Task<IReadOnlyList<(MergeRow Merge, string Tag)>> Merges(Guid assemblyId, CancellationToken cancel) =>
        [
            .. (
                await (
                    from m in store.Merges.AsNoTracking()
                    where m.KeptId == assemblyId && m.UndoneAt == null
                    join a in store.Assemblies on m.GoneId equals a.Id
                    orderby m.At descending
                    select new { m, a.Tag }
                ).ToListAsync(cancel)
            ).Select(m => (m.m, m.Tag)),
        ];

    /// <summary>A change in words.</summary>
    public static string Says(ChangeRow change)
    {
        ArgumentNullException.ThrowIfNull(change);
        var name = RegisterFields.Named(change.Field)?.Label ?? change.Field;
        static string Or(string value) => value.Length > 0 ? value : "nothing";
        return name.Length == 0 ? $"{(change.From.Length > 0 ? $"{change.From}: " : "")}{change.To}"
            : change.From.Length == 0 ? $"{name}: {change.To}"
            : $"{name}: {change.From}, now {Or(change.To)}";
    }
}
