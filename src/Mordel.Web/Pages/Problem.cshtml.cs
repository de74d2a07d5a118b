using System.Text;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Web.Api;

namespace Mordel.Web.Pages;

/// <summary>What happened, what was kept, what to do; for scripts the same in JSON.</summary>
[AllowAnonymous]
[IgnoreAntiforgeryToken]
[ResponseCache(NoStore = true)]
public sealed class ProblemModel : PageModel
{
    public string Title { get; private set; } = "";
    public string Says { get; private set; } = "";

    public IActionResult OnGet(int code) => Show(code);

    public IActionResult OnPost(int code) => Show(code);

    private IActionResult Show(int code)
    {
        // What could not be read from the request is the request's fault, not ours.
        if (HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerFeature>()?.Error is { } error)
            code = error switch { BadHttpRequestException bad => bad.StatusCode, InvalidDataException or DecoderFallbackException => 400, _ => code };
        (Title, Says) = code switch
        {
            400 => ("That could not be read", "The request was not in a form that is understood here. Nothing was changed. Go back and try again."),
            401 => ("Not signed in", "Sign in first. What was entered on this device is kept."),
            403 => ("Not for you", "Your role does not include this."),
            404 => ("Nothing here", "There is no such page, stop, run or assembly, or it belongs to somebody else."),
            405 => ("Not in this way", "This address does not take such a request."),
            413 => ("Too much at once", "That was larger than half a megabyte. Send it in parts."),
            429 => ("Too many tries", "Wait a minute and try again."),
            _ => ("Something broke here", "The fault is on our side. Everything that was acknowledged is kept; try again."),
        };
        Response.StatusCode = code is >= 400 and < 600 ? code : 404;
        var original = HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IStatusCodeReExecuteFeature>()?.OriginalPath
            ?? HttpContext.Features.Get<Microsoft.AspNetCore.Diagnostics.IExceptionHandlerPathFeature>()?.Path ?? "";
        return original.StartsWith("/api/", StringComparison.Ordinal) ? new JsonResult(new ProblemAnswer($"{Title}. {Says}", [])) { StatusCode = Response.StatusCode } : Page();
    }
}
