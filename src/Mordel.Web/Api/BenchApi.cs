using System.Text.Json;
using Microsoft.AspNetCore.Http.HttpResults;
using Mordel.Core.Serialization;
using Mordel.Core.Views;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Where recordings of the bench are handed in and fetched, and played for who has no water yet.</summary>
public static class BenchApi
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapBenchApi(this IEndpointRouteBuilder app)
    {
        var bench = app.MapGroup("/api/bench").RequireAuthorization(Policies.Api).WithTags("Bench");
        bench
            .MapPost("/attempts", HandIn)
            .RequireRateLimiting(Limits.Work)
            .AddEndpointFilter(
                new FromOurPages("Your recording is kept on this device; reload the page to hand it in.")
            )
            .WithSummary("Hands in a test done at the bench")
            .WithDescription(
                "assignment (or null) and tape (the recording), /formats/tape.schema.json. The server plays the "
                    + "recording, marks it and "
                    + "keeps both; answers where the marks are."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest)
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        bench
            .MapPost("/look", Look)
            .RequireRateLimiting(Limits.Work)
            .AddEndpointFilter(new FromOurPages("Reload it; what you did is kept on this device."))
            .WithSummary("How a bench stands after all that was done")
            .WithDescription(
                "tape (the recording up to now, five minutes of it at most), words (said to the sheet: at, say, "
                    + "value), guided, flow, told (happenings told before), drawn. The server "
                    + "plays it from the beginning and keeps nothing. For a page that waits for its own water."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
        bench
            .MapGet("/attempts/{id:guid}", Marks)
            .WithSummary("The marks of an attempt")
            .WithDescription("/formats/marks.schema.json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status404NotFound);
        bench
            .MapGet("/attempts/{id:guid}/tape", RecordingOf)
            .WithSummary("The recording of an attempt")
            .WithDescription("/formats/tape.schema.json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status404NotFound);
    }

    private static async Task<IResult> HandIn(
        HttpContext http,
        HandIn command,
        ComputeQueue queue,
        CancellationToken cancel
    )
    {
        if (http.User.FindFirst(ApiKeyAuthentication.Scope) is { Value: not ApiKeys.Write })
            return Answers.Refused("This key may only read.", StatusCodes.Status403Forbidden);
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        if (
            RecordingFormat.ReadHandedIn(text, out var assignment, out var recordingText, out var errors)
            is not { } recording
        )
            return Answers.Bad(errors);
        return await Answers.InTurn(
            queue,
            "tape",
            async () =>
            {
                var reply = await command.Take(recording, recordingText, http.User.Asker(), assignment, cancel);
                return await Answers.Of(reply, id =>
                    Results.Json(new { id, at = $"/bench/attempts/{id}" }, RunApi.Json)
                );
            },
            cancel
        );
    }

    private static async Task<IResult> Look(
        HttpContext http,
        ComputeQueue queue,
        RequestWork work,
        CancellationToken cancel
    )
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        if (RecordingFormat.ReadLook(text, out var errors) is not { } look)
            return Answers.Bad(errors);
        return await Answers.InTurn(
            queue,
            "tape",
            () =>
                Task.FromResult(
                    Results.Text(BenchLookViews.Of(look, look.Play(new(work.Most, cancel))), "application/json")
                ),
            cancel
        );
    }

    private static async Task<IResult> Marks(Guid id, HttpContext http, BenchList book, CancellationToken cancel) =>
        await book.Attempt(id, http.User.Asker(), cancel) is { } attempt
            ? Results.Text(attempt.Marks, "application/json")
            : NoAttempt();

    private static async Task<IResult> RecordingOf(
        Guid id,
        HttpContext http,
        BenchList book,
        CancellationToken cancel
    ) =>
        await book.Attempt(id, http.User.Asker(), cancel) is { } attempt
            ? Results.Text(attempt.Recording, "application/json")
            : NoAttempt();

    private static JsonHttpResult<ProblemAnswer> NoAttempt() =>
        Answers.Refused("There is no such attempt, or it is not yours to see.", StatusCodes.Status404NotFound);
}
