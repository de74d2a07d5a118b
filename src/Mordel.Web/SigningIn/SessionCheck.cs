using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Mordel.Data.Accounts;
using Mordel.Web.Application;

namespace Mordel.Web.SigningIn;

/// <summary>Asks at every request whether the session of a cookie still holds.</summary>
public static class SessionCheck
{
    /// <summary>Refuses the cookie of a session that was ended, or of somebody who was dismissed.</summary>
    public static async Task Validate(CookieValidatePrincipalContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var http = context.HttpContext;
        var sessions = http.RequestServices.GetRequiredService<Sessions>();
        if (
            context.Principal is { } who
            && who.SessionId() is { } id
            && await sessions.Holds(id, who.Id(), http.RequestAborted)
        )
        {
            await SecurityStampValidator.ValidatePrincipalAsync(context);
            return;
        }

        context.RejectPrincipal();
        await http.SignOutAsync(IdentityConstants.ApplicationScheme);
    }

    /// <summary>Carries the session over when the rest of the cookie is written anew.</summary>
    public static Task Carry(SecurityStampRefreshingPrincipalContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        if (
            context.CurrentPrincipal?.FindFirst(Visitors.Session) is { } session
            && context.NewPrincipal?.Identities.FirstOrDefault() is { } identity
        )
            identity.AddClaim(new(Visitors.Session, session.Value));
        return Task.CompletedTask;
    }
}
