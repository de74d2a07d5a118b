using System.Globalization;
using System.Text.Json;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Commands.Bench;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>What programs look up: runs, procedures, profiles; and verdicts on records that they bring.</summary>
public static class RegisterApi
{
    private sealed record ProcedureLine(string Procedure, string Title, string Type, IEnumerable<string> Kits);

    private sealed record ProfileLine(
        string Profile,
        int Version,
        string Name,
        DateOnly InForceFrom,
        DateOnly? InForceUntil,
        IEnumerable<string> Procedures
    );

    /// <summary>Maps the endpoints.</summary>
    public static void MapRegisterApi(this IEndpointRouteBuilder app)
    {
        var api = app.MapGroup("/api").RequireAuthorization(Policies.Api);
        api.MapGet("/runs", Runs)
            .RequireAuthorization(Policies.ApiField)
            .WithTags("Runs")
            .WithSummary("Runs, the newest first")
            .WithDescription(
                "Your own; at the desk everybody's. 200 a page; before= the last line's startedAt gives the next page; "
                    + "branch= only those at its assemblies."
            )
            .Produces<RunLine[]>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
        api.MapGet("/procedures", Procedures)
            .WithTags("Procedures")
            .WithSummary("The procedures there are")
            .Produces<ProcedureLine[]>();
        api.MapGet("/procedures/{id}", OneProcedure)
            .WithTags("Procedures")
            .WithSummary("A procedure written out for a kit and a profile")
            .WithDescription("/formats/procedure.schema.json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest)
            .Produces(StatusCodes.Status404NotFound);
        api.MapGet("/profiles", Profiles)
            .WithTags("Profiles")
            .WithSummary("The rule profiles there are")
            .Produces<ProfileLine[]>();
        api.MapGet("/profiles/{id}", OneProfile)
            .WithTags("Profiles")
            .WithSummary("A profile with every limit")
            .WithDescription("/formats/profile.schema.json")
            .Produces<JsonElement>()
            .Produces(StatusCodes.Status404NotFound);
        api.MapPost("/verdicts", Judge)
            .WithTags("Verdicts")
            .WithSummary("Judges a test record")
            .WithDescription(
                "Takes /formats/test-record.schema.json, answers /formats/verdict.schema.json, as ./mordel "
                    + "evaluate does. Nothing is kept."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
        api.MapPost("/simulations", Simulate)
            .RequireRateLimiting(Limits.Work)
            .WithTags("Simulations")
            .WithSummary("Performs a simulated test on the water")
            .WithDescription(
                "Takes /formats/scenario.schema.json, answers /formats/outcome.schema.json, as ./mordel simulate "
                    + "does. needle= adds the needle's way, a point every so many simulated seconds. Nothing is kept."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
    }

    private static async Task<IResult> Runs(
        string? open,
        string? before,
        string? branch,
        HttpContext http,
        RunList list,
        CancellationToken cancel
    )
    {
        if (open is not (null or "true" or "false"))
            return Answers.Bad([new("open", "true or false is wanted here")]);
        if (branch is not null && BranchFilter.Id(branch) is null)
            return Answers.Bad([new("branch", "the id of a branch is wanted here")]);
        DateTimeOffset? until = null;
        if (before is not null)
        {
            if (
                !DateTimeOffset.TryParse(
                    before,
                    CultureInfo.InvariantCulture,
                    DateTimeStyles.AssumeUniversal,
                    out var at
                )
            )
                return Answers.Bad([new("before", "a time is wanted here; ISO 8601 with an offset")]);
            until = at;
        }

        return Results.Json(await list.For(http.User.Asker(), open == "true", until, cancel, branch), RunApi.Json);
    }

    private static IResult Procedures() =>
        Results.Json(
            SchoolCatalogue.All.Select(p => new ProcedureLine(
                p.Id,
                p.Title,
                p.Type.ToString(),
                Kit.All.Where(k => p.Kits.Contains(k.Kind)).Select(k => k.Name)
            )),
            RunApi.Json
        );

    private static async Task<IResult> OneProcedure(
        string id,
        string? kit,
        string? profile,
        ProfileList book,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (SchoolCatalogue.Named(id) is not { } procedure)
            return Results.NotFound();
        var plumbing = kit is null ? Kit.All.First(k => k.Kind == procedure.Kits[0]) : Kit.Named(kit);
        var rules = profile is null ? null : await book.On(profile, clock.Today(), cancel);
        if (plumbing is null)
            return Answers.Bad([new("kit", $"not a kit; {string.Join(", ", Kit.All.Select(k => k.Name))}")]);
        if (procedure.Unfit(plumbing) is { } unfit)
            return Answers.Bad([new("kit", unfit)]);
        if (profile is not null && rules?.School(id) is null)
        {
            var fit = (await book.All(cancel)).Where(p => p.School(id) is not null).Select(p => p.Id);
            return Answers.Bad([new("profile", $"not a profile with rules for {id}; {string.Join(", ", fit)}")]);
        }

        return Results.Text(RunSheetFormat.Json(SchoolCatalogue.Sheet(procedure, plumbing, rules)), "application/json");
    }

    private static async Task<IResult> Profiles(ProfileList book, CancellationToken cancel) =>
        Results.Json(
            (await book.All(cancel)).Select(p => new ProfileLine(
                p.Id,
                p.Version,
                p.Name,
                p.InForceFrom,
                p.InForceUntil,
                p.Schools.Select(s => s.ProcedureId)
            )),
            RunApi.Json
        );

    private static async Task<IResult> OneProfile(
        string id,
        ProfileList book,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        await book.On(id, clock.Today(), cancel) is { } profile
            ? Results.Text(ProfileFormat.Write(profile), "application/json")
            : Results.NotFound();

    private static async Task<IResult> Judge(
        HttpContext http,
        ProfileList book,
        TimeProvider clock,
        CancellationToken cancel
    )
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        return TestRecordFormat.Read(text, out var errors, await book.InForce(clock.Today(), cancel)) is { } record
            ? Results.Text(VerdictFormat.Write(record.Judge(), indented: true), "application/json")
            : Answers.Bad(errors);
    }

    private static async Task<IResult> Simulate(
        double? needle,
        HttpContext http,
        ProfileList book,
        TimeProvider clock,
        ComputeQueue queue,
        RequestWork work,
        CancellationToken cancel
    )
    {
        if (needle is { } every && !(every is 0 or (>= 0.25 and <= 60)))
            return Answers.Bad([new("needle", "0, or seconds from 0.25 to 60")]);
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        if (ScenarioFormat.Read(text, out var errors, await book.InForce(clock.Today(), cancel)) is not { } scenario)
            return Answers.Bad(errors);
        // A page has its own core and asks here only when that did not load.
        return await Answers.InTurn(
            queue,
            "",
            () =>
                Task.FromResult(
                    Results.Text(OutcomeFormat.Perform(scenario, needle ?? 0, work.Budget(cancel)), "application/json")
                ),
            cancel
        );
    }
}
