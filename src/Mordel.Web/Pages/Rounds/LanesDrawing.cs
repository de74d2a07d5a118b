using System.Globalization;
using Microsoft.AspNetCore.Html;
using Mordel.Core.Planning;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rounds;

/// <summary>
/// Draws a tester's day as a lane of time: stops with the time in which their water may be off, ways, waiting, the
/// meal.
/// </summary>
public sealed class LanesDrawing(PlanProblem problem, DateOnly day, int from, int until)
{
    /// <summary>How wide a lane is, in units of the drawing.</summary>
    public const int Wide = 740;

    private const int Tall = 64,
        Top = 14,
        Block = 34,
        Letter = 7;

    /// <summary>The lanes of a day, over the hours that anybody works in it.</summary>
    public static LanesDrawing Of(PlanProblem problem, Plan plan, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(problem);
        ArgumentNullException.ThrowIfNull(plan);
        var shifts = problem.Shifts.Where(s => s.Day == day).ToList();
        var routes = plan.Routes.Where(r => r.Day == day).ToList();
        var from = shifts.Select(s => s.Hours.From).Concat(routes.Select(r => r.Leave)).DefaultIfEmpty(420).Min();
        var until = shifts.Select(s => s.Hours.Until).Concat(routes.Select(r => r.Back)).DefaultIfEmpty(1020).Max();
        return new(problem, day, Math.Max(0, from / 60 * 60), ((until + 59) / 60 * 60));
    }

    /// <summary>The first minute that is drawn, and how many units a minute has: for what is dragged.</summary>
    public (int From, string Scale) Axis => (from, Scale.ToString("0.####", CultureInfo.InvariantCulture));

    private double Scale => Wide / (double)(until - from);

    private double X(int minute) => (minute - from) * Scale;

    /// <summary>The hours above the lanes.</summary>
    public IHtmlContent Hours()
    {
        var svg = Begin(20, "Hours of the day", "hours");
        for (var hour = from; hour < until; hour += 60)
            svg.Add($"<text x=\"{X(hour):0.#}\" y=\"14\">{Window.Says(hour)}</text>");
        return svg.Html();
    }

    /// <summary>A tester's lane.</summary>
    /// <param name="shift">The working day.</param>
    /// <param name="route">The round; null where there is none.</param>
    /// <param name="chosen">The stop that is chosen.</param>
    /// <param name="wrong">The stops in which something cannot be.</param>
    /// <param name="href">The way to a stop.</param>
    public IHtmlContent Lane(
        PlanShift shift,
        PlanRoute? route,
        string? chosen,
        IReadOnlySet<string> wrong,
        Func<string, string> href
    )
    {
        ArgumentNullException.ThrowIfNull(shift);
        ArgumentNullException.ThrowIfNull(wrong);
        ArgumentNullException.ThrowIfNull(href);
        var svg = Begin(Tall, $"Round of {problem.Tester(shift.Tester)?.Name} on {PlanWords.Day(day)}", "lane");
        for (var hour = from; hour <= until; hour += 60)
            svg.Add($"<path class=\"hour\" d=\"M{X(hour):0.#} 0V{Tall}\"/>");
        Box(svg, "off", from, shift.Hours.From);
        Box(svg, "off", shift.Hours.Until, until);
        if (route is not null)
        {
            Ways(svg, route);
            if (route.Lunch is { } lunch)
            {
                Box(svg, "meal", lunch.From, lunch.Until);
                svg.Add($"<text class=\"meal-text\" x=\"{X(lunch.From) + 3:0.#}\" y=\"{Top + 21}\">meal</text>");
            }

            foreach (var visit in route.Visits)
                Stop(svg, visit, problem.Stop(visit.Stop)!, chosen == visit.Stop, wrong.Contains(visit.Stop), href);
        }

        return svg.Html();
    }

