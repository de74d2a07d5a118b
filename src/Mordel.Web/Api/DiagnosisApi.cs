using System.Text.Json;
using Mordel.Core.Diagnosis;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Files;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Where evidence is weighed.</summary>
public static class DiagnosisApi
{
    /// <summary>Maps the endpoints.</summary>
    public static void MapDiagnosisApi(this IEndpointRouteBuilder app) =>
        app.MapGroup("/api")
            .RequireAuthorization(Policies.Api)
            .MapPost("/diagnoses", Diagnose)
            .RequireRateLimiting(Limits.Work)
            .WithTags("Diagnoses")
            .WithSummary("Says what may be wrong, and what to look at next")
            .WithDescription(
                "Takes /formats/evidence.schema.json, answers /formats/diagnosis.schema.json, as ./mordel diagnose "
                    + "does. Compared with a model of the water, not measured. Nothing is kept."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest)
            .Produces<ProblemAnswer>(StatusCodes.Status503ServiceUnavailable);

    private static async Task<IResult> Diagnose(
        HttpContext http,
        ProfileList book,
        TimeProvider clock,
        AtlasShelf shelf,
        ComputeQueue queue,
        CancellationToken cancel
    )
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        if (EvidenceFormat.Read(text, out var errors, await book.InForce(clock.Today(), cancel)) is not { } evidence)
            return Answers.Bad(errors);
        try
        {
            return await Answers.InTurn(
                queue,
                "",
                () =>
                    Task.FromResult(
                        Results.Text(
                            DiagnosisFormat.Write(Diagnosing.Of(shelf.Of(evidence.Body), evidence)),
                            "application/json"
                        )
                    ),
                cancel
            );
        }
        catch (FormatException e)
        {
            return Answers.Refused(e.Message, StatusCodes.Status503ServiceUnavailable);
        }
    }
}
