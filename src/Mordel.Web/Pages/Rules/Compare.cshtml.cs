using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Rules;

/// <summary>Two profiles, or two versions of one, side by side in what they differ.</summary>
[Authorize(Policy = Policies.Desk)]
public sealed class CompareModel(ProfileList book) : PageModel
{
    public IReadOnlyList<Profile> All { get; private set; } = [];
    public Profile? One { get; private set; }
    public Profile? Other { get; private set; }
    public IReadOnlyList<ProfileDifference> Differences { get; private set; } = [];

    public async Task OnGet(string? one, string? other, CancellationToken cancel)
    {
        All = await book.All(cancel);
        (One, Other) = (Chosen(one), Chosen(other));
        if (One is not null && Other is not null)
            Differences = ProfileDifference.Between(One, Other);
    }

    /// <summary>The page with two chosen.</summary>
    public static string Link(Profile one, Profile other) => $"/rules/compare?one={Key(one)}&other={Key(other)}";

    /// <summary>A version, as the address names it.</summary>
    public static string Key(Profile profile)
    {
        ArgumentNullException.ThrowIfNull(profile);
        return $"{profile.Id}.{profile.Version}";
    }

    /// <summary>A procedure as people call it: <c>RP · relief first</c>.</summary>
    public static string Called(string procedure) =>
        SchoolCatalogue.Named(procedure) is { } school ? $"{school.Type} · {school.Title.Split(", ")[^1]}" : procedure;

    private Profile? Chosen(string? key) => All.FirstOrDefault(p => Key(p) == key);
}
