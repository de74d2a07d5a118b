using Microsoft.EntityFrameworkCore;
using Mordel.Core.Dues;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Assemblies that stand close to each other on the map.</summary>
/// <param name="East">Metres east of the zero stone, in the middle of them.</param>
/// <param name="North">Metres north of it.</param>
/// <param name="Assemblies">How many.</param>
/// <param name="Overdue">How many of them are overdue.</param>
/// <param name="Failed">How many of them failed last.</param>
/// <param name="Places">How many places.</param>
/// <param name="Name">The place's name, where it is one.</param>
/// <param name="PlaceId">The place, where it is one.</param>
/// <param name="Cell">The piece of the map that they stand in.</param>
public sealed record MapSpot(
    int East,
    int North,
    int Assemblies,
    int Overdue,
    int Failed,
    int Places,
    string? Name,
    Guid? PlaceId,
    MapArea Cell
);

/// <summary>A street, as the places along it show it.</summary>
/// <param name="Name">Its name.</param>
/// <param name="Points">Places along it, metres east and north, in order.</param>
public sealed record MapStreet(string Name, IReadOnlyList<(int East, int North)> Points);

/// <summary>What is drawn.</summary>
/// <param name="Area">The piece of the map.</param>
/// <param name="Spots">What stands there.</param>
/// <param name="Streets">The streets, where few enough places are seen.</param>
/// <param name="Unplaced">Assemblies without coordinates.</param>
public sealed record MapView(MapArea Area, IReadOnlyList<MapSpot> Spots, IReadOnlyList<MapStreet> Streets, int Unplaced)
{
    /// <summary>When it was read, where that was not just now.</summary>
    public DateTimeOffset? AsOf { get; init; }
}

/// <summary>The whole map of a large register, as it was last read.</summary>
public sealed class MapMemory
{
    /// <summary>What was read, and when.</summary>
    /// <param name="At">When.</param>
    /// <param name="View">What.</param>
    public sealed record Kept(DateTimeOffset At, MapView View);

    /// <summary>The last one; null where there is none.</summary>
    public Kept? Whole { get; set; }
}

/// <summary>The register by where things stand.</summary>
public sealed class RegisterMap(Store store, MapMemory memory, TimeProvider clock)
{
    private const int Large = 5_000;
    private static readonly TimeSpan Patience = TimeSpan.FromMinutes(1);

    // Cells along the longer side; places that are named one by one, and how many metres across.
    private const int Cells = 32,
        MostNamed = 220,
        Near = 500,
        Margin = 60;

    /// <summary>What is drawn of an area; of everything where none is said.</summary>
    public async Task<MapView> Of(MapArea? wished, CancellationToken cancel)
    {
        if (wished is not null)
            return await Read(wished, cancel);
        // Of a large register all of it is read at most once in a while; the page says as of when.
        if (memory.Whole is { } kept && clock.Now() - kept.At < Patience)
            return kept.View with { AsOf = kept.At };
        var whole = await Read(null, cancel);
        memory.Whole = whole.Spots.Sum(s => s.Places) > Large ? new(clock.Now(), whole) : null;
        return whole;
    }

    private async Task<MapView> Read(MapArea? wished, CancellationToken cancel)
    {
        var placed = store.Places.Where(p => p.East != 0 || p.North != 0);
        var unplaced = await store.Assemblies.CountAsync(
            a => a.Place!.East == 0 && a.Place.North == 0 && a.ReplacedOn == null,
            cancel
        );
        var area = wished ?? await Extent(placed, cancel);
        var today = clock.Today();
        const string failed = nameof(DueCause.Failed);
        var seen = placed.Where(p =>
            p.East >= area.West && p.East < area.East && p.North >= area.South && p.North < area.North
        );
        var count = await seen.Take(MostNamed + 1).CountAsync(cancel);
        var across = Math.Max(area.East - area.West, area.North - area.South);
        var cell = across <= Near && count <= MostNamed ? 1 : Math.Max(1, across / Cells);
        // Each place once, then the cells: of the whole register an index is read, and no assembly.
        var assemblies = store.Assemblies.Where(a => a.ReplacedOn == null);
        if (count <= MostNamed)
            assemblies = assemblies.Where(a => seen.Any(p => p.Id == a.PlaceId));
        var perPlace = assemblies
            .GroupBy(a => a.PlaceId)
            .Select(g => new
            {
                PlaceId = g.Key,
                Assemblies = g.Count(),
                Overdue = g.Sum(a => a.NextDue < today ? 1 : 0),
                Failed = g.Sum(a => a.DueCause == failed ? 1 : 0),
            });
        var rows = await (
            from p in seen
            join a in perPlace on p.Id equals a.PlaceId
            group new { p, a } by new
            {
                Column = (p.East - area.West) / cell,
                Row = (p.North - area.South) / cell,
            } into g
            select new
            {
                g.Key.Column,
                g.Key.Row,
                East = g.Average(x => x.p.East),
                North = g.Average(x => x.p.North),
                Assemblies = g.Sum(x => x.a.Assemblies),
                Overdue = g.Sum(x => x.a.Overdue),
                Failed = g.Sum(x => x.a.Failed),
                Places = g.Count(),
                Name = g.Min(x => x.p.Name),
                PlaceId = g.Min(x => (string)(object)x.p.Id),
            }
        ).ToListAsync(cancel);
        return new(
            area,
            [
                .. rows.Select(r => new MapSpot(
                    (int)r.East,
                    (int)r.North,
                    r.Assemblies,
                    r.Overdue,
                    r.Failed,
                    r.Places,
                    r.Places == 1 ? r.Name : null,
                    r.Places == 1 && Guid.TryParse(r.PlaceId, out var id) ? id : null,
                    new(
                        area.West + (r.Column * cell),
                        area.South + (r.Row * cell),
                        area.West + ((r.Column + 1) * cell),
                        area.South + ((r.Row + 1) * cell)
                    )
                )),
            ],
            count <= MostNamed ? Streets(await seen.AsNoTracking().ToListAsync(cancel)) : [],
            unplaced
        );
    }

    private static async Task<MapArea> Extent(IQueryable<PlaceRow> placed, CancellationToken cancel)
    {
        var extent = await placed
            .GroupBy(_ => 1)
            .Select(g => new
            {
                West = g.Min(p => p.East),
                South = g.Min(p => p.North),
                East = g.Max(p => p.East),
                North = g.Max(p => p.North),
            })
            .FirstOrDefaultAsync(cancel);
        return extent is null
            ? new(-1000, -1000, 1000, 1000)
            : new(extent.West - Margin, extent.South - Margin, extent.East + Margin, extent.North + Margin);
    }

    // No map of the town is at hand: its streets are seen by the houses along them.
    private static IReadOnlyList<MapStreet> Streets(IEnumerable<PlaceRow> places) =>
        [
            .. places
                .GroupBy(p => p.Address.Trim('0', '1', '2', '3', '4', '5', '6', '7', '8', '9', ' ', ','))
                .Where(g => g.Key.Length > 0 && g.Count() > 1)
                .Select(g => new MapStreet(g.Key, Along([.. g.Select(p => (p.East, p.North))]))),
        ];

    private static IReadOnlyList<(int East, int North)> Along((int East, int North)[] points) =>
        points.Max(p => p.East) - points.Min(p => p.East) > points.Max(p => p.North) - points.Min(p => p.North)
            ? [.. points.OrderBy(p => p.East)]
            : [.. points.OrderBy(p => p.North)];
}
