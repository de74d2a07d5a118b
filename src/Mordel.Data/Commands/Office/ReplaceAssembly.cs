using Microsoft.EntityFrameworkCore;
using Mordel.Core.Register;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Office;

/// <summary>
/// Enters what stands in the place of an assembly that was taken out: a new assembly with the same tag, linked to the
/// old one, that owes its first test. The old one keeps its tests.
/// </summary>
public sealed class ReplaceAssembly(Store store, DueProjection dues, ChangeLog log, TimeProvider clock)
{
    // What may be another with another serial.
    private static readonly RegisterField[] Its =
    [
        AssemblyFields.Serial,
        AssemblyFields.Make,
        AssemblyFields.Model,
        AssemblyFields.Size,
    ];

    /// <summary>Enters it; its id.</summary>
    /// <param name="oldId">What was taken out.</param>
    /// <param name="values">Serial, make, model and size of the new one, by field.</param>
    /// <param name="day">Since when it stands there.</param>
    /// <param name="author">Who says so.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> By(
        Guid oldId,
        IReadOnlyDictionary<string, string?> values,
        DateOnly? day,
        Author author,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(values);
        var fields = new FieldErrors();
        var on = fields.Day("replaced-day", day, "The day");
        fields.That("replaced-day", on <= clock.Today(), "It lies in the future: enter it when it stands there.");
        await using var transaction = await store.BeginWriting(cancel);
        var old = await store.Assemblies.Include(a => a.Authority).FirstOrDefaultAsync(a => a.Id == oldId, cancel);
        if (old is null)
            return Reply<Guid>.NotFound("There is no such assembly.");
        if (old.ReplacedOn is not null)
            return Reply<Guid>.Refused("Another stands in its place already.");
        fields.That("replaced-day", on >= old.InstalledOn, $"It was installed on {old.InstalledOn:d MMM yyyy} itself.");
        var key = SerialKeys.Of(values.GetValueOrDefault(AssemblyFields.Serial.Id) ?? "");
        var its = new FieldErrors();
        its.That(AssemblyFields.Serial.Id, key != old.SerialKey, "That is the serial of the one that was taken out.");
        var id = Guid.CreateVersion7();
        var serial = old.Serial;
        var fresh = Replacement.InPlaceOf(old, "", on, id);
        EditRegister.Apply(
            RegisterValues.OfAssembly,
            fresh,
            Its.ToDictionary(f => f.Id, f => (string?)(values.GetValueOrDefault(f.Id) ?? "")),
            its
        );
        // Beside the old one's on the form, they have names of their own.
        foreach (var error in its.Errors)
            fields.That($"new-{error.Field}", false, error.Says);
        if (fields.Any)
        {
            store.ChangeTracker.Clear();
            return fields;
        }

        fresh.Authority = old.Authority;
        store.Assemblies.Add(fresh);
        log.Write(author, Things.Assembly, old.Id, "", "replaced by", $"{fresh.Serial}, {on:yyyy-MM-dd}");
        log.Write(author, Things.Assembly, fresh.Id, "", "in the place of", $"{serial}, {on:yyyy-MM-dd}");
        await store.SaveChangesAsync(cancel);
        await dues.Write(fresh, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return fresh.Id;
    }
}
