using System.Collections.Immutable;

namespace Mordel.Core.Register;

/// <summary>What a column of a file holds.</summary>
/// <param name="Head">Its head, as it stands in the file.</param>
/// <param name="Field">The field; null where it is left out.</param>
/// <param name="Order">How it writes days.</param>
public sealed record ImportColumn(string Head, string? Field, DayOrder Order = DayOrder.Unknown)
{
    /// <summary>The field itself.</summary>
    public RegisterField? Of => RegisterFields.Named(Field);
}

/// <summary>
/// Recognises the columns of a file from their heads and their values. Each field is found once; what is not recognised
/// is left out, and a person may say otherwise.
/// </summary>
public static class ColumnGuess
{
    // How sure: the head is one of its names; a name stands in the head; only the values tell.
    private const int Named = 100,
        Contained = 60,
        ByValues = 45,
        LongName = 5;

    /// <summary>Recognises them.</summary>
    /// <param name="heads">The heads, in order.</param>
    /// <param name="sample">Some lines.</param>
    /// <param name="remembered">What a person said for a head before; an empty field leaves it out.</param>
    public static ImmutableArray<ImportColumn> Of(
        IReadOnlyList<string> heads,
        IReadOnlyList<IReadOnlyList<string>> sample,
        IReadOnlyDictionary<string, string>? remembered = null
    )
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(sample);
        var values = heads
            .Select(
                (_, i) => sample.Select(l => i < l.Count ? Cleaner.Plain(l[i]) : "").Where(v => v.Length > 0).ToList()
            )
            .ToList();
        var chosen = new string?[heads.Count];
        var taken = new HashSet<string>(StringComparer.Ordinal);
        for (var i = 0; i < heads.Count; i++)
            if (
                remembered?.GetValueOrDefault(RegisterField.Bare(heads[i])) is { } said
                && (said.Length == 0 || taken.Add(said))
            )
                chosen[i] = said;

        var guesses =
            from i in Enumerable.Range(0, heads.Count)
            where chosen[i] is null
            from field in RegisterFields.All
            let score = Score(field, heads[i], values[i])
            where score > 0
            orderby score descending, i
            select (Column: i, field.Id);
        foreach (var (column, id) in guesses)
            if (chosen[column] is null && taken.Add(id))
                chosen[column] = id;
        return
        [
            .. heads.Select(
                (head, i) => new ImportColumn(head, RegisterFields.Named(chosen[i])?.Id, Cleaner.OrderOf(values[i]))
            ),
        ];
    }

    private static int Score(RegisterField field, string head, List<string> values)
    {
        var bare = RegisterField.Bare(head);
        var byHead =
            bare == RegisterField.Bare(field.Id) || field.Heads.Contains(bare) ? Named
            : field.Heads.Any(h => h.Length >= LongName && bare.Contains(h, StringComparison.Ordinal)) ? Contained
            : 0;
        if (field.Kind is FieldKind.Words or FieldKind.Whole or FieldKind.Millimetres)
            return byHead;
        if (values.Count == 0)
            return byHead;
        var fits = values.Count(v => Cleaner.Clean(field, v).Wrong is null) * 100 / values.Count;
        if (byHead > 0)
            return fits >= 50 ? byHead + (fits / 10) : byHead - 55;
        // Words of its own tell what a column is; dates and yes or no could be anything.
        return
            field.Kind == FieldKind.Choice
            && field.Of == FieldOf.Assembly
            && fits >= Telling(field)
            && Tells(field, values)
            ? ByValues
            : 0;
    }

    // A type is known even where some lines have none that is known here.
    private static int Telling(RegisterField field) => field == AssemblyFields.Type ? 60 : 95;

    // A letter or a digit alone tells nothing.
    private static bool Tells(RegisterField field, List<string> values) =>
        field == AssemblyFields.Type
            ? values.Exists(v => v.Length >= 2)
            : values.Distinct(StringComparer.OrdinalIgnoreCase).Count() > 1 && values.TrueForAll(v => v.Length > 2);
}
