using System.Collections.Immutable;
using System.Text;
using System.Text.Json.Serialization;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Mordel.Core.Hydraulics;
using Mordel.Core.Serialization;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>
/// A refusal in the shape that every part of the API uses: what happened, and each error with its place.
/// </summary>
public sealed record ProblemAnswer(
    string Error,
    [property: JsonPropertyName("faults")] IReadOnlyList<InputError> Errors
);

/// <summary>Answers shared by the endpoints.</summary>
public static class Answers
{
    /// <summary>400 with errors.</summary>
    public static IResult Bad(ImmutableArray<InputError> errors) =>
        Results.Json(
            new ProblemAnswer("The input cannot be used. Nothing of it was kept.", errors),
            statusCode: StatusCodes.Status400BadRequest
        );

    /// <summary>A refusal with a status.</summary>
    public static IResult Refused(string why, int status = StatusCodes.Status409Conflict) =>
        Results.Json(new ProblemAnswer(why, []), statusCode: status);

    /// <summary>404 in words.</summary>
    public static IResult NoRun() =>
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
    public static IResult Broken(SealedReport report)
    {
        ArgumentNullException.ThrowIfNull(report);
        return Results.Json(
            new ProblemAnswer(
                $"SEAL BROKEN. Do not rely on this report. {report.Broken[0]}",
                [.. report.Broken.Select(b => new InputError("seal", b))]
            ),
            statusCode: StatusCodes.Status409Conflict
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
