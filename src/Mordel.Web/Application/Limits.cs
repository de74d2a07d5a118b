using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;

namespace Mordel.Web.Application;

/// <summary>Bounds on how often one address may try to sign in.</summary>
public static class Limits
{
    /// <summary>The policy of the sign-in form.</summary>
    public const string SignIn = "sign-in";

    /// <summary>Configures the limiter.</summary>
    public static void Configure(RateLimiterOptions options)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.AddPolicy(SignIn, context => HttpMethods.IsPost(context.Request.Method)
            ? RateLimitPartition.GetFixedWindowLimiter(context.Connection.RemoteIpAddress?.ToString() ?? "local",
                _ => new FixedWindowRateLimiterOptions { PermitLimit = context.RequestServices.GetRequiredService<MordelOptions>().SignInsPerMinute, Window = TimeSpan.FromMinutes(1) })
            : RateLimitPartition.GetNoLimiter("read"));
    }
}
