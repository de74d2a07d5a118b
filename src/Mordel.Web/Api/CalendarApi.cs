using System.Text;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Documents.Interchange;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>A tester's rounds as a calendar: a file for who is signed in, and at a private address.</summary>
public static class CalendarApi
{
    private const string Kind = "text/calendar; charset=utf-8";

    /// <summary>Maps the endpoints.</summary>
    public static void MapCalendars(this IEndpointRouteBuilder app)
    {
        app.MapGet("/calendar.ics", Own).RequireAuthorization(Policies.Field).ExcludeFromDescription();
        app.MapGet("/calendar/{token}.ics", ByAddress)
            .AllowAnonymous()
            .RequireRateLimiting(Limits.OwnerLink)
            .ExcludeFromDescription();
    }

    private static async Task<IResult> Own(HttpContext http, TesterCalendar list, CancellationToken cancel) =>
        Results.File(await Written(list, http.User.Id(), cancel), Kind, "rounds.ics");

    private static async Task<IResult> ByAddress(
        string token,
        HttpContext http,
        KeepCalendars calendars,
        TesterCalendar list,
        CancellationToken cancel
    )
    {
        http.Response.Headers.CacheControl = "no-store";
        return await calendars.Find(token, cancel) is { } account
            ? Results.Bytes(await Written(list, account, cancel), Kind)
            : Results.NotFound();
    }

    private static async Task<byte[]> Written(TesterCalendar list, Guid account, CancellationToken cancel) =>
        Encoding.UTF8.GetBytes(VisitCalendar.Write("Rounds", await list.Of(account, cancel)));
}
