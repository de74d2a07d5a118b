using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Commands.Office;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Imports;

/// <summary>
/// Undoes an import while nothing rests on it: nothing it made has been tested, planned or repaired since, and nothing
/// it changed was changed again. All of it or nothing.
/// </summary>
public sealed class UndoImport(Store store, DueProjection dues, ChangeLog log, TimeProvider clock)
{
    private const int Told = 5;

    /// <summary>Undoes it.</summary>
    public async Task<Reply<Guid>> Of(Guid importId, string by, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        store.ChangeTracker.Clear();
        var import = await store.Imports.FirstOrDefaultAsync(i => i.Id == importId, cancel);
        if (import is null)
            return Reply<Guid>.NotFound("There is no such import.");
        if (import.State != ImportStates.Applied)
            return Reply<Guid>.Refused("Only what was taken in can be undone.");
        var trouble = new List<string>();
        var touched = new HashSet<Guid>();
        for (var before = int.MaxValue; trouble.Count < Told; )
        {
            var lines = await store
                .ImportLines.AsNoTracking()
                .Where(l => l.ImportId == importId && l.Number < before && l.Effect != null)
                .OrderByDescending(l => l.Number)
                .Take(CheckImport.Batch)
                .Select(l => new { l.Number, l.Effect })
                .ToListAsync(cancel);
            if (lines.Count == 0)
                break;
            before = lines[^1].Number;
            // The last line first: what came later rests on what came before.
            await Back([.. lines.Select(l => ImportEffect.Read(l.Effect!))], by, trouble, touched, cancel);
        }

        if (trouble.Count > 0)
            return Reply<Guid>.Refused(
                $"This import can no longer be undone, because something rests on it: {string.Join(" ", trouble)}"
            );
        var left = await store.Assemblies.Where(a => touched.Contains(a.Id)).ToListAsync(cancel);
        await Brought(left, cancel);
        await dues.Write(left, cancel);
        import = await store.Imports.FirstAsync(i => i.Id == importId, cancel);
        (import.State, import.UndoneAt, import.UndoneBy) = (ImportStates.Undone, clock.Now(), by);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return importId;
    }

    private async Task Back(
        List<ImportEffect> effects,
        string by,
        List<string> trouble,
        HashSet<Guid> touched,
        CancellationToken cancel
    )
    {
        var made = effects.Select(e => e.Assembly).OfType<Guid>().ToList();
        trouble.AddRange(await RestsOn(made, cancel));
        if (trouble.Count > 0)
            return;
        List<Guid> tests = [.. effects.SelectMany(e => e.Tests)],
            events = [.. effects.SelectMany(e => e.Events)];
        touched.UnionWith(
            await store.BroughtTests.Where(t => tests.Contains(t.Id)).Select(t => t.AssemblyId).ToListAsync(cancel)
        );
        touched.UnionWith(
            await store.AssemblyEvents.Where(e => events.Contains(e.Id)).Select(e => e.AssemblyId).ToListAsync(cancel)
        );
        await store.BroughtTests.Where(t => tests.Contains(t.Id)).ExecuteDeleteAsync(cancel);
        await store.AssemblyEvents.Where(e => events.Contains(e.Id)).ExecuteDeleteAsync(cancel);
        foreach (var value in effects.SelectMany(e => e.Values.AsEnumerable().Reverse()))
            await Reset(value, by, trouble, touched, cancel);
        await store.SaveChangesAsync(cancel);
        await store.Assemblies.Where(a => made.Contains(a.Id)).ExecuteDeleteAsync(cancel);
        touched.ExceptWith(made);
        List<Guid> places = [.. effects.Select(e => e.Place).OfType<Guid>()],
            owners = [.. effects.Select(e => e.Owner).OfType<Guid>()],
            authorities = [.. effects.Select(e => e.Authority).OfType<Guid>()];
        // What somebody has used since stays.
        await store
            .Places.Where(p => places.Contains(p.Id) && !store.Assemblies.Any(a => a.PlaceId == p.Id))
            .ExecuteDeleteAsync(cancel);
        await store
            .Owners.Where(o => owners.Contains(o.Id) && !store.Places.Any(p => p.OwnerId == o.Id))
            .ExecuteDeleteAsync(cancel);
        await store
            .Authorities.Where(a => authorities.Contains(a.Id) && !store.Assemblies.Any(x => x.AuthorityId == a.Id))
            .ExecuteDeleteAsync(cancel);
        store.ChangeTracker.Clear();
    }

