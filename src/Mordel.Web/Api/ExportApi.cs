using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Tables that leave the house: <c>/exports/register.csv</c>.</summary>
public static class ExportApi
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapExports(this IEndpointRouteBuilder app)
    {
        app.MapGet("/exports/{what}.{ending}", Export).RequireAuthorization(Policies.Desk).ExcludeFromDescription();
        app.MapGet("/standing/{chart}.csv", Standing).RequireAuthorization(Policies.Desk).ExcludeFromDescription();
        app.MapGet("/shown.{ending}", Shown).RequireAuthorization(Policies.Desk).ExcludeFromDescription();
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
        var view = await list.Of(Pages.Standing.IndexModel.Known(filter), cancel);
        return StandingExport.Of(view, chart)?.AsFile(chart, "csv", options, clock) ?? Results.NotFound();
    }
}
