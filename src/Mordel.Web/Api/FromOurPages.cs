using Microsoft.AspNetCore.Antiforgery;
using Mordel.Web.Application;

namespace Mordel.Web.Api;

/// <summary>
/// Lets pass what comes with an API key, or from a page of ours and not from another site's form: the page's token
/// proves it.
/// </summary>
/// <param name="kept">What happens to what was sent with an old token, in words.</param>
public sealed class FromOurPages(string kept) : IEndpointFilter
{
    public async ValueTask<object?> InvokeAsync(EndpointFilterInvocationContext context, EndpointFilterDelegate next)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(next);
        var http = context.HttpContext;
        if (http.User.HasClaim(c => c.Type == ApiKeyAuthentication.Scope))
            return await next(context);
        var antiforgery = http.RequestServices.GetRequiredService<IAntiforgery>();
        return await antiforgery.IsRequestValidAsync(http)
            ? await next(context)
            : Answers.Refused($"This page has grown stale. {kept}", StatusCodes.Status403Forbidden);
    }
}
