using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Rules;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Seals;

namespace Mordel.Web.Pages.Office;

/// <summary>What can be taken out, and in which form; the archives of each year.</summary>
public sealed class ExportsModel(SealArchive archive, ProfileList rules, TimeProvider clock) : PageModel
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

    /// <summary>The years of which there are sealed reports.</summary>
    public IReadOnlyList<int> Years { get; private set; } = [];

    /// <summary>The rules that ask for reports to be kept, those that ask longest first.</summary>
    public IReadOnlyList<Profile> Keeping { get; private set; } = [];

    public async Task OnGet(CancellationToken cancel)
    {
        Years = await archive.Years(cancel);
        Keeping =
        [
            .. (await rules.InForce(clock.Today(), cancel))
                .Where(p => p.KeepYears > 0)
                .OrderByDescending(p => p.KeepYears),
        ];
    }
}
