using Mordel.Core.Register;
using Mordel.Data.Rows;

namespace Mordel.Web.Pages.Imports;

/// <summary>How far an import is, in words.</summary>
public static class ImportWords
{
    /// <summary>How far it is.</summary>
    /// <param name="import">The import.</param>
    /// <param name="done">Lines that are taken in so far; null where nobody works on it.</param>
    public static string Says(ImportRow import, int? done = null)
    {
        ArgumentNullException.ThrowIfNull(import);
        return import.State switch
        {
            ImportStates.Columns => "Its columns are to be looked at.",
            ImportStates.Checking => $"Being checked: {import.Lines} lines so far.",
            ImportStates.Checked => $"Checked, and waits for you: {Counts(import)}.",
            ImportStates.Applying when done is { } lines => $"Being taken in: {lines} of {import.Lines} lines so far.",
            ImportStates.Applying => "Being taken in.",
            ImportStates.Applied => $"Taken in on {Day(import.AppliedAt)} by {import.AppliedBy}: {Counts(import)}.",
            ImportStates.Undone => $"Undone on {Day(import.UndoneAt)} by {import.UndoneBy}.",
            _ => $"Stopped; nothing of it was taken in. {import.Says}",
        };
    }

    /// <summary>What a state of lines is called above them.</summary>
    public static string Title(LineState state) =>
        state switch
        {
            LineState.New => "New",
            LineState.Changed => "Changed",
            LineState.Same => "As it is there",
            LineState.Doubtful => "Doubtful",
            _ => "Wrong",
        };

    private static string Day(DateTimeOffset? at) => $"{at?.ToLocalTime():d MMM yyyy}";

    private static string Counts(ImportRow i) =>
        $"{i.New} new, {i.Changed} changed, {i.Same} as they were, {i.Doubtful} doubtful, {i.Wrong} wrong";
}
