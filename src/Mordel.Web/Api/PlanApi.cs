using System.Text.Json;
using Mordel.Core.Serialization;
using Mordel.Planning;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>Where rounds are planned for programs.</summary>
public static class PlanApi
{
    private static readonly TimeSpan Longest = TimeSpan.FromSeconds(20);

    /// <summary>Maps the endpoints.</summary>
    public static void MapPlanApi(this IEndpointRouteBuilder app) =>
        app.MapGroup("/api")
            .RequireAuthorization(Policies.Api)
            .MapPost("/plans", Plan)
            .RequireRateLimiting(Limits.Work)
            .WithTags("Plans")
            .WithSummary("Plans rounds, and says why what is left out is")
            .WithDescription(
                "Takes /formats/plan.schema.json, answers /formats/planned.schema.json, as ./mordel plan does, after "
                    + "at most twenty seconds. Nothing is kept."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);

    private static async Task<IResult> Plan(HttpContext http, ComputeQueue queue, CancellationToken cancel)
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        if (PlanFormat.Read(text, out var errors) is not { } problem)
            return Answers.Bad(errors);
        return await Answers.InTurn(
            queue,
            "",
            () =>
                Task.FromResult(
                    Results.Text(
                        PlannedFormat.Write(RoundSolver.Solve(problem, PlanEffort.Within(Longest), null, cancel)),
                        "application/json"
                    )
                ),
            cancel
        );
    }
}
