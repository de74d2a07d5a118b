using System.Text.Json;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Schools;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>An attempt with its marks and the replay that each lost one opens.</summary>
public sealed class AttemptModel(BenchList book) : PageModel
{
    public AttemptRow Row { get; private set; } = null!;

    public string Heading => Row.Assignment?.Title ?? $"Practice exam, {SchoolCatalogue.Named(Row.ProcedureId)?.Title}";

    /// <summary>What was wrong with the rig, from the mark sheet.</summary>
    public string Truth { get; private set; } = "";

    public async Task<IActionResult> OnGetAsync(Guid id, CancellationToken cancel)
    {
        if (await book.Attempt(id, User.Asker(), cancel) is not { } row)
            return NotFound();
        Row = row;
        using var sheet = JsonDocument.Parse(row.Marks);
        Truth =
            string.Join(". ", sheet.RootElement.GetProperty("truth").EnumerateArray().Select(t => t.GetString())) + ".";
        return Page();
    }
}
