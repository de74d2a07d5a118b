using System.Threading.RateLimiting;
using Microsoft.AspNetCore.RateLimiting;
using Mordel.Core.Serialization;
using Mordel.Data.Processes;

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
        options.AddPolicy(Verify, context => AMinute(context, Verify, Options(context).LinksPerMinute));
        options.AddPolicy(OwnerLink, context =>
            HttpMethods.IsPost(context.Request.Method)
                ? AMinute(context, "answers", Options(context).AnswersPerMinute)
                : AMinute(context, OwnerLink, Options(context).LinksPerMinute)
        );
        options.AddPolicy(SignIn, context =>
            HttpMethods.IsPost(context.Request.Method)
                ? AMinute(context, SignIn, Options(context).SignInsPerMinute)
                : RateLimitPartition.GetNoLimiter("read")
        );
    }

    private static string Address(HttpContext context) => context.Connection.RemoteIpAddress?.ToString() ?? "local";

    // Over all processes, where there are several.
    private static RateLimitPartition<string> AMinute(HttpContext context, string what, int most)
    {
        var who = $"{what} {Address(context)}";
        var counts = context.RequestServices.GetRequiredService<WindowCounts>();
        return RateLimitPartition.Get(who, _ => new CountedLimiter(counts, who, most, TimeSpan.FromMinutes(1)));
    }

    private static MordelOptions Options(HttpContext context) =>
        context.RequestServices.GetRequiredService<MordelOptions>();
}
