using System.Text.Json;

namespace Mordel.Data.Lists;

/// <summary>Reads the titles of the marks that were lost from a kept mark sheet.</summary>
public static class LostMarks
{
    /// <summary>The titles, in the sheet's order.</summary>
    public static IReadOnlyList<string> Find(string marks)
    {
        using var sheet = JsonDocument.Parse(marks);
        return
        [
            .. sheet
                .RootElement.GetProperty("marks")
                .EnumerateArray()
                .Where(m => !m.GetProperty("earned").GetBoolean())
                .Select(m => m.GetProperty("title").GetString()!),
        ];
    }
}
