using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands;

namespace Mordel.Web.Application;

/// <summary>What a page answers to a command: one way for done, not found, refused and wrong.</summary>
public static class PageReplies
{
    /// <summary>
    /// Leads on when it was done, says 404 when there is no such thing, and else shows the page again with what is
    /// wrong in its model state.
    /// </summary>
    /// <param name="page">The page.</param>
    /// <param name="reply">What came of the command.</param>
    /// <param name="onward">Where to go with its value.</param>
    /// <param name="again">Loads what the page shows; null when it is loaded.</param>
    public static Task<IActionResult> Answer<T>(
        this PageModel page,
        Reply<T> reply,
        Func<T, string> onward,
        Func<Task>? again = null
    ) => page.Answer(reply, onward, async () =>
        {
            if (again is not null)
                await again();
            return (IActionResult)page.Page();
        });

    /// <summary>As above, for a page that is shown by what it answers to GET.</summary>
    public static async Task<IActionResult> Answer<T>(
        this PageModel page,
        Reply<T> reply,
        Func<T, string> onward,
        Func<Task<IActionResult>> again
    )
    {
        ArgumentNullException.ThrowIfNull(page);
        ArgumentNullException.ThrowIfNull(onward);
        ArgumentNullException.ThrowIfNull(again);
        switch (reply.Why)
        {
            case null:
                return new RedirectResult(onward(reply.Value!));
            case NotDone.NotFound:
                return new NotFoundResult();
            default:
                page.Say(reply.Errors);
                return await again();
        }
    }

    /// <summary>
    /// Puts errors into the page's model state. What a command says of a field stands for what the binding of the form
    /// has said of it: it knows more.
    /// </summary>
    public static void Say(this PageModel page, IEnumerable<FieldError> errors)
    {
        ArgumentNullException.ThrowIfNull(page);
        foreach (var field in errors.GroupBy(e => e.Field))
        {
            page.ModelState.Remove(field.Key);
            foreach (var error in field)
                page.ModelState.AddModelError(field.Key, error.Says);
        }
    }

    /// <summary>Shows the page again with a sentence.</summary>
    public static PageResult Wrong(this PageModel page, params string[] says)
    {
        ArgumentNullException.ThrowIfNull(page);
        page.Say(says.Select(s => new FieldError("", s)));
        return page.Page();
    }
}
