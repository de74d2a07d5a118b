using Microsoft.AspNetCore.Html;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Due;

/// <summary>Draws the year ahead, a bar a week, each a way to what is owed in it.</summary>
public static class YearChart
{
    private const int Wide = 18,
        High = 110,
        Top = 14;

    /// <summary>The drawing.</summary>
    /// <param name="year">The year.</param>
    /// <param name="filter">What is shown; a bar leads to its week of that.</param>
    public static IHtmlContent Draw(DueYear year, DueFilter filter)
    {
        ArgumentNullException.ThrowIfNull(year);
        ArgumentNullException.ThrowIfNull(filter);
        var most = Math.Max(1, Math.Max(year.Busiest, year.Weeks.Select(w => w.Count).DefaultIfEmpty(0).Max()));
        var (right, ground) = (year.Weeks.Count * Wide, High + Top);
        int Tall(int count) => count == 0 ? 0 : Math.Max(3, count * High / most);
        var svg = new SvgText();
        svg.Add($"<svg viewBox=\"0 0 {right + 4} {ground + 26}\" role=\"group\" ");
        svg.Add($"aria-label=\"Tests owed in each week of the year ahead\">");
        if (year.Busiest > 0)
            svg.Add($"<path class=\"can\" d=\"M0 {ground - Tall(year.Busiest)}H{right}\"/>");

        svg.Add($"<path class=\"ground\" d=\"M0 {ground}H{right}\"/>");
        for (var n = 0; n < year.Weeks.Count; n++)
        {
            var (monday, count) = year.Weeks[n];
            var x = n * Wide;
            if (count > 0)
            {
                var href = SvgText.Words(IndexModel.Link(filter with { Week = monday }));
                var kind = $"{(filter.Week == monday ? "chosen " : "")}{(Over(count, year) ? "over" : "")}".Trim();
                svg.Add($"<a href=\"{href}\" class=\"{kind}\" aria-label=\"Week of {monday:d MMMM yyyy}: {count}\">");
                svg.Add($"<rect class=\"touch\" x=\"{x}\" y=\"0\" width=\"{Wide}\" height=\"{ground}\"/>");
                svg.Add($"<rect class=\"bar\" x=\"{x + 2}\" y=\"{ground - Tall(count)}\" width=\"{Wide - 4}\" ");
                svg.Add($"height=\"{Tall(count)}\"/><text x=\"{x + (Wide / 2)}\" y=\"{ground - Tall(count) - 3}\" ");
                svg.Add($"text-anchor=\"middle\">{count}</text></a>");
            }

            if (n == 0 || monday.Month != monday.AddDays(-7).Month)
                svg.Add($"<text class=\"month\" x=\"{x}\" y=\"{ground + 18}\">{monday:MMM}</text>");
        }

        return svg.Html();
    }

    private static bool Over(int count, DueYear year) => year.Busiest > 0 && count > year.Busiest;
}
