using System.Collections.Immutable;
using System.Text;
using System.Text.Json;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Mvc;
using Mordel.Core.Hydraulics;
using Mordel.Core.Serialization;
using Mordel.Data.Commands;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>
/// A refusal in the shape that every part of the API uses: problem details, and beside their title and status what
/// happened and each error with its place.
/// </summary>
public sealed class ProblemAnswer : ProblemDetails
{
    /// <summary>What happened, in a sentence.</summary>
    public required string Error { get; init; }

    /// <summary>Each error with its place.</summary>
    [JsonPropertyName("faults")]
    public required IReadOnlyList<InputError> Errors { get; init; }
}

/// <summary>Answers shared by the endpoints.</summary>
public static class Answers
{
    private const string ProblemType = "application/problem+json";

    /// <summary>The problem in its shape.</summary>
    public static ProblemAnswer Problem(string says, int status, params IReadOnlyList<InputError> errors) =>
        new()
        {
            Title = says,
            Status = status,
            Error = says,
            Errors = errors,
        };

    private static JsonHttpResult<ProblemAnswer> Said(ProblemAnswer problem) =>
        TypedResults.Json(problem, (JsonSerializerOptions?)null, ProblemType, problem.Status);

    /// <summary>400 with errors.</summary>
    public static JsonHttpResult<ProblemAnswer> Bad(ImmutableArray<InputError> errors) =>
        Said(Problem("The input cannot be used. Nothing of it was kept.", StatusCodes.Status400BadRequest, errors));

    /// <summary>400 for what <see cref="Text"/> could not read.</summary>
    public static JsonHttpResult<ProblemAnswer> NotText() => Bad([new("", "the text is not UTF-8")]);

    /// <summary>A refusal with a status.</summary>
    public static JsonHttpResult<ProblemAnswer> Refused(string why, int status = StatusCodes.Status409Conflict) =>
        Said(Problem(why, status));

    /// <summary>What came of a command: its value, or why not with the status that says so.</summary>
    public static async Task<IResult> Of<T>(Reply<T> reply, Func<T, Task<IResult>> done)
    {
        ArgumentNullException.ThrowIfNull(done);
        return reply.Why switch
        {
            null => await done(reply.Value!),
            NotDone.NotFound => Refused(reply.Refusal!, StatusCodes.Status404NotFound),
            NotDone.Refused => Refused(reply.Refusal!),
            _ => Bad([.. reply.Errors.Select(e => new InputError(e.Field, e.Says))]),
        };
    }

    /// <summary>As above, where the answer needs nothing more.</summary>
    public static Task<IResult> Of<T>(Reply<T> reply, Func<T, IResult> done) =>
        Of(reply, value => Task.FromResult(done(value)));

    /// <summary>404 in words.</summary>
    public static JsonHttpResult<ProblemAnswer> NoRun() =>
        Refused("There is no such run, or it is not yours.", StatusCodes.Status404NotFound);

    /// <summary>
    /// What is computed when its turn comes, off the request's thread; what takes too much work is bad input.
    /// </summary>
    /// <param name="queue">Who may compute now.</param>
    /// <param name="place">Where in the input the work lies.</param>
    /// <param name="work">Computes the answer.</param>
    /// <param name="cancel">Ends the wait.</param>
    public static async Task<IResult> InTurn(
        ComputeQueue queue,
        string place,
        Func<Task<IResult>> work,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(queue);
        try
        {
            return await queue.Take(work, cancel);
        }
        catch (TooMuchWorkException e)
        {
            return Bad([new(place, e.Message)]);
        }
    }

    /// <summary>409 for a report whose seal is broken: large, and with everything that is wrong.</summary>
    public static JsonHttpResult<ProblemAnswer> Broken(SealedReport report)
    {
        ArgumentNullException.ThrowIfNull(report);
        return Said(
            Problem(
                $"SEAL BROKEN. Do not rely on this report. {report.Broken[0]}",
                StatusCodes.Status409Conflict,
                [.. report.Broken.Select(b => new InputError("seal", b))]
            )
        );
    }

    /// <summary>What was sent, as text; null when it is not UTF-8.</summary>
    public static async Task<string?> Text(HttpContext http, CancellationToken cancel)
    {
        using var reader = new StreamReader(http.Request.Body, new UTF8Encoding(false, throwOnInvalidBytes: true));
        try
        {
            return await reader.ReadToEndAsync(cancel);
        }
        catch (DecoderFallbackException)
        {
            return null;
        }
    }

    /// <summary>Redirects people and answers scripts with a status.</summary>
    public static Task OrRedirect(RedirectContext<CookieAuthenticationOptions> context, int status)
    {
        if (context.Request.Path.StartsWithSegments("/api"))
            context.Response.StatusCode = status;
        else
            context.Response.Redirect(context.RedirectUri);
        return Task.CompletedTask;
    }
}
