using Microsoft.AspNetCore.Mvc.RazorPages;
using Microsoft.AspNetCore.WebUtilities;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Register;

/// <summary>Search as you type over all assemblies, with filters that are links.</summary>
public sealed class IndexModel(RegisterSearch search, DueList lists, ModelBuilds builds, TimeProvider clock) : PageModel
{
    /// <summary>Above this a count says "more than".</summary>
    public const int Exact = 1000;

    public string? Words { get; private set; }
    public RegisterFilter Filter { get; private set; } = new();
    public RegisterOrder Order { get; private set; }
    public IReadOnlyList<RegisterLine> Found { get; private set; } = [];
    public int Count { get; private set; }
    public bool More { get; private set; }
    public IReadOnlyList<DueChoice> Authorities { get; private set; } = [];
    public IReadOnlyList<string> Districts { get; private set; } = [];
    public BranchFilter Branches { get; private set; } = BranchFilter.None;
    public IReadOnlyList<DueChoice> Families { get; private set; } = [];
    public string? OwnerName { get; private set; }
    public DateOnly Today => clock.Today();

    public async Task OnGet(
        RegisterFilter filter,
        string? q,
        RegisterOrder order,
        string? after,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(filter);
        (Authorities, Districts, Branches) = await lists.Choices(User.AtTheDeskId(), cancel);
        Filter = filter with { Branch = Branches.Shown(filter.Branch) };
        Order = Enum.IsDefined(order) ? order : RegisterOrder.Tag;
        Words = q is { Length: > 120 } ? q[..120] : q;
        var found = await search.Find(Words, Filter, Order, after, cancel);
        (Found, More) = ([.. found.Take(RegisterSearch.PageSize)], found.Count > RegisterSearch.PageSize);
        Count = await search.Count(Words, Filter, cancel, Order);
        Families = await builds.Families(cancel);
        OwnerName = Filter.Owner is { } owner ? await lists.OwnerName(owner, cancel) : null;
    }

    /// <summary>The next page.</summary>
    public string Next => Link(Filter, Order, Keyset.After(Found[^1].Assembly, Order));

    /// <summary>The page with another filter.</summary>
    public string Link(RegisterFilter filter) => Link(filter, Order, null);

    /// <summary>The page in another order.</summary>
    public string Link(RegisterOrder order) => Link(Filter, order, null);

    /// <summary>What is shown, under another address.</summary>
    public string At(string address) => QueryHelpers.AddQueryString(address, Query(Filter, Order, null));

    private string Link(RegisterFilter filter, RegisterOrder order, string? after) =>
        QueryHelpers.AddQueryString("/register", Query(filter, order, after));

    private IEnumerable<KeyValuePair<string, string?>> Query(RegisterFilter f, RegisterOrder order, string? after) =>
        new Dictionary<string, string?>
        {
            ["q"] = string.IsNullOrWhiteSpace(Words) ? null : Words,
            ["type"] = f.Type,
            ["hazard"] = f.Hazard,
            ["authority"] = f.Authority?.ToString(),
            ["district"] = f.District,
            ["outcome"] = f.Outcome,
            ["due"] = f.Due,
            ["use"] = f.Use,
            ["owner"] = f.Owner?.ToString(),
            ["place"] = f.Place?.ToString(),
            ["family"] = f.Family,
            ["state"] = f.State,
            ["area"] = f.Area,
            ["branch"] = f.Branch,
            ["order"] = order == RegisterOrder.Tag ? null : order.ToString(),
            ["after"] = after,
        }.Where(p => p.Value is not null);
}
