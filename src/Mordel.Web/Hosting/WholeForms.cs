using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.Filters;

namespace Mordel.Web.Hosting;

/// <summary>
/// Refuses a form that cannot be told apart from its own fields: a field with the name of the whole makes the framework look for the fields inside of it and hand
/// on nothing.
/// </summary>
public sealed class WholeForms : IPageFilter
{
    /// <inheritdoc/>
    public void OnPageHandlerSelected(PageHandlerSelectedContext context)
    {
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuting(PageHandlerExecutingContext context)
    {
        ArgumentNullException.ThrowIfNull(context);
        var wholes = context.HandlerMethod?.Parameters.Where(p => p.ParameterType is { IsClass: true } type && type.Assembly.GetName().Name!.StartsWith("Mordel.", StringComparison.Ordinal)) ?? [];
        if (wholes.Any(p => context.HandlerArguments.GetValueOrDefault(p.Name) is null)) context.Result = new BadRequestResult();
    }

    /// <inheritdoc/>
    public void OnPageHandlerExecuted(PageHandlerExecutedContext context)
    {
    }
}
