using Microsoft.AspNetCore.Http.Features;
using Mordel.Data;
using Mordel.Data.Processes;
using Mordel.Data.Startup;

namespace Mordel.Web.Hosting;

/// <summary>
/// While the database server is away, who asks waits for a while instead of being told off; what met it going away is
/// asked once more from its beginning, where nothing of it may have lasted.
/// </summary>
public sealed class WaitForServer(RequestDelegate next, ServerWatch watch, IServiceScopeFactory scopes)
{
    private static readonly TimeSpan AtMost = TimeSpan.FromSeconds(25);
    private const int Tries = 4,
        Largest = 1_000_000;

    // Entries have names of their own: sent twice they are there once.
    private static bool IsTheSameTwice(HttpRequest request) =>
        HttpMethods.IsGet(request.Method)
        || HttpMethods.IsHead(request.Method)
        || (
            request.Path.StartsWithSegments("/api/runs")
            && request.Path.Value!.EndsWith("/entries", StringComparison.Ordinal)
        );

    /// <summary>Handles a request.</summary>
    public async Task InvokeAsync(HttpContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        if (
            !watch.IsOfServer
            || context.WebSockets.IsWebSocketRequest
            || context.Request.Path.StartsWithSegments("/health")
        )
        {
            await next(context);
            return;
        }

        await watch.Back(AtMost, context.RequestAborted);
        var body = await Kept(context.Request, context.RequestAborted);
        for (var tried = 1; ; tried++)
            try
            {
                await next(context);
                return;
            }
            catch (Exception e)
                when (StoreTrouble.IsUnreachable(e)
                    && tried < Tries
                    && !context.Response.HasStarted
                    && body is not null
                    && CanBeAskedAgain(context)
                )
            {
                watch.Missed();
                if (!await watch.Back(AtMost, context.RequestAborted))
                    throw;
                Anew(context, body!);
            }
    }

    // What came with it, to be read again; null for what is too large to be kept for that.
    private static async Task<byte[]?> Kept(HttpRequest request, CancellationToken cancel)
    {
        if (request.ContentLength is null or 0)
            return HttpMethods.IsPost(request.Method) && request.ContentLength is null ? null : [];
        if (request.ContentLength > Largest)
            return null;
        var body = new byte[(int)request.ContentLength];
        await request.Body.ReadExactlyAsync(body, cancel);
        request.Body = new MemoryStream(body, writable: false);
        return body;
    }

    private static bool CanBeAskedAgain(HttpContext context) =>
        IsTheSameTwice(context.Request) || !context.RequestServices.GetRequiredService<Store>().MayLast;

    // As it came in: nothing of the first time is left.
    private void Anew(HttpContext context, byte[] body)
    {
        context.Response.Clear();
        context.SetEndpoint(null);
        context.Request.RouteValues.Clear();
        context.Items.Clear();
        context.Request.Body = new MemoryStream(body, writable: false);
        context.Features.Set<IFormFeature>(new FormFeature(context.Request));
        var services = new RequestServicesFeature(context, scopes);
        context.Response.RegisterForDisposeAsync(services);
        context.Features.Set<IServiceProvidersFeature>(services);
    }
}
