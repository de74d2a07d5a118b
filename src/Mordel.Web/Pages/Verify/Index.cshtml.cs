using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Reports;
using Mordel.Core.Seals;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Verify;

/// <summary>Tells anybody whether a report is genuine: by the code on its paper, or by its file.</summary>
[AllowAnonymous]
[EnableRateLimiting(Limits.Verify)]
[ResponseCache(NoStore = true)]
public sealed class IndexModel(PublicReports reports, SigningKeys keys) : PageModel
{
    /// <summary>The code as it was typed; null where none was.</summary>
    public string? Typed { get; private set; }

    /// <summary>The code; null where what was typed is none.</summary>
    public ReportCode? Code { get; private set; }

    /// <summary>The report; null where there is none, or none was asked for.</summary>
    public PublicReport? Found { get; private set; }

    /// <summary>What a file came to that was handed in without a script.</summary>
    public CheckedFile? Handed { get; private set; }

    /// <summary>What is wrong with what was handed in.</summary>
    public string? Wrong { get; private set; }

    public async Task<IActionResult> OnGet(string? code, [FromQuery(Name = "code")] string? typed, CancellationToken c)
    {
        (Typed, Code) = (code ?? typed, ReportCode.Read(code ?? typed));
        if (Typed is null)
            return Page();
        // One address for each report, whichever way its code was typed.
        if (Code is { } read && code != read.ToString())
            return RedirectToPage(new { code = read.ToString() });
        Found = Code is { } asked ? await reports.Of(asked, c) : null;
        if (Found is null)
            Response.StatusCode = Code is null ? StatusCodes.Status400BadRequest : StatusCodes.Status404NotFound;
        return Page();
    }

    /// <summary>Checks a file where the browser cannot.</summary>
    public async Task<IActionResult> OnPostFile(IFormFile? file, CancellationToken cancel)
    {
        if (file is null || file.Length == 0)
        {
            Wrong = "Choose the report’s PDF, or its data.";
            Response.StatusCode = StatusCodes.Status400BadRequest;
            return Page();
        }

        using var copy = new MemoryStream();
        await file.CopyToAsync(copy, cancel);
        Handed = new FileCheck(PublicKeys.Of(keys)).Of(copy.ToArray());
        return Page();
    }
}
