using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>Who changes something, how and together with what.</summary>
/// <param name="By">The name.</param>
/// <param name="How">In a few words: form, many at once, merged, brought in.</param>
/// <param name="Batch">What it is part of; null for a form.</param>
public readonly record struct Author(string By, string How = "form", Guid? Batch = null);

/// <summary>Writes the history of the register and of the office: every change of a value, with who made it.</summary>
public sealed class ChangeLog(Store store, TimeProvider clock)
{
    /// <summary>Writes one change; nothing where nothing changed. Saved with the caller's transaction.</summary>
    /// <param name="author">Who.</param>
    /// <param name="thing">One of <see cref="Things"/>.</param>
    /// <param name="id">Its id.</param>
    /// <param name="field">The field's name; empty where it is about the whole.</param>
    /// <param name="from">What it was.</param>
    /// <param name="to">What it is.</param>
    public void Write(Author author, string thing, Guid id, string field, string from, string to)
    {
        if (from != to)
            store.Changes.Add(Row(author, thing, id, field, from, to));
    }

    /// <summary>Writes that something is there now that was not.</summary>
    public void New(Author author, string thing, Guid id, string what) => Write(author, thing, id, "", "", what);

    /// <summary>One change as a row, for whoever writes many at once.</summary>
    public ChangeRow Row(Author author, string thing, Guid id, string field, string from, string to) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            At = clock.Now(),
            By = author.By,
            How = author.How,
            BatchId = author.Batch,
            Thing = thing,
            ThingId = id,
            Field = field,
            From = from,
            To = to,
        };
}
