using Microsoft.AspNetCore.Html;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Register;

/// <summary>Draws the register's map: places, streets by the houses along them, what is due and what failed.</summary>
public static class MapDrawing
{
    private const int Wide = 1200,
        Tall = 760;

    /// <summary>The drawing.</summary>
    public static IHtmlContent Draw(MapView view)
    {
        ArgumentNullException.ThrowIfNull(view);
        var area = view.Area;
        var scale = Math.Min(Wide / (double)(area.East - area.West), Tall / (double)(area.North - area.South));
        var (left, top) = (
            (Wide - ((area.East - area.West) * scale)) / 2,
            (Tall - ((area.North - area.South) * scale)) / 2
        );
        double X(int east) => left + ((east - area.West) * scale);
        double Y(int north) => top + ((area.North - north) * scale);
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {Wide} {Tall}\" role=\"group\" aria-label=\"Map of the register\">");
        var spots = MapLayout.Together(
            view.Spots.Select(s => new DrawnSpot(X(s.East), Y(s.North), MapLayout.Radius(s.Assemblies), s))
        );
        var names = new List<(double, double, double)>();
        foreach (var (name, points) in view.Streets)
        {
            var way = string.Join('L', points.Select(p => SvgText.Invariant($"{X(p.East):0} {Y(p.North):0}")));
            svg.Add($"<path class=\"street\" d=\"M{way}\"/>");
            if (MapLayout.NameFor(name, [.. points.Select(p => (X(p.East), Y(p.North)))], spots, names) is not { } at)
                continue;
            svg.Add($"<text class=\"street-name\" x=\"{at.X:0}\" y=\"{at.Y:0}\">{SvgText.Words(name)}</text>");
        }

        Ruler(svg, scale);
        // What stands out is drawn last, and lies on top.
        foreach (var (x, y, radius, spot) in spots.OrderBy(s => s.Spot.Failed + s.Spot.Overdue))
        {
            var says = Says(spot);
            var href = spot.PlaceId is { } place
                ? $"/register?place={place}"
                : $"/register/map?area={Grown(spot.Cell)}";
            svg.Add($"<a href=\"{href}\" aria-label=\"{SvgText.Words(says)}\"><title>{SvgText.Words(says)}</title>");
            svg.Add($"<circle class=\"touch\" cx=\"{x:0}\" cy=\"{y:0}\" r=\"{Math.Max(radius, 14):0}\"/>");
            svg.Add($"<circle class=\"spot {(spot.Overdue > 0 ? "overdue" : "")}\" cx=\"{x:0}\" ");
            svg.Add($"cy=\"{y:0}\" r=\"{radius:0}\"/>");
            if (spot.Failed > 0)
                svg.Add($"<path class=\"failed\" d=\"M{x - 5:0} {y - 5:0}l10 10m0 -10l-10 10\"/>");
            else if (spot.Assemblies > 1)
                svg.Add($"<text class=\"how-many\" x=\"{x:0}\" y=\"{y + 5:0}\">{spot.Assemblies}</text>");
            svg.Add($"</a>");
        }

        return svg.Html();
    }

    private static string Says(MapSpot spot)
    {
        var parts = new List<string> { spot.Assemblies == 1 ? "1 assembly" : $"{spot.Assemblies} assemblies" };
        if (spot.Overdue > 0)
            parts.Add($"{spot.Overdue} overdue");
        if (spot.Failed > 0)
            parts.Add($"{spot.Failed} failed");
        return $"{spot.Name ?? $"{spot.Places} places"}: {string.Join(", ", parts)}";
    }

    // A piece of the map is never so small that nothing stands in it.
    private static MapArea Grown(MapArea cell) =>
        cell with
        {
            East = Math.Max(cell.East, cell.West + 2),
            North = Math.Max(cell.North, cell.South + 2),
        };

    private static void Ruler(SvgText svg, double scale)
    {
        var metres = new[] { 10, 20, 50, 100, 200, 500, 1000, 2000, 5000, 10_000 }.FirstOrDefault(
            m => m * scale >= 90,
            20_000
        );
        var long_ = metres * scale;
        svg.Add($"<path class=\"ruler\" d=\"M20 {Tall - 24}v8h{long_:0}v-8\"/>");
        var says = metres >= 1000 ? $"{metres / 1000} km" : $"{metres} m";
        svg.Add($"<text class=\"ruler-text\" x=\"26\" y=\"{Tall - 26}\">{says}</text>");
    }
}
