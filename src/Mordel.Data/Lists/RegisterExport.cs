using System.Globalization;
using System.Runtime.CompilerServices;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>The register and its tests as lines that give the same lines again when they are brought in.</summary>
public sealed class RegisterExport(Store store, TimeProvider clock)
{
    private static readonly RegisterField[] OfRegister = [.. RegisterFields.All.Where(f => f.Of != FieldOf.Test)];

    private static readonly RegisterField[] OfResults =
    [
        AssemblyFields.Tag,
        AssemblyFields.Serial,
        AssemblyFields.Type,
        .. RegisterFields.OfA(FieldOf.Test),
    ];

    /// <summary>The columns of the register.</summary>
    public static IReadOnlyList<string> RegisterHeads { get; } = [.. OfRegister.Select(f => f.Id)];

    /// <summary>The columns of tests.</summary>
    public static IReadOnlyList<string> ResultHeads { get; } = [.. OfResults.Select(f => f.Id)];

    /// <summary>The register's columns of metres east and north.</summary>
    public static (int East, int North) Point { get; } =
        (Array.IndexOf(OfRegister, PlaceFields.East), Array.IndexOf(OfRegister, PlaceFields.North));

    /// <summary>
    /// The register, a line an assembly; what was replaced before what replaced it, so that it is there when it is
    /// named.
    /// </summary>
    public async IAsyncEnumerable<string[]> Register([EnumeratorCancellation] CancellationToken cancel)
    {
        foreach (var replaced in (bool[])[true, false])
        {
            var rows = store
                .Assemblies.AsNoTrackingWithIdentityResolution()
                .Include(a => a.Place!)
                    .ThenInclude(p => p.Owner)
                .Include(a => a.Authority)
                .Where(a => a.MergedIntoId == null && a.ReplacedOn != null == replaced);
            await foreach (var batch in rows.Batches(cancel))
            {
                var beside = await Beside([.. batch.Select(a => a.Id)], cancel);
                foreach (var row in batch)
                    yield return [.. OfRegister.Select(f => RegisterValues.Of(row, f) ?? beside.Of(row, f))];
            }
        }
    }

    private sealed record Besides(
        ILookup<Guid, AssemblyEventRow> Events,
        ILookup<Guid, DateOnly> Repaired,
        Dictionary<Guid, string> Tags
    )
    {
        // A day of the authority's list stands until a test follows it.
        private DateOnly? Announced(AssemblyRow row) =>
            Events[row.Id]
                .LastOrDefault(e => e.Due is not null && !(e.Day < row.LastTestOn) && !(e.Day < row.BroughtOn))
                ?.Due;

        public string Of(AssemblyRow row, RegisterField field) =>
            field == LifeFields.ReplacedOn
                ? row.ReplacedOn is { } day
                    ? Days.Write(day)
                    : ""
                : field == LifeFields.Replaces
                    ? row.ReplacesId is { } id
                        ? Tags.GetValueOrDefault(id, "")
                        : ""
                    : field == LifeFields.Announced
                        ? Announced(row) is { } due
                            ? Days.Write(due)
                            : ""
                        : field == LifeFields.Events
                            ? RecordedEvents.Write(
                                Events[row.Id]
                                    .Where(e => e.Due is null)
                                    .Select(e => (e.Kind, e.Day))
                                    .Concat(Repaired[row.Id].Select(d => (Kind: "repaired", Day: d)))
                                    .Distinct()
                                    .OrderBy(e => e.Day)
                                    .ThenBy(e => e.Kind, StringComparer.Ordinal)
                            )
                            : "";
    }

    private async Task<Besides> Beside(List<Guid> ids, CancellationToken cancel)
    {
        var events = await store
            .AssemblyEvents.AsNoTracking()
            .Where(e => ids.Contains(e.AssemblyId) && e.TakenBackAt == null)
            .OrderBy(e => e.Day)
            .ThenBy(e => e.At)
            .ToListAsync(cancel);
        var repairs = await store
            .Repairs.Where(r => ids.Contains(r.AssemblyId) && r.ClosedAt != null)
            .Select(r => new { r.AssemblyId, r.ClosedAt })
            .ToListAsync(cancel);
        var tags = await (
            from a in store.Assemblies
            where ids.Contains(a.Id) && a.ReplacesId != null
            join old in store.Assemblies on a.ReplacesId equals old.Id
            select new { old.Id, old.Tag }
        ).ToDictionaryAsync(a => a.Id, a => a.Tag, cancel);
        return new(
            events.ToLookup(e => e.AssemblyId),
            repairs.ToLookup(r => r.AssemblyId, r => clock.DayOf(r.ClosedAt!.Value)),
            tags
        );
    }

