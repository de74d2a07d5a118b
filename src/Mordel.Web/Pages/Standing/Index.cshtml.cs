using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using Mordel.Core.Standing;
using Mordel.Data;
using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Standing;

/// <summary>What all the tests say: a question, its answer with how sure it is, the figures.</summary>
public sealed class IndexModel(StandingProjection projection, StandingList list, TimeProvider clock) : PageModel
{
    /// <summary>Of how many years tests may be shown.</summary>
    public static readonly IReadOnlyList<(int? Years, string Says)> Spans =
    [
        (null, "all years"),
        (3, "the last three years"),
        (1, "the last year"),
    ];

    // Seen less often at an age, a share says too little for a sentence.
    private const int LeastSeen = 5;

    private const double OneInTen = 0.1;

    public StandingFilter Filter { get; private set; } = new();
    public StandingView? View { get; private set; }
    public StandingAge? Age { get; private set; }
    public DateOnly Today => clock.Today();

    /// <summary>By what outcomes are set out.</summary>
    public (string Id, string Name, string Question) By =>
        StandingDimensions.All.FirstOrDefault(d => d.Id == Filter.By, StandingDimensions.All[0]);

    /// <summary>
    /// The share that fills a bar: the highest that any may be, but no more than thrice the highest seen.
    /// </summary>
    public double MostFailed =>
        Math.Max(
            0.02,
            Math.Min(
                View!.Outcomes.Max(o => o.Failed.High),
                3 * View.Outcomes.Select(o => o.Failed.Value).DefaultIfEmpty(0).Max()
            )
        );

    public async Task OnGet(StandingFilter filter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        Filter = filter.Known();
        Age = await projection.Refresh(waits: true, cancel);
        View = Age is null ? null : await list.Of(Filter, cancel);
    }

    /// <summary>Counts all of it anew.</summary>
    public async Task<IActionResult> OnPostCount(StandingFilter filter, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(filter);
        await projection.Count(cancel);
        return Redirect(Link(filter.Known()));
    }

    /// <summary>The page with another filter, or a table of it.</summary>
    public static string Link(StandingFilter filter, string? table = null)
    {
        ArgumentNullException.ThrowIfNull(filter);
        var query = new Dictionary<string, string?>
        {
            ["type"] = filter.Type,
            ["by"] = filter.By,
            ["years"] = filter.Years?.ToString(CultureInfo.InvariantCulture),
            ["procedure"] = filter.Procedure,
        };
        return QueryHelpers.AddQueryString(
            table is null ? "/standing" : $"/standing/{table}.csv",
            query.Where(q => q.Value is not null)
        );
    }

    /// <summary>What of the outcomes stands out by more than chance easily would.</summary>
    public string StandsOut
    {
        get
        {
            var all = View!.Failed.Value;
            var more = View.Outcomes.Where(o => o.Failed.Low > all).Select(o => o.Name).ToList();
            var less = View.Outcomes.Where(o => o.Failed.High < all).Select(o => o.Name).ToList();
            if (more.Count + less.Count == 0)
                return View.Outcomes.Count < 2
                    ? ""
                    : "None stands out: with so few tests, chance alone makes differences like these.";
            var says = new List<string>();
            if (more.Count > 0)
                says.Add($"More often than the rest: {string.Join(", ", more)}.");
            if (less.Count > 0)
                says.Add($"Less often: {string.Join(", ", less)}.");
            return string.Join(" ", says) + " The others differ by no more than chance may.";
        }
    }

    /// <summary>By which age one in ten has failed.</summary>
    public static string Lasts(LifeLine line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return line.Points.Count == 0 ? "not tested yet"
            : LifeTable.YearsUntil(line.Points, OneInTen) is { } years ? $"one in ten has failed by year {years}"
            : $"fewer than one in ten have failed by year {line.Points[^1].Year}";
    }

    /// <summary>What a repair bought, beside new parts; null where too few were seen again.</summary>
    public string? RepairsSay
    {
        get
        {
            var (fresh, mended) = (
                View!.Repairs.FirstOrDefault(l => !l.Mended),
                View.Repairs.FirstOrDefault(l => l.Mended)
            );
            if (mended?.Points.LastOrDefault(p => p.Seen >= LeastSeen && p.Year > 0) is not { } last)
                return null;
            var beside = fresh?.Points.LastOrDefault(p => p.Year <= last.Year);
            return $"{last.Year} {(last.Year == 1 ? "year" : "years")} after a failure {Say(last)} of what was mended "
                + "still hold"
                + (beside is null ? "." : $"; of new parts of that age {Say(beside)}.");
        }
    }

    private static string Say(LifePoint point) =>
        Invariant($"{100 * point.Holds:0} % ({100 * point.Low:0} to {100 * point.High:0})");

    /// <summary>Minutes, as people say them.</summary>
    public static string Minutes(double minutes) =>
        minutes >= 10 ? Invariant($"{minutes:0} min")
        : minutes >= 1 ? Invariant($"{minutes:0.0} min")
        : Invariant($"{60 * minutes:0} s");

    private static string Invariant(FormattableString text) => text.ToString(CultureInfo.InvariantCulture);
}
