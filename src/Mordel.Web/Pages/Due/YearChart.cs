using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Html;
using Mordel.Data.Lists;

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
        var svg = new StringBuilder();
        void Add(FormattableString text) => svg.Append(text.ToString(CultureInfo.InvariantCulture));
        Add($"<svg viewBox=\"0 0 {right + 4} {ground + 26}\" role=\"group\" ");
        Add($"aria-label=\"Tests owed in each week of the year ahead\">");
        if (year.Busiest > 0)
            Add($"<path class=\"can\" d=\"M0 {ground - Tall(year.Busiest)}H{right}\"/>");

        Add($"<path class=\"ground\" d=\"M0 {ground}H{right}\"/>");
        for (var n = 0; n < year.Weeks.Count; n++)
        {
            var (monday, count) = year.Weeks[n];
            var x = n * Wide;
            if (count > 0)
            {
                var href = HtmlEncoder.Default.Encode(IndexModel.Link(filter with { Week = monday }));
                var kind = $"{(filter.Week == monday ? "chosen " : "")}{(Over(count, year) ? "over" : "")}".Trim();
                Add($"<a href=\"{href}\" class=\"{kind}\" aria-label=\"Week of {monday:d MMMM yyyy}: {count}\">");
                Add($"<rect class=\"touch\" x=\"{x}\" y=\"0\" width=\"{Wide}\" height=\"{ground}\"/>");
                Add($"<rect class=\"bar\" x=\"{x + 2}\" y=\"{ground - Tall(count)}\" width=\"{Wide - 4}\" ");
                Add($"height=\"{Tall(count)}\"/><text x=\"{x + (Wide / 2)}\" y=\"{ground - Tall(count) - 3}\" ");
                Add($"text-anchor=\"middle\">{count}</text></a>");
            }

            if (n == 0 || monday.Month != monday.AddDays(-7).Month)
                Add($"<text class=\"month\" x=\"{x}\" y=\"{ground + 18}\">{monday:MMM}</text>");
        }

        return new HtmlString(svg.Append("</svg>").ToString());
    }

    private static bool Over(int count, DueYear year) => year.Busiest > 0 && count > year.Busiest;
}
