using System.Collections.Frozen;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>What came of an edit.</summary>
/// <param name="Id">What was edited.</param>
/// <param name="Changed">How many values are otherwise than before.</param>
/// <param name="OpenRuns">Runs that have begun with what it was before.</param>
public sealed record Edited(Guid Id, int Changed, int OpenRuns);

/// <summary>
/// Corrects what the register says. Runs that were sealed keep what they were sealed with; runs that have begun keep
/// what they began with, and their tester is offered what was corrected.
/// </summary>
public sealed class EditRegister(Store store, DueProjection dues, ChangeLog log)
{
    /// <summary>Corrects an assembly.</summary>
    /// <param name="id">The assembly.</param>
    /// <param name="values">What was typed, by field; fields that are not there stay as they are.</param>
    /// <param name="authorityId">The authority it belongs to; null for the one it has.</param>
    /// <param name="author">Who corrects it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Edited>> Assembly(
        Guid id,
        IReadOnlyDictionary<string, string?> values,
        Guid? authorityId,
        Author author,
        CancellationToken cancel
    )
    {
        var fields = new FieldErrors();
        await using var transaction = await store.BeginWriting(cancel);
        var row = await store.Assemblies.Include(a => a.Authority).FirstOrDefaultAsync(a => a.Id == id, cancel);
        if (row is null)
            return Reply<Edited>.NotFound("There is no such assembly.");
        var changed = Apply(RegisterValues.OfAssembly, row, values, fields);
        await Check(row, fields, cancel);
        if (authorityId is { } authority && authority != row.AuthorityId)
        {
            var other = await store.Authorities.FirstOrDefaultAsync(a => a.Id == authority, cancel);
            fields.That("authority", other is not null, "There is no such authority.");
            if (other is not null)
            {
                changed.Add(new("authority", row.Authority!.Name, other.Name));
                (row.Authority, row.AuthorityId) = (other, other.Id);
            }
        }

        if (fields.Any)
            return fields;
        foreach (var (field, from, to) in changed)
            log.Write(author, Things.Assembly, id, field, from, to);
        await dues.Write(row, cancel);
        await store.SaveChangesAsync(cancel);
        var open = await store.Runs.CountAsync(r => r.AssemblyId == id && r.SignedAt == null, cancel);
        await transaction.CommitAsync(cancel);
        return new Edited(id, changed.Count, open);
    }

    /// <summary>Corrects a place.</summary>
    public async Task<Reply<Edited>> Place(
        Guid id,
        IReadOnlyDictionary<string, string?> values,
        Author author,
        CancellationToken cancel
    ) =>
        await Edit(
            await store.Places.FirstOrDefaultAsync(p => p.Id == id, cancel),
            id,
            RegisterValues.OfPlace,
            values,
            (author, Things.Place),
            r => r.Assembly!.PlaceId == id,
            cancel
        );

    /// <summary>Corrects an owner.</summary>
    public async Task<Reply<Edited>> Owner(
        Guid id,
        IReadOnlyDictionary<string, string?> values,
        Author author,
        CancellationToken cancel
    ) =>
        await Edit(
            await store.Owners.FirstOrDefaultAsync(o => o.Id == id, cancel),
            id,
            RegisterValues.OfOwner,
            values,
            (author, Things.Owner),
            r => r.Assembly!.Place!.OwnerId == id,
            cancel
        );

    /// <summary>What must hold of an assembly beyond its single fields.</summary>
    public async Task Check(AssemblyRow row, FieldErrors fields, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(fields);
        if (AssemblyTypes.Named(row.Type)?.Facts() is not { } type)
            return;
        row.Body = !type.HasChoiceOfBodies ? null : row.Body ?? type.Bodies[0].Name;
        fields.That(
            AssemblyFields.Body.Id,
            row.Body is null || type.Bodies.Any(b => b.Name == row.Body),
            $"A {row.Type} has no body {row.Body}."
        );
        row.BypassLine &= row.FireLine;
        fields.That(
            AssemblyFields.Hazard.Id,
            row.Hazard != "high" || type.NeverOnHighHazard is null,
            type.NeverOnHighHazard ?? ""
        );
        fields.That(
            AssemblyFields.Tag.Id,
            !await store.Assemblies.AnyAsync(a => a.Tag == row.Tag && a.Id != row.Id, cancel),
            $"Tag {row.Tag} is already on another assembly."
        );
    }

    /// <summary>Sets what was typed and says what changed; what cannot be kept is an error of its field.</summary>
    public static List<(string Field, string From, string To)> Apply<T>(
        FrozenDictionary<RegisterField, ValueOf<T>> of,
        T row,
        IReadOnlyDictionary<string, string?> values,
        FieldErrors fields
    )
    {
        ArgumentNullException.ThrowIfNull(of);
        ArgumentNullException.ThrowIfNull(values);
        ArgumentNullException.ThrowIfNull(fields);
        var changed = new List<(string, string, string)>();
        foreach (var (field, value) in of.OrderBy(f => RegisterFields.All.IndexOf(f.Key)))
        {
            if (!values.TryGetValue(field.Id, out var typed))
                continue;
            var (clean, wrong) = Cleaner.Clean(field, typed);
            if (wrong is not null)
                fields.That(field.Id, false, $"{field.Label}: {wrong}");
            else if (clean.Length == 0 && field.IsWanted)
                fields.That(field.Id, false, $"{field.Label} is missing.");
            else if (value.Get(row) is var before && before != clean)
            {
                value.Set(row, clean);
                changed.Add((field.Id, before, value.Get(row)));
            }
        }

        return changed;
    }

    private async Task<Reply<Edited>> Edit<T>(
        T? row,
        Guid id,
        FrozenDictionary<RegisterField, ValueOf<T>> of,
        IReadOnlyDictionary<string, string?> values,
        (Author Author, string Thing) by,
        System.Linq.Expressions.Expression<Func<RunRow, bool>> runs,
        CancellationToken cancel
    )
        where T : class
    {
        if (row is null)
            return Reply<Edited>.NotFound($"There is no such {by.Thing}.");
        await using var transaction = await store.BeginWriting(cancel);
        var fields = new FieldErrors();
        var changed = Apply(of, row, values, fields);
        if (fields.Any)
        {
            store.Entry(row).State = EntityState.Unchanged;
            return fields;
        }

        foreach (var (field, from, to) in changed)
            log.Write(by.Author, by.Thing, id, field, from, to);
        await store.SaveChangesAsync(cancel);
        var open = await store.Runs.Where(r => r.SignedAt == null).CountAsync(runs, cancel);
        await transaction.CommitAsync(cancel);
        return new Edited(id, changed.Count, open);
    }
}
