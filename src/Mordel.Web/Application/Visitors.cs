using System.Security.Claims;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>Who is signed in, in the words of the lists.</summary>
public static class Visitors
{
    /// <summary>Who asks.</summary>
    public static Asker Asker(this ClaimsPrincipal user) => new(user.Id(), user.IsAtTheDesk());

    /// <summary>The name of who is signed in.</summary>
    public static string Name(this ClaimsPrincipal user) => user.FindFirst("name")?.Value ?? "";

    /// <summary>The claims of the session, and of a password that was given by somebody else.</summary>
    public const string Session = "session",
        MustChange = "must-change";

    /// <summary>The session that somebody is in; null for programs, and for nobody.</summary>
    public static Guid? SessionId(this ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(Session), out var id) ? id : null;

    /// <summary>The signed-in account's id.</summary>
    public static Guid Id(this ClaimsPrincipal user) =>
        Guid.TryParse(user.FindFirstValue(ClaimTypes.NameIdentifier), out var id) ? id : Guid.Empty;

    /// <summary>
    /// Whether somebody is of the office or owns the installation: they see everything and add to it.
    /// </summary>
    public static bool IsAtTheDesk(this ClaimsPrincipal user) => Policies.AtTheDesk.Any(user.IsInRole);

    /// <summary>Whose branch is shown first: at the desk one's own; nobody's elsewhere.</summary>
    public static Guid AtTheDeskId(this ClaimsPrincipal user) => user.IsAtTheDesk() ? user.Id() : Guid.Empty;

    /// <summary>
    /// Of which branch testers are offered for a round: who works for one sends its own, whatever list is shown.
    /// </summary>
    /// <param name="user">Who asks.</param>
    /// <param name="branches">The branches, with theirs.</param>
    /// <param name="shown">The branch whose list is shown.</param>
    public static string? Sends(this ClaimsPrincipal user, BranchFilter branches, string? shown)
    {
        ArgumentNullException.ThrowIfNull(branches);
        return branches.Own is { } own && !user.IsInRole(Roles.Owner) ? own : shown;
    }

    /// <summary>
    /// Whether somebody at the desk may change what belongs to a branch: it is of no branch, or theirs, or they work
    /// for all.
    /// </summary>
    public static bool MayChange(this ClaimsPrincipal user, BranchOf? branch) =>
        branch is null || branch.Own is null || branch.Own == branch.Id || user.IsInRole(Roles.Owner);
}
