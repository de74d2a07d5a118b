using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Mordel.Web.Pages.Field;

/// <summary>
/// The field rooms as they stand on a tester's device. The page holds nothing of a customer: what it shows was taken
/// along, and stays on the device.
/// </summary>
public sealed class IndexModel : PageModel
{
    public void OnGet() { }
}
