using Microsoft.AspNetCore.Antiforgery;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Accounts;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Commands.Field;
using Mordel.Data.Commands.Repairs;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Api;

/// <summary>
/// What a tester's device takes along, and what it brings home. What is brought carries ids that were made on the
/// device: brought once more it is there once.
/// </summary>
public static class FieldApi
{
    private const string Kept = "What you entered is kept on this device; sign in again to send it.";

    // A setup in its complete form, and what stands beside it.
    private const int LongestText = 400_000;

    /// <summary>Maps the endpoints.</summary>
    public static void MapFieldApi(this IEndpointRouteBuilder app)
    {
        var field = app.MapGroup("/api/field")
            .RequireAuthorization(Policies.Field)
            .WithTags("Without a signal")
            .ExcludeFromDescription();
        field.MapGet("/me", WhoIsHere);
        field.MapGet("/round", Round);
        field.MapGet("/files", (FieldFiles files) => Results.Json(files.List));
        var brought = field
            .MapGroup("")
            .RequireAuthorization(Policies.ApiWrite)
            .AddEndpointFilter(new FromOurPages(Kept));
        brought.MapPost("/runs", Begin);
        brought.MapPost("/runs/{id:guid}/signature", Sign);
        brought.MapPost("/diagnoses", Look);
        brought.MapPost("/diagnoses/{id:guid}/seen", Saw);
        brought.MapPost("/repairs", Repair);
        brought.MapPost("/repairs/{id:guid}/entries", Mend);
    }

    // Who is signed in here, with what proves a page of ours; and the time, for devices whose clock is wrong.
    private static IResult WhoIsHere(
        HttpContext http,
        IAntiforgery antiforgery,
        FieldFiles files,
        TimeProvider clock
    ) =>
        Results.Json(
            new
            {
                id = http.User.Id(),
                name = http.User.Name(),
                token = antiforgery.GetAndStoreTokens(http).RequestToken,
                version = files.List.Version,
                now = clock.Now(),
            }
        );

    private static async Task<IResult> Round(
        HttpContext http,
        RoundAboard aboard,
        Sessions sessions,
        CancellationToken cancel
    )
    {
        if (!http.User.IsInRole(Roles.Tester))
            return Answers.Refused("Only testers take a round along.");
        var round = await aboard.For(http.User.Id(), http.User.Name(), cancel);
        if (http.User.SessionId() is { } session)
            await sessions.TookAlong(session, cancel);
        return Results.Json(round, RunApi.Json);
    }

    private static Task<IResult> Begin(HttpContext http, BringRun bring, CancellationToken cancel) =>
        Read(
            http,
            body =>
            {
                var run = body.Required("run")?.Id();
                var setup = body.Required("setup")?.Text(LongestText);
                var pass = body.Required("pass")?.Text(4_000);
                var at = body.Required("begunAt")?.Instant();
                var repair = body.Optional("repair")?.Id();
                return (run, setup, pass, at) is ({ } id, { } made, { } given, { } begun)
                    ? async () =>
                        await Answers.Of(
                            await bring.Take(new(id, made, given, begun, repair), http.User.Id(), cancel),
                            there => Results.Json(new { id = there.Run, says = there.Says })
                        )
                    : null;
            },
            cancel
        );

    private static Task<IResult> Sign(
        Guid id,
        HttpContext http,
        SealRun seal,
        ShowAgain again,
        CancellationToken cancel
    )
    {
        return Read(
            http,
            body =>
            {
                var name = body.Required("name")?.Text(120);
                var ink = body.Required("ink")?.Text(200_000);
                var seen = body.Required("seen")?.Whole(0, 100_000);
                var at = body.Required("at")?.Instant();
                var log = body.Required("log")?.Text(64);
                var overall = body.Required("overall")?.Text(40);
                return
                    (name, ink, seen, at, log, overall)
                        is ({ } said, { } drawn, { } count, { } when, { } hash, { } outcome)
                    ? () => Sealed(new(said, drawn, (int)count, []) { There = new(when, hash, outcome) })
                    : null;
            },
            cancel
        );

        async Task<IResult> Sealed(GivenSignature signature) =>
            await again.IsWantedNow(http)
                ? Answers.Refused(
                    "This firm asks you to show once more that it is you before a report is sealed: sign in again, "
                        + "then send it again."
                )
                : await Answers.Of(await seal.By(id, http.User.Id(), signature, cancel), run =>
                    Results.Json(new { id = run })
                );
    }

