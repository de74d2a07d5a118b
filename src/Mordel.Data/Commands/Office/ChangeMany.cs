using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Register;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>What a change of many would do to one assembly.</summary>
/// <param name="Assembly">With its place.</param>
/// <param name="From">What it has.</param>
/// <param name="To">What it would have.</param>
/// <param name="WhyNot">Why it stays as it is; null where it changes or has the value already.</param>
public sealed record PlannedChange(AssemblyRow Assembly, string From, string To, string? WhyNot)
{
    /// <summary>Whether something changes.</summary>
    public bool Changes => WhyNot is null && From != To;
}

/// <summary>What a change of many would do.</summary>
/// <param name="Field">The field.</param>
/// <param name="Value">Its new value.</param>
/// <param name="Lines">One for each assembly, by tag.</param>
public sealed record ManyPlanned(RegisterField Field, string Value, IReadOnlyList<PlannedChange> Lines)
{
    /// <summary>How many change.</summary>
    public int Count => Lines.Count(l => l.Changes);
}

/// <summary>Sets one field of many assemblies; shown before it is done, and undone as a whole.</summary>
public sealed class ChangeMany(Store store, DueProjection dues, ChangeLog log)
{
    /// <summary>The most at once.</summary>
    public const int Most = 2000;

    /// <summary>The fields that can be set for many.</summary>
    public static IReadOnlyList<RegisterField> Fields { get; } =
    [.. RegisterFields.All.Where(f => f.IsForMany && RegisterValues.OfAssembly.ContainsKey(f))];

    /// <summary>What it would do.</summary>
    /// <param name="ids">The assemblies.</param>
    /// <param name="field">The field.</param>
    /// <param name="value">As it was typed; empty to clear it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<ManyPlanned>> Plan(
        IReadOnlyCollection<Guid> ids,
        string? field,
        string? value,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(ids);
        var fields = new FieldErrors();
        var of = Fields.FirstOrDefault(f => f.Id == field);
        fields.That("field", of is not null, "Choose what is to be set.");
        fields.That("ids", ids.Count > 0, "Choose the assemblies first: mark them in the list.");
        fields.That("ids", ids.Count <= Most, $"At most {Most} at once; narrow the list.");
        if (of is null || fields.Any)
            return fields;
        var (clean, wrong) = Cleaner.Clean(of, value);
        fields.That("value", wrong is null, $"{of.Label}: {wrong}");
        if (fields.Any)
            return fields;
        var rows = await store
            .Assemblies.Include(a => a.Place)
            .Where(a => ids.Contains(a.Id))
            .OrderBy(a => a.Tag)
            .ToListAsync(cancel);
        var values = RegisterValues.OfAssembly[of];
        return new ManyPlanned(
            of,
            clean,
            [.. rows.Select(a => new PlannedChange(a, values.Get(a), clean, WhyNot(a, of, clean)))]
        );
    }

    /// <summary>Does it.</summary>
    /// <returns>The batch, by which it is undone.</returns>
    public async Task<Reply<Guid>> Do(
        IReadOnlyCollection<Guid> ids,
        string? field,
        string? value,
        string by,
        CancellationToken cancel
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        var planned = await Plan(ids, field, value, cancel);
        if (planned.Value is not { } plan)
            return planned.NotDoneFor<Guid>();
        var batch = Guid.CreateVersion7();
        var rows = plan.Lines.Where(l => l.Changes).ToList();
        foreach (var (row, from, to, _) in rows)
        {
            RegisterValues.OfAssembly[plan.Field].Set(row, to);
            log.Write(new(by, "many at once", batch), Things.Assembly, row.Id, plan.Field.Id, from, to);
        }

        await dues.Write([.. rows.Select(r => r.Assembly)], cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return batch;
    }

    /// <summary>Undoes it, where nobody has changed the value since.</summary>
    /// <returns>How many were set back.</returns>
    public async Task<Reply<int>> Undo(Guid batch, string by, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        var changes = await store.Changes.AsNoTracking().Where(c => c.BatchId == batch).ToListAsync(cancel);
        if (changes.Count == 0)
            return Reply<int>.NotFound("There is no such change.");
        var ids = changes.Select(c => c.ThingId).ToList();
        var rows = await store.Assemblies.Where(a => ids.Contains(a.Id)).ToDictionaryAsync(a => a.Id, cancel);
        var back = new List<AssemblyRow>();
        foreach (var change in changes)
            if (
                RegisterFields.Named(change.Field) is { } field
                && RegisterValues.OfAssembly.GetValueOrDefault(field) is { } value
                && rows.GetValueOrDefault(change.ThingId) is { } row
                && value.Get(row) == change.To
            )
            {
                value.Set(row, change.From);
                log.Write(new(by, "undone"), Things.Assembly, row.Id, field.Id, change.To, change.From);
                back.Add(row);
            }

        await dues.Write(back, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return back.Count;
    }

    private static string? WhyNot(AssemblyRow row, RegisterField field, string value) =>
        field == AssemblyFields.Hazard && value == "high" ? AssemblyTypes.Named(row.Type)?.Facts().NeverOnHighHazard
        : field == AssemblyFields.BypassLine && value == "yes" && !row.FireLine ? "It stands in no fire line."
        : value.Length == 0 && field.Kind is FieldKind.Choice && field != AssemblyFields.Use
            ? "This cannot be left empty."
        : null;
}
