using System.Globalization;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Forecasts;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Writes the chance that the next test of an assembly fails, for lists. It comes from the judged items of its sealed
/// runs since it last failed or was repaired, and can be made again at any time.
/// </summary>
public sealed class ChanceProjection(Store store)
{
    /// <summary>Writes it; what was sealed is saved before.</summary>
    /// <param name="assembly">The assembly; tracked.</param>
    /// <param name="today">Today: a test that is overdue is made today.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task Write(AssemblyRow assembly, DateOnly today, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        var items = AssemblyTypes.Parse(assembly.Type).Facts().Charted.Select(c => c.Item.Id).ToList();
        var rows = await (
            from r in store.Runs
            where r.AssemblyId == assembly.Id && r.SignedAt != null
            join i in store.JudgedItems on r.Id equals i.RunId
            where items.Contains(i.Item)
            orderby r.SignedAt
            select new Judged(
                i.Item,
                r.SignedAt!.Value,
                r.KitId,
                i.Result,
                i.Value,
                i.Limit,
                i.Unit,
                r.WasMended || store.Repairs.Any(p => p.RetestId == r.Id)
            )
        )
            .AsNoTracking()
            .ToListAsync(cancel);
        var next = assembly.NextDue is { } due && due > today ? due : today;
        var chances = items
            .Select(item => (Item: item, Forecast: Forecast.Of(Readings(rows.Where(r => r.Item == item)))))
            .Where(f => f.Forecast is not null)
            .Select(f => (f.Item, Chance: f.Forecast!.FailsOn(next)))
            .ToList();
        // One that fails by either of its readings fails.
        assembly.ChanceToFail =
            chances.Count == 0
                ? null
                : (int)Math.Round(100 * (1 - chances.Aggregate(1.0, (all, c) => all * (1 - c.Chance))));
        assembly.LikelyPart =
            chances.Count == 0 ? null : TestItem.Named(chances.MaxBy(c => c.Chance).Item)?.Shows?.Value;
    }

    private static List<MarginReading> Readings(IEnumerable<Judged> rows)
    {
        var readings = new List<MarginReading>();
        foreach (var row in rows)
        {
            if (row.Result == "fail" || row.IsAfterRepair)
                readings.Clear();
            if (row is { Result: not "fail", Value: { } value, Limit: { } limit })
                readings.Add(
                    new(
                        DateOnly.FromDateTime(row.At.LocalDateTime),
                        (double)((value - limit) / Per(row.Unit)),
                        row.Kit.ToString("D", CultureInfo.InvariantCulture)
                    )
                );
        }

        return readings;
    }

    private static decimal Per(string? unit) =>
        DifferentialUnits.Parse(unit ?? "") == DifferentialUnit.Kpa ? DifferentialUnits.KpaPerPsi : 1;

    private sealed record Judged(
        string Item,
        DateTimeOffset At,
        Guid Kit,
        string Result,
        decimal? Value,
        decimal? Limit,
        string? Unit,
        bool IsAfterRepair
    );
}
