using System.Text;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Files to take away: reports, run sheets, schemas.</summary>
public static class Downloads
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapDownloads(this IEndpointRouteBuilder app)
    {
        app.MapGet("/reports/{id:guid}/pdf", Pdf).RequireAuthorization(Policies.Field);
        app.MapGet("/reports/{id:guid}/data", Data).RequireAuthorization(Policies.Field);
        // An authority checks reports without an account here.
        app.MapGet("/keys.pem", KeysAsPem).AllowAnonymous();
        app.MapGet("/keys.json", KeysAsData).AllowAnonymous();
        app.MapGet("/rules/{id}/{version:int}.json", Rules).RequireAuthorization(Policies.Desk);
        app.MapGet("/papers/{id:guid}", Paper).RequireAuthorization(Policies.Field);
        app.MapGet("/run-sheets/{id}/{kit}.txt", RunSheet).RequireAuthorization();
        app.MapGet("/formats/{name}", Schema).AllowAnonymous();
    }

    private static async Task<IResult> Pdf(Guid id, FindRun find, SealedPapers papers, CancellationToken cancel)
    {
        if (await find.Report(id, cancel) is not { } report)
            return Results.NotFound();
        return await papers.Pdf(report, cancel) is { } pdf
            ? Results.File(pdf, "application/pdf", $"{Name(report)}.pdf")
            : Answers.Broken(report);
    }

    // Handed in by people and not looked into: taken along, never shown inside a page of ours.
    private static async Task<IResult> Paper(Guid id, HttpContext http, KeepPapers papers, CancellationToken cancel)
    {
        http.Response.Headers.CacheControl = "no-store";
        return await papers.Read(id, http.User.Id(), http.User.IsAtTheDesk(), cancel) is var (row, bytes)
            ? Results.File(bytes, row.MediaType, row.Name)
            : Results.NotFound();
    }

    private static async Task<IResult> Data(Guid id, FindRun find, SealedPapers papers, CancellationToken cancel)
    {
        if (await find.Report(id, cancel) is not { } report)
            return Results.NotFound();
        return papers.Data(report) is { } data
            ? Results.File(Encoding.UTF8.GetBytes(data), "application/json", $"{Name(report)}.json")
            : Answers.Broken(report);
    }

    // What is broken says so in its name too, wherever the file goes.
    private static string Name(SealedReport report) =>
        $"{(report.Holds ? "report" : "SEAL-BROKEN")}-{report.Run!.Report.FileName}";

    private static async Task<IResult> Rules(string id, int version, ProfileList book, CancellationToken cancel) =>
        await book.Version(id, version, cancel) is { } profile
            ? Results.File(
                Encoding.UTF8.GetBytes(ProfileFormat.Write(profile)),
                "application/json",
                $"rules-{profile.Id}-{profile.Version}.json"
            )
            : Results.NotFound();

    private static IResult KeysAsPem(SigningKeys keys) =>
        Results.Text(string.Join('\n', keys.Published.Select(k => k.Pem.TrimEnd() + '\n')), "application/x-pem-file");

    private static IResult KeysAsData(SigningKeys keys) =>
        Results.Json(
            new
            {
                format = "mordel.keys/1",
                keys = keys.Published.Select(k => new
                {
                    id = k.Id,
                    publicKey = k.Pem,
                    since = k.Since,
                    retiredAt = k.RetiredAt,
                    succession = k.Succession,
                }),
            },
            RunApi.Json
        );

    private static IResult RunSheet(string id, string kit) =>
        SchoolCatalogue.Named(id) is { } procedure
        && Kit.Named(kit) is { } plumbing
        && procedure.Unfit(plumbing) is null
            ? Results.Text(RunSheetText.Write(SchoolCatalogue.Sheet(procedure, plumbing)), "text/plain; charset=utf-8")
            : Results.NotFound();

    private static IResult Schema(string name)
    {
        var stream = typeof(Downloads).Assembly.GetManifestResourceStream($"formats/{name}");
        return stream is null ? Results.NotFound() : Results.Stream(stream, "application/schema+json");
    }
}