    /// <summary>All tests, sealed here or brought in, a line a test.</summary>
    public async IAsyncEnumerable<string[]> Results([EnumeratorCancellation] CancellationToken cancel)
    {
        await foreach (var batch in store.Assemblies.AsNoTracking().Where(a => a.MergedIntoId == null).Batches(cancel))
        {
            var tests = await Tests([.. batch.Select(a => a.Id)], cancel);
            foreach (var row in batch)
            foreach (
                var test in tests[row.Id]
                    .OrderBy(t => t[TestFields.TestDay.Id], StringComparer.Ordinal)
                    .ThenBy(t => t[TestFields.Source.Id], StringComparer.Ordinal)
            )
                yield return
                [
                    .. OfResults.Select(f => test.GetValueOrDefault(f.Id) ?? RegisterValues.Of(row, f) ?? ""),
                ];
        }
    }

    // Sealed here or brought in; what was entered twice counts for the entry that stands.
    private async Task<ILookup<Guid, Dictionary<string, string>>> Tests(List<Guid> ids, CancellationToken cancel)
    {
        var twice = await store
            .Assemblies.Where(a => a.MergedIntoId != null && ids.Contains(a.MergedIntoId.Value))
            .ToDictionaryAsync(a => a.Id, a => a.MergedIntoId!.Value, cancel);
        List<Guid> all = [.. ids, .. twice.Keys];
        var signed = await store
            .Runs.AsNoTracking()
            .Include(r => r.Results)
            .Where(r => all.Contains(r.AssemblyId) && r.SignedAt != null)
            .Select(r => new
            {
                r.AssemblyId,
                r.SignedAt,
                r.SignedName,
                r.Outcome,
                r.FoundText,
                r.Number,
                r.Results,
                Kit = store
                    .Kits.Where(k => k.Id == r.KitId)
                    .Select(k => k.Make + " " + k.Model + " " + k.Serial)
                    .First(),
            })
            .AsSplitQuery()
            .ToListAsync(cancel);
        var brought = await store
            .BroughtTests.AsNoTracking()
            .Where(t => all.Contains(t.AssemblyId))
            .ToListAsync(cancel);
        var lines = new List<(Guid Id, Dictionary<string, string> Values)>();
        foreach (var test in brought)
        {
            var values = test.Said();
            values[TestFields.TestDay.Id] = Days.Write(test.Day);
            values[TestFields.Outcome.Id] = test.Outcome;
            values[TestFields.Source.Id] = test.Source;
            lines.Add((test.AssemblyId, values));
        }

        foreach (var run in signed)
        {
            var values = run
                .Results.Where(r => r.Text is { Length: > 0 and <= 40 } && TestItem.Named(r.Item) is not null)
                .ToDictionary(r => r.Item, r => Cleaner.Plain(r.Text));
            values[TestFields.TestDay.Id] = Days.Write(clock.DayOf(run.SignedAt!.Value));
            values[TestFields.Outcome.Id] = run.Outcome ?? "";
            values[TestFields.Tester.Id] = Words(run.SignedName, TestFields.Tester);
            values[TestFields.TestKit.Id] = Words(run.Kit, TestFields.TestKit);
            values[TestFields.Remarks.Id] = Words(run.FoundText, TestFields.Remarks);
            values[TestFields.Source.Id] = $"report {run.Number}, sealed";
            lines.Add((run.AssemblyId, values));
        }

        return lines.ToLookup(l => twice.GetValueOrDefault(l.Id, l.Id), l => l.Values);
    }

    // On one line, and no longer than comes back.
    private static string Words(string? text, RegisterField field)
    {
        var plain = Cleaner.Plain(string.Concat((text ?? "").Select(c => char.IsControl(c) ? ' ' : c)));
        return plain.Length > field.Most ? Cleaner.Plain(plain[..field.Most]) : plain;
    }
}