    private async Task<List<string>> RestsOn(List<Guid> made, CancellationToken cancel)
    {
        var resting = await store
            .Assemblies.Where(a => made.Contains(a.Id))
            .Select(a => new
            {
                a.Tag,
                Tested = store.Runs.Any(r => r.AssemblyId == a.Id),
                Planned = store.Stops.Any(s => s.AssemblyId == a.Id),
                Searched = store.Diagnoses.Any(d => d.AssemblyId == a.Id),
                Repaired = store.Repairs.Any(r => r.AssemblyId == a.Id),
                Merged = store.Merges.Any(m => m.KeptId == a.Id || m.GoneId == a.Id),
                Happened = store.AssemblyEvents.Any(e => e.AssemblyId == a.Id && e.ImportId == null),
                Replaced = store.Assemblies.Any(x => x.ReplacesId == a.Id),
            })
            .Where(a => a.Tested || a.Planned || a.Searched || a.Repaired || a.Merged || a.Happened || a.Replaced)
            .Take(Told)
            .ToListAsync(cancel);
        return
        [
            .. resting.Select(a =>
                a.Tested ? $"{a.Tag} has a test."
                : a.Planned ? $"{a.Tag} is in a round."
                : a.Searched ? $"{a.Tag} has a diagnosis."
                : a.Repaired ? $"{a.Tag} has a repair."
                : a.Merged ? $"{a.Tag} was merged."
                : a.Happened ? $"Something was entered for {a.Tag}."
                : $"{a.Tag} was replaced."
            ),
        ];
    }

    private async Task Reset(
        ChangedValue value,
        string by,
        List<string> trouble,
        HashSet<Guid> touched,
        CancellationToken cancel
    )
    {
        var author = new Author(by, "import undone");
        bool Back<T>(FrozenDictionary<RegisterField, ValueOf<T>> of, T row)
        {
            if (RegisterFields.Named(value.Field) is not { } field || !of.TryGetValue(field, out var one))
                return false;
            if (one.Get(row) != value.To)
                trouble.Add($"{field.Label} was changed again, to {one.Get(row)}.");
            one.Set(row, value.From);
            return true;
        }

        var done = value.Thing switch
        {
            Things.Assembly when await store.Assemblies.FindAsync([value.Id], cancel) is { } a => touched.Add(a.Id)
                | (Joined(value, a) || Back(RegisterValues.OfAssembly, a)),
            Things.Place when await store.Places.FindAsync([value.Id], cancel) is { } p => Joined(value, p)
                || Back(RegisterValues.OfPlace, p),
            Things.Owner when await store.Owners.FindAsync([value.Id], cancel) is { } o => Back(
                RegisterValues.OfOwner,
                o
            ),
            _ => false,
        };
        if (done)
            log.Write(
                author,
                value.Thing,
                value.Id,
                value.Field,
                Guid.TryParse(value.To, out _) ? "as brought in" : value.To,
                Guid.TryParse(value.From, out _) ? "as before" : value.From
            );
    }

    private static bool Joined(ChangedValue value, AssemblyRow row)
    {
        if (value.Field == "authority")
            row.AuthorityId = Guid.Parse(value.From);
        else if (value.Field == "place" && Guid.TryParse(value.From, out var place))
            row.PlaceId = place;
        else
            return false;
        return true;
    }

    private static bool Joined(ChangedValue value, PlaceRow row)
    {
        if (value.Field != "owner" || !Guid.TryParse(value.From, out var owner))
            return false;
        row.OwnerId = owner;
        return true;
    }

    // The last test that was brought in by another import shows again.
    private async Task Brought(List<AssemblyRow> rows, CancellationToken cancel)
    {
        foreach (var row in rows)
        {
            var last = await store
                .BroughtTests.Where(t => t.AssemblyId == row.Id)
                .OrderByDescending(t => t.Day)
                .FirstOrDefaultAsync(cancel);
            (row.BroughtOn, row.BroughtOutcome) = (last?.Day, last?.Outcome);
        }
    }
}
