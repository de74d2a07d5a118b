using Mordel.Data.Accounts;
using Mordel.Web.Application;

namespace Mordel.Web.SigningIn;

/// <summary>
/// Whether somebody is to show again who they are before they sign a report: where the owner wants that, after so many
/// minutes.
/// </summary>
public sealed class ShowAgain(Sessions sessions, MordelOptions options, TimeProvider clock)
{
    // Whoever has the page before them may finish it.
    private static readonly TimeSpan ToFinish = TimeSpan.FromMinutes(10);

    // Whoever changes how they come in has shown it within this time.
    private static readonly TimeSpan Recent = TimeSpan.FromMinutes(20);

    /// <summary>Whether it is wanted before the page is filled in.</summary>
    public Task<bool> IsWanted(HttpContext http) => IsWanted(http, TimeSpan.Zero);

    /// <summary>Whether it is wanted although the page was open in time.</summary>
    public Task<bool> IsWantedNow(HttpContext http) => IsWanted(http, ToFinish);

    /// <summary>Whether it is too long ago to change how one comes in.</summary>
    public Task<bool> IsLongAgo(HttpContext http) => IsOlder(http, Recent);

    private async Task<bool> IsWanted(HttpContext http, TimeSpan more) =>
        options.ShowAgainMinutes is { } minutes && await IsOlder(http, TimeSpan.FromMinutes(minutes) + more);

    private async Task<bool> IsOlder(HttpContext http, TimeSpan than)
    {
        ArgumentNullException.ThrowIfNull(http);
        var proved = http.User.SessionId() is { } id ? await sessions.ProvedAt(id, http.RequestAborted) : null;
        return proved is not { } at || clock.GetUtcNow() - at > than;
    }
}
