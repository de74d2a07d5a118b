using System.Globalization;
using Mordel.Core.Outside;
using Mordel.Data.Audit;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Tables that leave the house: <c>/exports/register.csv</c>.</summary>
public static class ExportApi
{
    private const int Buffer = 81_920;

    /// <summary>Maps the endpoints.</summary>
    public static void MapExports(this IEndpointRouteBuilder app)
    {
        app.MapGet("/exports/{what}.{ending}", Export)
            .AddEndpointFilter(WrittenDown)
            .RequireAuthorization(Policies.Desk)
            .ExcludeFromDescription();
        app.MapGet("/installation/audit.csv", Audit)
            .AddEndpointFilter(WrittenDown)
            .RequireAuthorization(Policies.Own)
            .ExcludeFromDescription();
        app.MapGet("/standing/{chart}.csv", Standing).RequireAuthorization(Policies.Desk).ExcludeFromDescription();
        app.MapGet("/archive/{year:int:range(1,9998)}.zip", Archive)
            .AddEndpointFilter(WrittenDown)
            .RequireAuthorization(Policies.Desk)
            .ExcludeFromDescription();
        app.MapGet("/shown.{ending}", Shown)
            .AddEndpointFilter(WrittenDown)
            .RequireAuthorization(Policies.Desk)
            .ExcludeFromDescription();
    }

    private static IResult Audit(
        string? what,
        string? who,
        string? on,
        AuditLog log,
        MordelOptions options,
        TimeProvider clock
    ) =>
        new ExportTable(
            ["Number", "At", "Who", "What", "On", "Says", "From", "Hash"],
            log.All(new(what, who, on, null))
                .Select(a =>
                    new[]
                    {
                        a.Number.ToString(CultureInfo.InvariantCulture),
                        a.At.UtcDateTime.ToString("O", CultureInfo.InvariantCulture),
                        a.Who,
                        a.What,
                        a.On,
                        a.Says,
                        a.From,
                        a.Hash,
                    }
                )
        ).AsFile("audit", "csv", options, clock)!;

    // Whole tables of customers leave the house here: who took which.
    private static async ValueTask<object?> WrittenDown(
        EndpointFilterInvocationContext context,
        EndpointFilterDelegate next
    )
    {
        var answer = await next(context);
        var http = context.HttpContext;
        if (answer is not Microsoft.AspNetCore.Http.HttpResults.NotFound)
            await http
                .RequestServices.GetRequiredService<AuditLog>()
                .Write(AuditKinds.Exported, "", $"{http.Request.Path}", http.RequestAborted);
        return answer;
    }

    private static IResult Export(
        string what,
        string ending,
        Exports exports,
        MordelOptions options,
        TimeProvider clock,
        CancellationToken cancel
    ) => exports.Of(what, cancel)?.AsFile(what, ending, options, clock) ?? Results.NotFound();

    // The list as it is shown: the same words and filters as the page.
    private static IResult Shown(
        string ending,
        string? q,
        [AsParameters] RegisterFilter filter,
        ShownList list,
        MordelOptions options,
        TimeProvider clock
    ) => list.Of(q, filter).AsFile("register", ending, options, clock) ?? Results.NotFound();

    // Not found where nothing was signed in that year: an archive of nothing would look like one that lost everything.
    private static async Task<IResult> Archive(int year, SealArchive archive, CancellationToken cancel)
    {
        if (!(await archive.Years(cancel)).Contains(year))
            return Results.NotFound();
        // As a file first: what goes wrong is said, and nobody keeps half an archive for a whole one.
        var file = new FileStream(
            Path.Combine(Path.GetTempPath(), Path.GetRandomFileName()),
            FileMode.CreateNew,
            FileAccess.ReadWrite,
            FileShare.None,
            Buffer,
            FileOptions.DeleteOnClose | FileOptions.Asynchronous
        );
        try
        {
            await archive.Write(year, file, cancel);
            file.Position = 0;
            return Results.File(
                file,
                "application/zip",
                $"sealed-reports-{year.ToString(CultureInfo.InvariantCulture)}.zip"
            );
        }
        catch
        {
            await file.DisposeAsync();
            throw;
        }
    }

    // The table behind a chart, by the same choices as the page.
    private static async Task<IResult> Standing(
        string chart,
        [AsParameters] StandingFilter filter,
        StandingProjection projection,
        StandingList list,
        MordelOptions options,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        await projection.Refresh(waits: true, cancel);
        var view = await list.Of(filter.Known(), cancel);
        return StandingExport.Of(view, chart)?.AsFile(chart, "csv", options, clock) ?? Results.NotFound();
    }
}
