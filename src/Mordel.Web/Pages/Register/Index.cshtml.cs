using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Register;

/// <summary>Search as you type over all assemblies.</summary>
public sealed class IndexModel(RegisterSearch search, TimeProvider clock) : PageModel
{
    public string? Words { get; private set; }
    public IReadOnlyList<RegisterLine> Found { get; private set; } = [];
    public bool More { get; private set; }
    public DateOnly Today => clock.Today();

    public async Task OnGet(string? q, string? after, CancellationToken cancel)
    {
        Words = q is { Length: > 120 } ? q[..120] : q;
        var found = await search.Find(Words, after, cancel);
        (Found, More) = ([.. found.Take(RegisterSearch.PageSize)], found.Count > RegisterSearch.PageSize);
    }
}
