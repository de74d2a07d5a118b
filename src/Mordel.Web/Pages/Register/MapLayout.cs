using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Register;

/// <summary>Where things stand on the drawn map, in its own units.</summary>
/// <param name="X">To the right.</param>
/// <param name="Y">Down.</param>
/// <param name="Radius">How large it is drawn.</param>
/// <param name="Spot">What stands there.</param>
public sealed record DrawnSpot(double X, double Y, double Radius, MapSpot Spot);

/// <summary>
/// Lays out the map: what would lie on top of each other is drawn as one, names stand where there is room.
/// </summary>
public static class MapLayout
{
    private const double Largest = 26,
        LetterWide = 7.6,
        LetterTall = 16;

    /// <summary>How large so many assemblies are drawn.</summary>
    public static double Radius(int assemblies) => Math.Min(Largest, 8 + (3 * Math.Sqrt(assemblies)));

    /// <summary>Spots that would lie on top of each other become one, the largest first.</summary>
    public static List<DrawnSpot> Together(IEnumerable<DrawnSpot> spots)
    {
        var kept = new List<DrawnSpot>();
        foreach (var spot in spots.OrderByDescending(s => s.Spot.Assemblies).ThenBy(s => s.X).ThenBy(s => s.Y))
        {
            var now = spot;
            while (kept.FindIndex(k => Overlap(k, now)) is >= 0 and var at)
            {
                now = Both(kept[at], now);
                kept.RemoveAt(at);
            }

            kept.Add(now);
        }

        return kept;
    }

    /// <summary>Where a street's name has room; null where it has none.</summary>
    /// <param name="name">The name.</param>
    /// <param name="along">Points of the street.</param>
    /// <param name="spots">What is drawn over it.</param>
    /// <param name="taken">Names that stand already: left, top, width.</param>
    public static (double X, double Y)? NameFor(
        string name,
        IReadOnlyList<(double X, double Y)> along,
        IReadOnlyList<DrawnSpot> spots,
        List<(double X, double Y, double Wide)> taken
    )
    {
        ArgumentNullException.ThrowIfNull(name);
        ArgumentNullException.ThrowIfNull(along);
        ArgumentNullException.ThrowIfNull(taken);
        var wide = name.Length * LetterWide;
        foreach (var (x, y) in along.Skip(along.Count / 2).Concat(along.Take(along.Count / 2)))
        foreach (var (dx, dy) in new[] { (12.0, 20.0), (12.0, -10.0), (-12 - wide, 6.0), (30.0, 6.0) })
        {
            var (left, top) = (x + dx, y + dy);
            if (
                spots.Any(s => Covers(s, left, top, wide))
                || taken.Exists(t => left < t.X + t.Wide && t.X < left + wide && Math.Abs(t.Y - top) < LetterTall)
            )
                continue;
            taken.Add((left, top, wide));
            return (left, top);
        }

        return null;
    }

    private static bool Covers(DrawnSpot spot, double left, double baseline, double wide)
    {
        var (x, y) = (
            Math.Clamp(spot.X, left, left + wide),
            Math.Clamp(spot.Y, baseline - LetterTall + 4, baseline + 4)
        );
        return Math.Pow(x - spot.X, 2) + Math.Pow(y - spot.Y, 2) < Math.Pow(spot.Radius + 2, 2);
    }

    private static bool Overlap(DrawnSpot a, DrawnSpot b) =>
        Math.Pow(a.X - b.X, 2) + Math.Pow(a.Y - b.Y, 2) < Math.Pow(a.Radius + b.Radius, 2);

    private static DrawnSpot Both(DrawnSpot a, DrawnSpot b)
    {
        var (s, o) = (a.Spot, b.Spot);
        var all = s.Assemblies + o.Assemblies;
        double Middle(double mine, double other) => ((mine * s.Assemblies) + (other * o.Assemblies)) / all;
        return new(
            Middle(a.X, b.X),
            Middle(a.Y, b.Y),
            Radius(all),
            new(
                (int)Middle(s.East, o.East),
                (int)Middle(s.North, o.North),
                all,
                s.Overdue + o.Overdue,
                s.Failed + o.Failed,
                s.Places + o.Places,
                null,
                null,
                new(
                    Math.Min(s.Cell.West, o.Cell.West),
                    Math.Min(s.Cell.South, o.Cell.South),
                    Math.Max(s.Cell.East, o.Cell.East),
                    Math.Max(s.Cell.North, o.Cell.North)
                )
            )
        );
    }
}
