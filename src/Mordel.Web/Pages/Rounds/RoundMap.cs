using Microsoft.AspNetCore.Html;
using Mordel.Core.Planning;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rounds;

/// <summary>Draws the rounds of a day on the ground: each a line of its own pattern, its stops numbered.</summary>
public static class RoundMap
{
    private const int Wide = 420,
        Tall = 420,
        Margin = 24;

    private static readonly string[] Patterns = ["", "10 5", "3 5", "14 4 3 4", "6 3", "1 4"];

    /// <summary>The pattern of the n-th tester's line.</summary>
    public static string Pattern(int number) => Patterns[number % Patterns.Length];

    /// <summary>The drawing.</summary>
    /// <param name="problem">The problem.</param>
    /// <param name="plan">The rounds.</param>
    /// <param name="day">The day.</param>
    /// <param name="chosen">The stop that is chosen; null where none is.</param>
    /// <param name="href">The way to a stop.</param>
    public static IHtmlContent Draw(
        PlanProblem problem,
        Plan plan,
        DateOnly day,
        string? chosen,
        Func<string, string> href
    )
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        ArgumentNullException.ThrowIfNull(href);
        var routes = plan.Routes.Where(r => r.Day == day).ToList();
        var seen = routes
            .SelectMany(r =>
                PlanLeg.Of(problem, r).SelectMany(l => new[] { problem.Places[l.From], problem.Places[l.To] })
            )
            .Concat(plan.LeftOut.Select(l => problem.Places[problem.Stop(l.Stop)!.Place]))
            .Distinct()
            .ToList();
        if (seen.Count == 0)
            return HtmlString.Empty;
        var (west, south) = (seen.Min(p => p.East), seen.Min(p => p.North));
        var across = Math.Max(1, Math.Max(seen.Max(p => p.East) - west, seen.Max(p => p.North) - south));
        var scale = (Wide - (2 * Margin)) / (double)across;
        double X(PlanPlace p) => Margin + ((p.East - west) * scale);
        double Y(PlanPlace p) => Tall - Margin - ((p.North - south) * scale);
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {Wide} {Tall}\" role=\"group\" aria-label=\"The rounds on the map\">");
        foreach (var route in routes)
        {
            var pattern = Pattern(problem.Testers.ToList().FindIndex(t => t.Id == route.Tester));
            var legs = PlanLeg.Of(problem, route);
            var line = string.Join(
                'L',
                legs.Select(l => problem.Places[l.From])
                    .Append(problem.Places[legs[^1].To])
                    .Select(p => SvgText.Invariant($"{X(p):0} {Y(p):0}"))
            );
            svg.Add($"<path class=\"round\" stroke-dasharray=\"{pattern}\" d=\"M{line}\"/>");
        }

        foreach (var place in plan.LeftOut.Select(l => problem.Places[problem.Stop(l.Stop)!.Place]).Distinct())
            svg.Add($"<path class=\"left\" d=\"M{X(place) - 4:0} {Y(place) - 4:0}l8 8m0 -8l-8 8\"/>");
        foreach (var route in routes)
        foreach (var at in route.Visits.Select((v, n) => (v, n)).GroupBy(x => problem.Stop(x.v.Stop)!.Place))
        {
            var (visit, number) = at.First();
            var (stop, place) = (problem.Stop(visit.Stop)!, problem.Places[at.Key]);
            var says = SvgText.Words($"{number + 1} of {problem.Tester(route.Tester)?.Name}: {stop.Name}");
            var kind = at.Any(x => x.v.Stop == chosen) ? "spot chosen" : "spot";
            svg.Add($"<a href=\"{SvgText.Words(href(stop.Id))}\" aria-label=\"{says}\"><title>{says}</title>");
            svg.Add($"<circle class=\"{kind}\" cx=\"{X(place):0}\" cy=\"{Y(place):0}\" r=\"10\"/>");
            svg.Add($"<text x=\"{X(place):0}\" y=\"{Y(place) + 4:0}\">{number + 1}</text></a>");
        }

        return svg.Html();
    }
}
