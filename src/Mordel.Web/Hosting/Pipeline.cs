using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.StaticAssets;
using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Audit;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>The order in which a request is handled.</summary>
public static class Pipeline
{
    /// <summary>Sets the pipeline up.</summary>
    public static void UseMordel(this WebApplication app)
    {
        app.UseFrontDoor();
        app.UseWatching();
        app.UseExceptionHandler("/problem/500");
        app.UseMiddleware<WaitForServer>();
        app.UseResponseCompression();
        app.Use(SecureHeaders);
        app.UseStatusCodePagesWithReExecute("/problem/{0}");
        app.UseWebSockets();
        app.UseRouting();
        app.UseAuthentication();
        app.UseAuthorization();
        app.UseRateLimiter();
        app.Use(SayWhoAsks);
        app.Use(FirstAccount);
        app.Use(OwnPasswordFirst);
        app.MapStaticAssets().Add(KeepFonts);
        app.MapRazorPages().WithStaticAssets();
        app.MapWatching();
        // Where this room stood before it joined the bench.
        app.MapGet("/water", (HttpContext http) => Results.Redirect($"/bench/water{http.Request.QueryString}"))
            .RequireAuthorization();
        app.MapRunApi();
        app.MapFieldApi();
        app.MapRegisterApi();
        app.MapBenchApi();
        app.MapDiagnosisApi();
        app.MapPlanApi();
        app.MapRepairApi();
        app.MapGaugeApi();
        app.MapOpenApi("/api/openapi.json").RequireAuthorization(Policies.Api);
        app.MapDownloads();
        app.MapExports();
        app.MapCalendars();
        app.MapOwnerFiles();
        app.MapCoreFiles();
    }

    // Whoever asks is written down with what they do.
    private static Task SayWhoAsks(HttpContext context, RequestDelegate next)
    {
        var user = context.User;
        var isSomebody = user.Identity?.IsAuthenticated == true;
        context
            .RequestServices.GetRequiredService<WhoAsks>()
            .Is(
                isSomebody ? user.Id() : null,
                isSomebody ? user.FindFirst("name")?.Value ?? user.Identity!.Name ?? "" : "nobody signed in",
                context.Connection.RemoteIpAddress?.ToString() ?? ""
            );
        return next(context);
    }

    private static Task SecureHeaders(HttpContext context, RequestDelegate next)
    {
        var headers = context.Response.Headers;
        headers.ContentSecurityPolicy = context
            .RequestServices.GetRequiredService<ContentPolicy>()
            .Of(context.Request.Path);
        headers.XContentTypeOptions = "nosniff";
        headers["Referrer-Policy"] = "same-origin";
        headers["Permissions-Policy"] = "camera=(), microphone=(), geolocation=()";
        // Customers and reports are for who asked, and for no proxy or disk between; what may be kept says so itself.
        context.Response.OnStarting(() =>
        {
            if (context.Response.Headers.CacheControl.Count == 0)
                context.Response.Headers.CacheControl = "no-store";
            return Task.CompletedTask;
        });
        return next(context);
    }

    // Styles name the typefaces as they stand, so that these have no name that changes with their content. They never
    // change: another typeface has another name.
    private static void KeepFonts(EndpointBuilder built)
    {
        if (
            built is not RouteEndpointBuilder { RoutePattern.RawText: { } path, RequestDelegate: { } answer }
            || !path.TrimStart('/').StartsWith("lib/fonts/", StringComparison.Ordinal)
        )
            return;
        built.RequestDelegate = context =>
        {
            context.Response.OnStarting(() =>
            {
                if (context.Response.StatusCode < StatusCodes.Status400BadRequest)
                    context.Response.Headers.CacheControl = "public, max-age=31536000, immutable";
                return Task.CompletedTask;
            });
            return answer(context);
        };
    }

    // Who was given a password makes one of their own before anything else.
    private static Task OwnPasswordFirst(HttpContext context, RequestDelegate next)
    {
        var path = context.Request.Path;
        if (
            !context.User.HasClaim(c => c.Type == Visitors.MustChange)
            || context.GetEndpoint()?.Metadata.GetMetadata<IAllowAnonymous>() is not null
            || path.StartsWithSegments("/password")
            || context.GetEndpoint()?.Metadata.GetMetadata<StaticAssetDescriptor>() is not null
        )
            return next(context);
        if (path.StartsWithSegments("/api"))
            context.Response.StatusCode = StatusCodes.Status403Forbidden;
        else
            context.Response.Redirect("/password");
        return Task.CompletedTask;
    }

    // A fresh installation has nobody who could sign in: every page leads to the first account.
    private static async Task FirstAccount(HttpContext context, RequestDelegate next)
    {
        var path = context.Request.Path;
        if (
            context.User.Identity?.IsAuthenticated != true
            && path.StartsWithSegments("/sign-in")
            && !await context.RequestServices.GetRequiredService<Store>().Users.AnyAsync(context.RequestAborted)
        )
        {
            context.Response.Redirect("/first-account");
            return;
        }

        await next(context);
    }
}
