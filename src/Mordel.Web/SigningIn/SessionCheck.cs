using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Authentication.Cookies;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Mordel.Data.Accounts;
using Mordel.Web.Application;

namespace Mordel.Web.SigningIn;

/// <summary>Asks at every request whether the session of a cookie still holds.</summary>
public static class SessionCheck
{
    /// <summary>What says to a device that it was cut off.</summary>
    public const string CutOffHeader = "X-Mordel-Device";

    /// <summary>Refuses the cookie of a session that was ended, or of somebody who was dismissed.</summary>
    public static async Task Validate(CookieValidatePrincipalContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var http = context.HttpContext;
        var sessions = http.RequestServices.GetRequiredService<Sessions>();
        var who = context.Principal;
        if (who is not null && who.SessionId() is { } id && await sessions.Holds(id, who.Id(), http.RequestAborted))
        {
            if (StampIsOld(context))
                await SecurityStampValidator.ValidatePrincipalAsync(context);
            return;
        }

        context.RejectPrincipal();
        if (who?.SessionId() is { } gone && await sessions.IsCutOff(gone, http.RequestAborted))
        {
            // Said as often as the device is heard of: it wipes what was taken along.
            http.Response.Headers[CutOffHeader] = "cut-off";
            return;
        }

        await http.SignOutAsync(IdentityConstants.ApplicationScheme);
    }

    // As the validator itself asks, before all that it stands on is made: it does nothing at nearly every request.
    private static bool StampIsOld(CookieValidatePrincipalContext context)
    {
        var all = context.HttpContext.RequestServices;
        return context.Properties.IssuedUtc is not { } issued
            || all.GetRequiredService<TimeProvider>().GetUtcNow() - issued
                > all.GetRequiredService<IOptions<SecurityStampValidatorOptions>>().Value.ValidationInterval;
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
