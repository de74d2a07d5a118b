using Mordel.Core.Catalogue;
using Mordel.Core.Formats;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Data.Lists;
using Mordel.Documents.Reports;
using Mordel.Web.Application;
using Mordel.Web.Reporting;

namespace Mordel.Web.Api;

/// <summary>Files to take away: reports, run sheets, schemas.</summary>
public static class Downloads
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapDownloads(this IEndpointRouteBuilder app)
    {
        app.MapGet("/reports/{id:guid}/pdf", Pdf).RequireAuthorization();
        app.MapGet("/run-sheets/{id}/{kit}.txt", RunSheet).RequireAuthorization();
        app.MapGet("/formats/{name}", Schema).RequireAuthorization();
    }

    private static async Task<IResult> Pdf(Guid id, HttpContext http, FindRun find, ReportBuilder builder, CancellationToken cancel)
    {
        if (await find.Report(id, http.User.Asker(), cancel) is not { Row.IsSealed: true } run) return Results.NotFound();
        var (report, _) = await builder.Of(run, cancel);
        return Results.File(ReportPdf.Make(report), "application/pdf", $"report-{report.Number.Replace('/', '-')}.pdf");
    }

    private static IResult RunSheet(string id, string kit) => SchoolCatalogue.Named(id) is { } procedure && Kit.Named(kit) is { } plumbing && procedure.Unfit(plumbing) is null
        ? Results.Text(RunSheetFormat.Text(SchoolCatalogue.Sheet(procedure, plumbing)), "text/plain; charset=utf-8") : Results.NotFound();

    private static IResult Schema(string name)
    {
        var stream = typeof(Downloads).Assembly.GetManifestResourceStream($"formats/{name}");
        return stream is null ? Results.NotFound() : Results.Stream(stream, "application/schema+json");
    }
}
