using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Register;

namespace Mordel.Data.Commands.Imports;

/// <summary>What the columns of an import hold, as it is kept with it.</summary>
public static class ImportColumns
{
    private sealed record Kept(string Head, string? Field, DayOrder Order);

    /// <summary>As it is kept.</summary>
    public static string Write(IEnumerable<ImportColumn> columns) =>
        JsonSerializer.Serialize(columns.Select(c => new Kept(c.Head, c.Field, c.Order)));

    /// <summary>As it was kept.</summary>
    public static ImmutableArray<ImportColumn> Read(string json) =>
        [.. JsonSerializer.Deserialize<List<Kept>>(json)!.Select(k => new ImportColumn(k.Head, k.Field, k.Order))];
}
