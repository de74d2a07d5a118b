using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Mordel.Web.Hosting;

/// <summary>
/// Answers 405 when a page is asked in a way that it has no handler for; by itself it would show an empty page.
/// </summary>
public sealed class KnownMethodsFilter : IAsyncPageFilter
{
    public Task OnPageHandlerSelectionAsync(PageHandlerSelectedContext context) => Task.CompletedTask;

    public Task OnPageHandlerExecutionAsync(PageHandlerExecutingContext context, PageHandlerExecutionDelegate next)
    {
        ArgumentNullException.ThrowIfNull(context);
        ArgumentNullException.ThrowIfNull(next);
        var method = context.HttpContext.Request.Method;
        if (
            context.HandlerMethod is not null
            || HttpMethods.IsGet(method)
            || HttpMethods.IsHead(method)
            || context.ActionDescriptor.ViewEnginePath == "/Problem"
        )
            return next();
        context.HttpContext.Response.Headers.Allow = "GET, POST";
        context.Result = new StatusCodeResult(StatusCodes.Status405MethodNotAllowed);
        return Task.CompletedTask;
    }
}
