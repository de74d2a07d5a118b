using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Mordel.Web.Pages.Bench;

/// <summary>
/// A simulated test: set a rig, put something wrong, see what the water and a careful tester make of it.
/// </summary>
public sealed class SeeTestModel : PageModel;
