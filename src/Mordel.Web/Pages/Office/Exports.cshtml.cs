using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Mordel.Web.Pages.Office;

/// <summary>What can be taken out, and in which form.</summary>
public sealed class ExportsModel : PageModel
{
    /// <summary>Each table with what it holds and the forms it can be written in.</summary>
    public static IReadOnlyList<(string What, string Title, string Says, string[] Forms)> Tables { get; } =
    [
        (
            "register",
            "The register",
            "Every assembly with all that belongs to it. An empty installation that takes it in gives it out the same.",
            ["csv", "json", "geojson"]
        ),
        (
            "results",
            "Tests",
            "Every test, sealed here or brought in. Brought in elsewhere, they say where they come from.",
            ["csv", "json"]
        ),
        (
            "due",
            "What is owed",
            "Each test that is owed, with its day and its reason.",
            ["csv", "ics", "geojson", "json"]
        ),
        ("places", "Places", "Every place with its contact and its owner.", ["csv", "json", "geojson"]),
        ("people", "People", "Accounts with roles and certificates; no passwords.", ["csv", "json"]),
        ("kits", "Kits", "Kits with their calibrations.", ["csv", "json"]),
    ];

    public void OnGet() { }
}
