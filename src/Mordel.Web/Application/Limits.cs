using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Serialization;

namespace Mordel.Web.Application;

/// <summary>Bounds on what one address or one person may ask for at once.</summary>
public static class Limits
{
    /// <summary>The policy of the sign-in form.</summary>
    public const string SignIn = "sign-in";

    /// <summary>The policy of what simulates or marks.</summary>
    public const string Work = "work";

    /// <summary>The policy of the pages that a link opens without an account.</summary>
    public const string OwnerLink = "owner-link";

    /// <summary>The policy of the check of reports without an account.</summary>
    public const string Verify = "verify";

    /// <summary>The largest request body, in bytes: whatever the formats allow fits in.</summary>
    public const int LargestRequest = Node.LargestText;

    /// <summary>The largest table that is brought in, in bytes.</summary>
    public const int LargestTable = 96 * 1024 * 1024;

    // Simulations and markings that somebody may have under way and waiting.
    private const int AtOnce = 1,
        Waiting = 2;

    /// <summary>Configures the limiter.</summary>
    public static void Configure(RateLimiterOptions options)
    {
        options.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
        options.AddPolicy(Work, context =>
            RateLimitPartition.GetConcurrencyLimiter(context.User.Id(), _ => new ConcurrencyLimiterOptions
            {
                PermitLimit = AtOnce,
                QueueLimit = Waiting,
                QueueProcessingOrder = QueueProcessingOrder.OldestFirst,
            })
        );
        options.AddPolicy(Verify, context =>
            RateLimitPartition.GetFixedWindowLimiter(
                context.Connection.RemoteIpAddress?.ToString() ?? "local",
                _ => new FixedWindowRateLimiterOptions
                {
                    PermitLimit = Options(context).LinksPerMinute,
                    Window = TimeSpan.FromMinutes(1),
                }
            )
        );
        options.AddPolicy(OwnerLink, context =>
            RateLimitPartition.GetFixedWindowLimiter(
                (context.Connection.RemoteIpAddress?.ToString() ?? "local", HttpMethods.IsPost(context.Request.Method)),
                who => new FixedWindowRateLimiterOptions
                {
                    PermitLimit = who.Item2 ? Options(context).AnswersPerMinute : Options(context).LinksPerMinute,
                    Window = TimeSpan.FromMinutes(1),
                }
            )
        );
        options.AddPolicy(SignIn, context =>
            HttpMethods.IsPost(context.Request.Method)
                ? RateLimitPartition.GetFixedWindowLimiter(
                    context.Connection.RemoteIpAddress?.ToString() ?? "local",
                    _ => new FixedWindowRateLimiterOptions
                    {
                        PermitLimit = Options(context).SignInsPerMinute,
                        Window = TimeSpan.FromMinutes(1),
                    }
                )
                : RateLimitPartition.GetNoLimiter("read")
        );
    }

    private static MordelOptions Options(HttpContext context) =>
        context.RequestServices.GetRequiredService<MordelOptions>();
}
