namespace Mordel.Data.Lists;

/// <summary>
/// The full-text index of the register: every assembly's words in the order of the tags, so that the first page of a
/// common word is found without looking at the others.
/// </summary>
public abstract class RegisterIndex
{
    /// <summary>The index of a store, as its kind of database has it.</summary>
    public static RegisterIndex Of(Store store) =>
        store is PostgresStore ? new PostgresRegisterIndex(store) : new SqliteRegisterIndex(store);

    /// <summary>
    /// Sees that the database marks what changes, and brings the index up to date: a table that was made anew has lost
    /// its triggers.
    /// </summary>
    public abstract Task Prepare(CancellationToken cancel);

    /// <summary>Brings in what has changed since; nothing to do costs next to nothing.</summary>
    public abstract Task Refresh(CancellationToken cancel);

    /// <summary>Makes all of it anew, whatever is there.</summary>
    public abstract Task Rebuild(CancellationToken cancel);

    /// <summary>The question for the ids of what has every word, by tag.</summary>
    /// <param name="words">The words; all assemblies where there is none.</param>
    /// <param name="afterTag">The tag behind which it begins.</param>
    /// <param name="limit">The most rows; null for all.</param>
    public abstract (string Sql, object[] Values) Question(IReadOnlyList<string> words, string afterTag, int? limit);
}

/// <summary>Words as they are looked for.</summary>
/// <param name="Parts">Of three letters and more: anywhere.</param>
/// <param name="Starts">Shorter ones: at the beginning of a word.</param>
/// <param name="Others">Of one or two signs that are no letters: anywhere, row by row.</param>
internal sealed record SearchWords(List<string> Parts, List<string> Starts, List<string> Others)
{
    // Letters that make a part.
    private const int Part = 3;

    /// <summary>Sorts words.</summary>
    public static SearchWords Of(IReadOnlyList<string> words)
    {
        var parts = words.Where(w => w.EnumerateRunes().Count() >= Part).ToList();
        var starts = words.Except(parts).Where(w => w.Any(char.IsLetterOrDigit)).ToList();
        return new(parts, starts, [.. words.Except(parts).Except(starts)]);
    }
}
