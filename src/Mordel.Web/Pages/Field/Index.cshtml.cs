using System.Text.Json;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Field;

/// <summary>
/// The field rooms as they stand on a tester's device. The page holds nothing of a customer: what it shows was taken
/// along, and stays on the device.
/// </summary>
public sealed class IndexModel : PageModel
{
    /// <summary>How outcomes are shown, for the script.</summary>
    public string Marks { get; } = JsonSerializer.Serialize(OutcomeMarks.All, JsonSerializerOptions.Web);

    public void OnGet() { }
}