    private void Ways(SvgText svg, PlanRoute route)
    {
        var there = route.Leave;
        void Line(string kind, int first, int last, string says)
        {
            svg.Add($"<path class=\"{kind}\" d=\"M{X(first):0.#} {Top + (Block / 2)}H{X(last):0.#}\">");
            svg.Add($"<title>{says}</title></path>");
        }

        foreach (var (leg, visit) in PlanLeg.Of(problem, route).Zip(route.Visits.Cast<PlanVisit?>().Append(null)))
        {
            if (leg.Minutes > 0)
                Line("way", leg.Leave, leg.Leave + leg.Minutes, $"{leg.Minutes} min on the road");
            there = leg.Leave + leg.Minutes;
            if (visit is not null && visit.Begin - there > 0)
                Line("wait", there, visit.Begin, $"{visit.Begin - there} min until it begins");
        }
    }

    private void Stop(SvgText svg, PlanVisit visit, PlanStop stop, bool chosen, bool wrong, Func<string, string> href)
    {
        foreach (var window in stop.Windows)
        {
            var (first, last) = (Math.Max(window.From, from), Math.Min(window.Until, until));
            if (chosen && last > first)
                svg.Add(
                    $"<path class=\"window\" d=\"M{X(first):0.#} {Tall - 6}V{Tall - 12}H{X(last):0.#}V{Tall - 6}\"/>"
                );
        }

        var fixedHours = stop.Windows is [var only] && only.Minutes < 4 * 60;
        var says =
            $"{stop.Name}, {visit.Work}{(stop.Pin is null ? "" : ", settled")}{(wrong ? ", cannot be like this" : "")}";
        var kind = $"stop{(chosen ? " chosen" : "")}{(wrong ? " wrong" : "")}{(stop.Pin is null ? "" : " settled")}";
        var (x, wide) = (X(visit.Begin), Math.Max(4, X(visit.End) - X(visit.Begin)));
        svg.Add(
            $"<a class=\"{kind}\" href=\"{Text(href(stop.Id))}\" data-stop=\"{stop.Id}\" data-begin=\"{visit.Begin}\" "
        );
        svg.Add($"aria-label=\"{Text(says)}\"><title>{Text(says)}</title>");
        svg.Add($"<rect x=\"{x:0.#}\" y=\"{Top}\" width=\"{wide:0.#}\" height=\"{Block}\"/>");
        if (stop.Pin is not null)
            svg.Add($"<path class=\"pin\" d=\"M{x + 4:0.#} {Top}v-7M{x + 1:0.#} {Top - 7}h6\"/>");
        if (fixedHours)
            svg.Add($"<path class=\"fixed\" d=\"M{x:0.#} {Top + Block + 4}h{wide:0.#}\"/>");
        if (wrong)
            svg.Add($"<path class=\"cross\" d=\"M{x + wide - 11:0.#} {Top + 4}l7 7m0 -7l-7 7\"/>");
        // The type and the last digits of its tag, as far as there is room.
        var tag = stop.Name.Split(',')[0];
        var type = tag.Split(' ')[0];
        var place = stop.Name.Length > tag.Length + 2 ? stop.Name[(tag.Length + 2)..] : "";
        svg.Add($"<text x=\"{x + 4:0.#}\" y=\"{Top + 14}\">{Text(Cut(type, wide))}</text>");
        svg.Add($"<text class=\"place\" x=\"{x + 4:0.#}\" y=\"{Top + 28}\">{Text(Cut(place, wide))}</text></a>");
    }

    private static string Cut(string text, double wide) =>
        (int)((wide - 6) / Letter) is var most && most >= text.Length ? text
        : most < 2 ? ""
        : text[..most];

    private void Box(SvgText svg, string kind, int first, int last)
    {
        var (top, tall) = kind == "off" ? (0, Tall) : (Top, Block);
        if (last <= first)
            return;
        svg.Add($"<rect class=\"{kind}\" x=\"{X(first):0.#}\" y=\"{top}\" ");
        svg.Add($"width=\"{X(last) - X(first):0.#}\" height=\"{tall}\"/>");
    }

    private static SvgText Begin(int tall, string says, string kind)
    {
        var svg = new SvgText();
        svg.Add($"<svg class=\"{kind}\" viewBox=\"0 0 {Wide} {tall}\" role=\"group\" aria-label=\"{Text(says)}\">");
        return svg;
    }

    private static string Text(string words) => SvgText.Words(words);
}
