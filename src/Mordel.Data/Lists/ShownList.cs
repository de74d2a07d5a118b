using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Outside;
using Mordel.Core.Register;

namespace Mordel.Data.Lists;

/// <summary>The shown list of the register as a table to take along.</summary>
public sealed class ShownList(RegisterSearch search)
{
    // A list that is shown and taken along is read by people: beyond this the export of everything is meant.
    private const int Most = 50_000;

    /// <summary>What a search and a filter show, by tag.</summary>
    public ExportTable Of(string? words, RegisterFilter filter) =>
        new(
            [
                "tag",
                "serial",
                "type",
                "size",
                "make",
                "model",
                "serves",
                "hazard",
                "use",
                "state",
                "place",
                "address",
                "district",
                "owner",
                "authority",
                "last test",
                "outcome",
                "due",
                "why",
                "east",
                "north",
            ],
            Lines(words, filter)
        )
        {
            Point = (19, 20),
            Due = (17, [0, 2, 10, 11, 18]),
        };

    private async IAsyncEnumerable<string[]> Lines(string? words, RegisterFilter filter)
    {
        var rows = search
            .Matching(words, filter)
            .AsNoTracking()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .Include(a => a.Authority)
            .OrderBy(a => a.Tag)
            .Take(Most)
            .AsAsyncEnumerable();
        await foreach (var a in rows)
            yield return
            [
                a.Tag,
                a.Serial,
                a.Type,
                a.Size,
                a.Make,
                a.Model,
                a.Serves,
                a.Hazard,
                a.Use ?? "",
                a.State,
                a.Place!.Name,
                a.Place.Address,
                a.Place.District,
                a.Place.Owner!.Name,
                a.Authority!.Name,
                Days.Write(a.LastTestOn ?? a.BroughtOn),
                a.LastOutcome ?? a.BroughtOutcome ?? "",
                Days.Write(a.NextDue),
                a.DueWhy ?? "",
                a.Place.East.ToString(CultureInfo.InvariantCulture),
                a.Place.North.ToString(CultureInfo.InvariantCulture),
            ];
    }
}
