using Mordel.Core.Outside;
using Mordel.Documents.Interchange;

namespace Mordel.Web.Application;

/// <summary>Tables as files to take along.</summary>
public static class TableFiles
{
    private static readonly Dictionary<string, string> Kinds = new()
    {
        ["csv"] = "text/csv; charset=utf-8",
        ["json"] = "application/json",
        ["geojson"] = "application/geo+json",
        ["ics"] = "text/calendar; charset=utf-8",
    };

    /// <summary>A table as a file; null where it cannot be one of that ending.</summary>
    /// <param name="table">The table.</param>
    /// <param name="what">What it is.</param>
    /// <param name="ending">Its ending, without the dot.</param>
    /// <param name="options">Where the zero stone is.</param>
    /// <param name="clock">Says what day it is.</param>
    public static IResult? AsFile(
        this ExportTable table,
        string what,
        string ending,
        MordelOptions options,
        TimeProvider clock
    )
    {
        ArgumentNullException.ThrowIfNull(table);
        ArgumentNullException.ThrowIfNull(options);
        ArgumentNullException.ThrowIfNull(clock);
        var kind = $".{ending}";
        if (!Kinds.TryGetValue(ending, out var type) || TableWriter.WhyNot(kind, table) is not null)
            return null;
        return Results.Stream(
            into => TableWriter.Write(into, kind, what, table, options.Stone, clock.GetUtcNow()),
            type,
            $"{what}-{clock.GetLocalNow():yyyy-MM-dd}{kind}"
        );
    }
}
