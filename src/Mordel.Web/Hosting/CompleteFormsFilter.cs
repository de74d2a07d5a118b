using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Mordel.Web.Hosting;

/// <summary>
/// Refuses a form without a single one of its fields: the framework would hand on nothing where a page wants a whole.
/// </summary>
public sealed class CompleteFormsFilter : IPageFilter
{
    /// <inheritdoc/>
    public void OnPageHandlerSelected(PageHandlerSelectedContext context) { }

    /// <inheritdoc/>
    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var wholes = context.HandlerMethod?.Parameters.Where(p =>
            p.ParameterType is { IsClass: true } type
            && type.Assembly.GetName().Name!.StartsWith("Mordel.", StringComparison.Ordinal)
        )
            ?? [];
        if (wholes.Any(p => !context.HandlerArguments.TryGetValue(p.Name, out var given) || given is null))
            context.Result = new BadRequestResult();
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuted(PageHandlerExecutedContext context) { }
}
