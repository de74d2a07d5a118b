using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Programs;

/// <summary>
/// The API to read, from its own OpenAPI document, and the keys with which programs act for the person.
/// </summary>
public sealed class IndexModel(
    ApiKeys ring,
    [FromKeyedServices("v1")] IOpenApiDocumentProvider document,
    TimeProvider clock
) : PageModel
{
    public IReadOnlyList<TokenRow> Keys { get; private set; } = [];
    public string? Issued { get; private set; }
    public OpenApiDocument Document { get; private set; } = null!;
    public DateTimeOffset Now => clock.GetUtcNow();

    /// <summary>Every operation with its way and path, in the document's order.</summary>
    public IEnumerable<(string Path, string Method, OpenApiOperation Operation)> Operations =>
        Document.Paths.SelectMany(p => (p.Value.Operations ?? []).Select(o => (p.Key, o.Key.Method, o.Value)));

    public async Task OnGet(CancellationToken cancel)
    {
        Keys = await ring.Of(User.Id(), cancel);
        Document = await document.GetOpenApiDocumentAsync(cancel);
        Response.Headers.CacheControl = "no-store";
    }

    public async Task<IActionResult> OnPost(string? name, string? scope, int days, CancellationToken cancel)
    {
        var issued = await ring.Issue(User.Id(), name, scope, days, cancel);
        this.Say(issued.Errors);
        Issued = issued.Value;
        await OnGet(cancel);
        return Page();
    }

    public async Task<IActionResult> OnPostRevoke(Guid id, CancellationToken cancel) =>
        await ring.Revoke(User.Id(), id, cancel) ? Redirect("/programs") : NotFound();
}
