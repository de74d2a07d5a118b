using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Seals;

namespace Mordel.Web.Pages.Keys;

/// <summary>The public keys, for everybody: an authority has no account here.</summary>
[AllowAnonymous]
public sealed class IndexModel(SigningKeys keys) : PageModel
{
    /// <summary>The keys, the one in use first.</summary>
    public IReadOnlyList<PublishedKey> Keys => [.. keys.Published.Reverse()];

    /// <summary>What is wrong with the list.</summary>
    public IReadOnlyList<string> Problems => keys.Problems;
}
