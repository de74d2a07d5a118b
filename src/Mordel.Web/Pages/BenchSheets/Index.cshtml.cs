using Microsoft.AspNetCore.Mvc.RazorPages;

namespace Mordel.Web.Pages.BenchSheets;

/// <summary>How bodies are built, and which sheet opens which.</summary>
public sealed class IndexModel : PageModel;
