using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization.Metadata;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Views;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>What the run screen talks to: entries in, view out.</summary>
public static class RunApi
{
    /// <summary>
    /// How views are written: source-generated where a type is a view's, by reflection for other answers.
    /// </summary>
    public static JsonSerializerOptions Json { get; } =
        new(ViewsJson.Border.Options)
        {
            TypeInfoResolver = JsonTypeInfoResolver.Combine(ViewsJson.Border, new DefaultJsonTypeInfoResolver()),
        };

    // RFC 7240.
    private const string Minimal = "return=minimal";

    /// <summary>Maps the endpoints.</summary>
    public static void MapRunApi(this IEndpointRouteBuilder app)
    {
        var runs = app.MapGroup("/api/runs/{id:guid}").RequireAuthorization(Policies.ApiField).WithTags("Runs");
        runs.MapGet("/view", View)
            .WithSummary("Where a run stands")
            .WithDescription(
                "What the run screen shows: a pure function of log and rules. Answers 304 to a known ETag; with "
                    + "Prefer: return=minimal only how far the run is."
            )
            .Produces<RunView>();
        runs.MapGet("/weigh", Weigh)
            .WithSummary("A number weighed before it is taken")
            .Produces<WeighedView>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest);
        runs.MapGet("/log", Log)
            .WithSummary("The entries of a run, in order")
            .WithDescription("Each as /formats/entries.schema.json describes it.")
            .Produces<JsonElement>();
        runs.MapPost("/entries", Take)
            .RequireAuthorization(Policies.ApiWrite)
            .AddEndpointFilter(new FromOurPages("What you entered is kept on this device; reload the page to send it."))
            .WithSummary("Adds entries to a run")
            .WithDescription(
                "Any batch of up to 200, any number of times, in any order: /formats/entries.schema.json. Entries "
                    + "that are there already, by id, are passed over; nothing of a refused batch is kept. Answers "
                    + "the new view."
            )
            .Accepts<JsonElement>("application/json")
            .Produces<RunView>()
            .Produces<ProblemAnswer>(StatusCodes.Status400BadRequest)
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        runs.MapGet("/verdict", VerdictOf)
            .WithSummary("The verdict on a run as it stands; of a sealed one, as it was sealed")
            .WithDescription("/formats/verdict.schema.json")
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        runs.MapGet("/setup", Setup)
            .WithSummary("What a run is made with, in full")
            .WithDescription(
                "/formats/run-setup.schema.json, with profile and run sheet: all that is needed to take it along."
            )
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
        runs.MapGet("/record", Record)
            .WithSummary("The record of a sealed run")
            .WithDescription(
                "/formats/sealed-run.schema.json, character by character as it was sealed: its SHA-256 is printed "
                    + "on the report. 409 when the seal is broken."
            )
            .Produces<JsonElement>()
            .Produces<ProblemAnswer>(StatusCodes.Status409Conflict);
    }

    // An open run as it stands, or a sealed one from its record; a broken seal is said instead of either.
    private static async Task<IResult> Shown(
        Guid id,
        HttpContext http,
        FindRun find,
        Func<RunFile, Task<IResult>> open,
        Func<SealedReport, SealedRun, IResult> signed
    )
    {
        var cancel = http.RequestAborted;
        if (await find.Now(id, http.User.Asker(), cancel) is not { } now)
            return Answers.NoRun();
        if (now.Open is { } run)
            return await open(run);
        if (await find.Report(id, cancel) is not { } report)
            return Answers.NoRun();
        return report is { Holds: true, Run: { } record } ? signed(report, record) : Answers.Broken(report);
    }

    // A screen asks every few seconds whether anything is new: mostly nothing is, and a count says so.
    private static async Task<IResult> View(Guid id, HttpContext http, FindRun find)
    {
        var known = http.Request.Headers.IfNoneMatch.ToString();
        if (
            (known.Length > 0 || WantsLittle(http))
            && await find.Standing(id, http.User.Asker(), http.RequestAborted) is { } standing
        )
        {
            if (!standing.IsSealed && known == Tag(standing))
                return Results.StatusCode(StatusCodes.Status304NotModified);
            if (WantsLittle(http))
                return HowFar(standing, http);
        }

        return await Whole(id, http, find, known);
    }

    // The view with its tag; what is signed is looked through first, and is not sent to who knows it.
    private static Task<IResult> Whole(Guid id, HttpContext http, FindRun find, string known = "") =>
        Shown(
            id,
            http,
            find,
            run => Task.FromResult(Tagged(http, new(false, run.Size.Entries), ViewOf(run), ViewsJson.Border.RunView)),
            (_, record) =>
                new Standing(true, record.Log.Length) is var signed && known == Tag(signed)
                    ? Results.StatusCode(StatusCodes.Status304NotModified)
                    : Tagged(http, signed, ViewOf(record), ViewsJson.Border.RunView)
        );

    private static string Tag(Standing run) => $"\"{run.Entries}-{(run.IsSealed ? 1 : 0)}\"";

    // With the tag that says, at the next question, that nothing has come since.
    private static IResult Tagged<T>(HttpContext http, Standing run, T shown, JsonTypeInfo<T> how)
    {
        http.Response.Headers.ETag = Tag(run);
        http.Response.Headers.CacheControl = "no-cache";
        return Written(shown, how);
    }

    // In one go: what is written piece by piece into an answer is not written by the code that was made for it.
    private static IResult Written<T>(T shown, JsonTypeInfo<T> how) =>
        Results.Text(JsonSerializer.SerializeToUtf8Bytes(shown, how), "application/json; charset=utf-8");

    /// <summary>What the run screen shows of an open run.</summary>
    public static RunView ViewOf(RunFile run)
    {
        ArgumentNullException.ThrowIfNull(run);
        return RunViews.Of(run.Setup, run.Log, run.IsSealed, run.State) with
        {
            Unreadable = [.. run.Unreadable.Select(u => $"Entry {u.Id} cannot be read: {u.Why}.")],
        };
    }

    private static RunView ViewOf(SealedRun run) => RunViews.Of(run.Setup, run.Entries, isSealed: true);

    private static Task<IResult> Weigh(
        Guid id,
        string? step,
        string? value,
        string? shown,
        string? speed,
        HttpContext http,
        FindRun find
    ) =>
        Shown(
            id,
            http,
            find,
            run => Task.FromResult(Weighed(run, new(step, value, shown, speed))),
            (_, _) => Answers.Refused("This run is signed: nothing is read on it any more.")
        );

    private static IResult Weighed(RunFile run, Weighing asked) =>
        asked.On(run.Plan, run.State, out var errors) is { } weighed
            ? Written(weighed, ViewsJson.Border.WeighedView)
            : Answers.Bad(errors);

    private static async Task<IResult> Take(
        Guid id,
        HttpContext http,
        TakeEntries take,
        FindRun find,
        CancellationToken cancel
    )
    {
        if (await Answers.Text(http, cancel) is not { } body)
            return Answers.NotText();
        var entries = EntryFormat.ReadBatch(body, out var errors);
        if (!errors.IsEmpty)
            return Answers.Bad(errors);
        var taken = await take.Into(id, http.User.Id(), entries, cancel);
        return await Answers.Of(taken, done =>
            WantsLittle(http) ? Task.FromResult(HowFar(done.Run, http)) : Whole(id, http, find)
        );
    }

    // Who has made the view already wants to know only that the entries are here, and whether others are too.
    private static bool WantsLittle(HttpContext http) => http.Request.Headers["Prefer"].ToString() == Minimal;

    private static IResult HowFar(Standing run, HttpContext http)
    {
        http.Response.Headers["Preference-Applied"] = Minimal;
        return Tagged(http, run, new(run.Entries, run.IsSealed), ViewsJson.Border.HowFarView);
    }

    private static Task<IResult> Log(Guid id, HttpContext http, FindRun find) =>
        Shown(id, http, find, run => Task.FromResult(Entries(run.Log)), (_, record) => Entries(record.Entries));

    private static IResult Entries(RunLog log) =>
        Results.Text($"[{string.Join(",\n", log.Entries.Select(EntryFormat.Write))}]", "application/json");

    private static Task<IResult> VerdictOf(Guid id, HttpContext http, FindRun find) =>
        Shown(
            id,
            http,
            find,
            async run =>
                Results.Text(
                    VerdictFormat.Write(run.Verdict(await find.Previous(run, http.RequestAborted))),
                    "application/json"
                ),
            (_, record) => Results.Text(VerdictFormat.Write(record.Verdict), "application/json")
        );

    private static Task<IResult> Record(Guid id, HttpContext http, FindRun find) =>
        Shown(
            id,
            http,
            find,
            _ => Task.FromResult<IResult>(Answers.Refused("This run is not signed yet: there is no record of it.")),
            (report, _) => Results.Text(report.RecordText!, "application/json")
        );

    private static Task<IResult> Setup(Guid id, HttpContext http, FindRun find) =>
        Shown(
            id,
            http,
            find,
            run => Task.FromResult(Results.Text(RunSetupFormat.WriteComplete(run.Setup), "application/json")),
            (_, record) => Results.Text(RunSetupFormat.WriteComplete(record.Setup), "application/json")
        );
}
