using System.Globalization;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Antiforgery;
using Mordel.Core.Formats;
using Mordel.Core.Units;
using Mordel.Core.Views;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>What the run screen talks to: entries in, view out.</summary>
public static class RunApi
{
    /// <summary>How views are written.</summary>
    public static JsonSerializerOptions Json { get; } = new(JsonSerializerDefaults.Web)
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
        Encoder = System.Text.Encodings.Web.JavaScriptEncoder.Default,
    };

    /// <summary>Maps the endpoints.</summary>
    public static void MapRunApi(this IEndpointRouteBuilder app)
    {
        var runs = app.MapGroup("/api/runs/{id:guid}").RequireAuthorization(Policies.Api).WithTags("Runs");
        runs.MapGet("/view", View).WithSummary("Where a run stands").WithDescription("What the run screen shows: a pure function of log and rules. Answers 304 to a known ETag.").Produces<RunView>();
        runs.MapGet("/weigh", Weigh).WithSummary("A number weighed before it is taken").Produces<WeighedView>().Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
        runs.MapGet("/log", Log).WithSummary("The entries of a run, in order").WithDescription("Each as /formats/entries.schema.json describes it.").Produces<JsonElement>();
        runs.MapPost("/entries", Take).RequireAuthorization(Policies.ApiWrite).AddEndpointFilter(SameOrigin).WithSummary("Adds entries to a run")
            .WithDescription("Any batch of up to 200, any number of times, in any order: /formats/entries.schema.json. Entries that are there already, by id, are passed over; nothing of a refused batch is kept. Answers the new view.")
            .Accepts<JsonElement>("application/json").Produces<RunView>().Produces<ProblemAnswer>(StatusCodes.Status400BadRequest).Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        runs.MapGet("/verdict", VerdictOf).WithSummary("The verdict on a run as it stands").WithDescription("/formats/verdict.schema.json").Produces<JsonElement>();
    }

    // The token proves that the entry comes from a page of ours and not from another site's form.
    private static async ValueTask<object?> SameOrigin(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        if (context.HttpContext.User.HasClaim(c => c.Type == TokenDoor.Scope)) return await next(context);
        var antiforgery = context.HttpContext.RequestServices.GetRequiredService<IAntiforgery>();
        return await antiforgery.IsRequestValidAsync(context.HttpContext) ? await next(context)
            : Answers.Refused("This page has grown stale. What you entered is kept on this device; reload the page to send it.", StatusCodes.Status403Forbidden);
    }

    private static async Task<IResult> View(Guid id, HttpContext http, FindRun find, CancellationToken cancel)
    {
        if (await find.For(id, http.User.Asker(), cancel) is not { } run) return Answers.NoRun();
        var tag = $"\"{run.Log.Count}-{(run.Row.IsSealed ? 1 : 0)}\"";
        if (http.Request.Headers.IfNoneMatch == tag) return Results.StatusCode(StatusCodes.Status304NotModified);
        http.Response.Headers.ETag = tag;
        http.Response.Headers.CacheControl = "no-cache";
        return Results.Json(RunViews.Of(run.Plan, run.Log, run.Flow, run.Row.IsSealed), Json);
    }

    private static async Task<IResult> Weigh(Guid id, string? step, string? value, string? speed, HttpContext http, FindRun find, CancellationToken cancel)
    {
        if (await find.For(id, http.User.Asker(), cancel) is not { } run) return Answers.NoRun();
        if (!decimal.TryParse(value, NumberStyles.AllowDecimalPoint | NumberStyles.AllowLeadingSign, CultureInfo.InvariantCulture, out var amount) || Math.Abs(amount) > Differential.Largest)
            return Answers.Bad([new("value", "a number is wanted here")]);
        decimal fast = 0;
        if (speed is not null && (!decimal.TryParse(speed, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture, out fast) || fast > Differential.Largest)) return Answers.Bad([new("speed", "a number, not negative, is wanted here")]);
        var reading = new Reading(new(amount, run.Plan.Resolution.Unit), run.Plan.Resolution, speed is null ? null : new Differential(fast, run.Plan.Resolution.Unit));
        return RunViews.Weigh(run.Plan, run.Log, step ?? "", reading) is { } weighed ? Results.Json(weighed, Json)
            : Answers.Bad([new("step", "no number is asked for at this step")]);
    }

    private static async Task<IResult> Take(Guid id, HttpContext http, TakeEntries take, FindRun find, CancellationToken cancel)
    {
        if (await Answers.Text(http, cancel) is not { } body) return Answers.Bad([new("", "the text is not UTF-8")]);
        var entries = EntryFormat.ReadBatch(body, out var faults);
        if (!faults.IsEmpty) return Answers.Bad(faults);
        var taken = await take.Into(id, http.User.Id(), entries, cancel);
        if (taken.Refusal is { } why)
            return Answers.Refused(why, why.StartsWith("There is no such run", StringComparison.Ordinal) ? StatusCodes.Status404NotFound : StatusCodes.Status409Conflict);
        var run = (await find.For(id, http.User.Asker(), cancel))!;
        return Results.Json(RunViews.Of(run.Plan, run.Log, run.Flow, run.Row.IsSealed), Json);
    }

    private static async Task<IResult> Log(Guid id, HttpContext http, FindRun find, CancellationToken cancel) =>
        await find.For(id, http.User.Asker(), cancel) is { } run
            ? Results.Text($"[{string.Join(",\n", run.Log.Entries.Select(EntryFormat.Write))}]", "application/json") : Answers.NoRun();

    private static async Task<IResult> VerdictOf(Guid id, HttpContext http, FindRun find, CancellationToken cancel) =>
        await find.For(id, http.User.Asker(), cancel) is { } run
            ? Results.Text(VerdictFormat.Write(run.Verdict(await find.Previous(run, cancel))), "application/json") : Answers.NoRun();
}
