using System.Text;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Audit;
using Mordel.Data.Setups;
using Mordel.Data.Startup;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Pages;

/// <summary>What happened, what was kept, what to do; for scripts the same in JSON.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ProblemModel : PageModel
{
    public string Title { get; private set; } = "";
    public string Says { get; private set; } = "";

    /// <summary>
    /// Whatever the method that led here: a page that was asked with DELETE answers as one that was asked with GET.
    /// </summary>
    public override void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var code = int.TryParse(RouteData.Values["code"] as string, out var asked) ? asked : 404;
        var error = HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>()?.Error;
        var (status, says) = error is null ? (code, null) : Of(error);
        (Title, Says) = Words(status);
        Says = says ?? Says;
        Response.StatusCode = status is >= 400 and < 600 ? status : 404;
        if (IsForPrograms())
            context.Result = new JsonResult(Answers.Problem($"{Title}. {Says}", Response.StatusCode))
            {
                StatusCode = Response.StatusCode,
            };
    }

    // What could not be read from the request is the request's fault, not ours; what the disk refuses is nobody's who
    // asks.
    private static (int Status, string? Says) Of(Exception error) =>
        error switch
        {
            BadHttpRequestException bad => (bad.StatusCode, null),
            InvalidDataException or DecoderFallbackException => (400, null),
            DamagedException damaged => (
                409,
                $"{damaged.Message} The owner of the installation must look at it; nothing else is touched by it."
            ),
            OtherBranchException other => (403, other.Message),
            OperationCanceledException => (499, null),
            _ when StoreTrouble.IsThereAlready(error) => (
                409,
                "Somebody, or another tab, was first: it is already there. Look again before you add it once more."
            ),
            _ when StoreTrouble.Says(error) is { } trouble => (503, trouble),
            _ => (500, null),
        };

    private static (string Title, string Says) Words(int status) =>
        status switch
        {
            400 => (
                "That could not be read",
                "The request was not in a form that is understood here. Nothing was changed. Go back and try again."
            ),
            401 => ("Not signed in", "Sign in first. What was entered on this device is kept."),
            403 => ("Not for you", "Your role does not include this."),
            404 => ("Nothing here", "There is no such page, stop, run or assembly, or it belongs to somebody else."),
            405 => ("Not in this way", "This address does not take such a request."),
            409 => ("That cannot be", "It does not go together with what is kept."),
            413 => (
                "Too much at once",
                $"That was larger than {Limits.LargestRequest / 1024 / 1024} MiB. Send it in parts."
            ),
            415 => ("Not in this form", "JSON is wanted here."),
            429 => ("Too much at once", "Wait until what you asked for before has ended, or a minute, and try again."),
            499 => ("Broken off", "The request was ended before it was answered."),
            503 => (
                "Not at the moment",
                "The installation cannot do this now. Everything that was acknowledged is kept; try again later."
            ),
            _ => (
                "Something broke here",
                "The fault is on our side. Everything that was acknowledged is kept; try again."
            ),
        };

    private bool IsForPrograms()
    {
        var original = HttpContext
            .Features.Get<Microsoft.AspNetCore.Diagnostics.IStatusCodeReExecuteFeature>()
            ?.OriginalPath
            ?? HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerPathFeature>()?.Path
            ?? "";
        return original.StartsWith("/api/", StringComparison.Ordinal);
    }
}