    private static Task<IResult> Look(HttpContext http, KeepDiagnosis keep, CancellationToken cancel)
    {
        return Read(
            http,
            body =>
                (body.Required("run")?.Id(), body.Required("assembly")?.Id()) is ({ } run, { } assembly)
                    ? async () => await Opened(run, assembly)
                    : null,
            cancel
        );

        // The run may be sealed by now: what is seen after that is a search of its own.
        async Task<IResult> Opened(Guid run, Guid assembly)
        {
            var there = await keep.OpenFor(run, http.User.Asker(), http.User.Name(), cancel);
            if (there.Why == NotDone.Refused)
                there = await keep.Open(assembly, http.User.Name(), cancel);
            return await Answers.Of(there, id => Results.Json(new { id }));
        }
    }

    private static Task<IResult> Saw(Guid id, HttpContext http, KeepDiagnosis keep, CancellationToken cancel) =>
        Read(
            http,
            body =>
            {
                string? Word(string name) => body.Optional(name)?.Text(60);
                var (look, outlet, opened, found) = (Word("look"), Word("outlet"), Word("opened"), Word("found"));
                return body.Required("entry")?.Id() is { } entry
                    ? async () =>
                        await Answers.Of(
                            await keep.Saw(id, look, outlet, opened, found, Me(http), cancel, entry),
                            seen => Results.Json(new { id = seen })
                        )
                    : null;
            },
            cancel
        );

    private static Task<IResult> Repair(
        HttpContext http,
        BeginRepair begin,
        TimeProvider clock,
        CancellationToken cancel
    ) =>
        Read(
            http,
            body =>
            {
                var (id, assembly) = (body.Required("id")?.Id(), body.Required("assembly")?.Id());
                var (at, diagnosis) = (body.Required("at")?.Instant(), body.Optional("diagnosis")?.Id());
                return (id, assembly, at) is ({ } made, { } on, { } when)
                    ? async () =>
                        await Answers.Of(
                            await begin.On(
                                on,
                                diagnosis,
                                http.User.Id(),
                                http.User.Name(),
                                cancel,
                                (made, clock.Entered(when))
                            ),
                            repair => Results.Json(new { id = repair })
                        )
                    : null;
            },
            cancel
        );

    private static async Task<IResult> Mend(Guid id, HttpContext http, TakeRepairEntry take, CancellationToken cancel)
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        var entries = RepairEntryFormat.ReadBatch(text, http.User.Name(), out var errors);
        if (!errors.IsEmpty)
            return Answers.Bad(errors);
        foreach (var entry in entries)
        {
            var taken = await take.Into(id, entry, http.User.Id(), cancel);
            // Those before it are kept; sent once more they are passed over.
            if (taken.Why is not null)
                return await Answers.Of(taken, _ => Results.NoContent());
        }

        return Results.Json(new { id });
    }

    private static Observer Me(HttpContext http) => new(http.User.Name(), ObservationWays.House);

    // Reads an object; what is to be done with it is done only where nothing of it is wrong.
    private static async Task<IResult> Read(
        HttpContext http,
        Func<Node, Func<Task<IResult>>?> read,
        CancellationToken cancel
    )
    {
        if (await Answers.Text(http, cancel) is not { } text)
            return Answers.NotText();
        var errors = new List<InputError>();
        var answer = Node.Root(text, errors) is { } body && body.IsObject() ? read(body) : null;
        return errors.Count == 0 && answer is not null ? await answer() : Answers.Bad([.. errors]);
    }
}
