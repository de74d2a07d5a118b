using System.Globalization;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using Mordel.Data.Audit;
using Mordel.Data.Rows;

namespace Mordel.Web.Pages.Upkeep;

/// <summary>Who did what, when, from where; the latest first.</summary>
public sealed class AuditModel(AuditLog log) : PageModel
{
    public AuditFilter Filter { get; private set; }

    public IReadOnlyList<AuditRow> Lines { get; private set; } = [];

    /// <summary>Where the older ones are; null where there are none.</summary>
    public string? Older { get; private set; }

    public async Task OnGet(string? what, string? who, string? on, long? before, CancellationToken cancel)
    {
        Filter = new(what, who?.Trim(), on, before);
        Lines = await log.Find(Filter, cancel);
        Older = Lines.Count == AuditLog.Page ? Link(Filter with { Before = Lines[^1].Number }) : null;
    }

    /// <summary>The address of what is looked for.</summary>
    public static string Link(AuditFilter filter, string ending = "")
    {
        var query = new Dictionary<string, string?>
        {
            ["what"] = filter.What,
            ["who"] = filter.Who,
            ["on"] = filter.On,
            ["before"] = filter.Before?.ToString(CultureInfo.InvariantCulture),
        };
        return QueryHelpers.AddQueryString(
            $"/installation/audit{ending}",
            query.Where(q => !string.IsNullOrEmpty(q.Value))
        );
    }
}
