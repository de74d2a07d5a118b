using System.Text;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Documents.Interchange;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>What an owner takes away from the own page: reports, and the visits as a calendar.</summary>
public static class OwnerFiles
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapOwnerFiles(this IEndpointRouteBuilder app)
    {
        var theirs = app.MapGroup("/owner/{token}")
            .AllowAnonymous()
            .RequireRateLimiting(Limits.OwnerLink)
            .ExcludeFromDescription();
        theirs.MapGet("/reports/{run:guid}.pdf", Report);
        theirs.MapGet("/visits.ics", Calendar);
    }

    /// <summary>The link of an owner's page; null where it opens none.</summary>
    public static Task<LinkRow?> Find(KeepLinks links, string? token, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(links);
        return links.Find(token, cancel, LinkPurposes.Owner, LinkPurposes.Occupant);
    }

    private static async Task<IResult> Report(
        string token,
        Guid run,
        HttpContext http,
        KeepLinks links,
        OwnerPage page,
        FindRun find,
        SealedPapers papers,
        CancellationToken cancel
    )
    {
        http.Response.Headers.CacheControl = "no-store";
        return
            await Find(links, token, cancel) is { } link
            && await page.MayRead(link, run, cancel)
            && await find.Report(run, cancel) is { } report
            ? await papers.Pdf(report, cancel) is { } pdf
                ? Results.File(pdf, "application/pdf", $"report-{report.Run!.Report.FileName}.pdf")
                : Answers.Broken(report)
            : Results.NotFound();
    }

    private static async Task<IResult> Calendar(
        string token,
        HttpContext http,
        KeepLinks links,
        OwnerPage page,
        CancellationToken cancel
    )
    {
        http.Response.Headers.CacheControl = "no-store";
        return await Find(links, token, cancel) is { } link
            ? Results.Bytes(
                Encoding.UTF8.GetBytes(VisitCalendar.Write("Water off", await page.Calendar(link, cancel))),
                "text/calendar; charset=utf-8",
                "visits.ics"
            )
            : Results.NotFound();
    }
}
