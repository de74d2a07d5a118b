using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Office;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Reports;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Register;

/// <summary>Tags for the assemblies of a list, or for one: on sheets of labels, or one by one.</summary>
public sealed class TagsModel(TagList list, PrintTags print) : PageModel
{
    /// <summary>The assemblies whose tags are printed.</summary>
    public IReadOnlyList<AssemblyRow> Rows { get; private set; } = [];

    /// <summary>What they will say.</summary>
    public IReadOnlyList<Mordel.Core.Reports.AssemblyTag> Tags { get; private set; } = [];

    public async Task OnGet(Guid? id, string? q, RegisterFilter filter, CancellationToken cancel)
    {
        Rows = id is { } one ? await list.Of([one], cancel) : await list.Shown(q, filter, cancel);
        Tags = await list.Tags(Rows, cancel);
    }

    /// <summary>The PDF.</summary>
    public async Task<IActionResult> OnPost(Guid[] ids, string? on, int used, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(ids);
        Rows = await list.Of(ids, cancel);
        Tags = await list.Tags(Rows, cancel);
        if (Rows.Count == 0)
            return this.Wrong("Choose an assembly whose tag is to be printed.");
        if (!ModelState.IsValid || used < 0 || used >= TagPdf.OnASheet)
            return this.Wrong($"Of a sheet 0 to {TagPdf.OnASheet - 1} labels can be used already.");
        var tags = await print.Of(Rows, new(User.Name()), cancel);
        return File(
            on == "labels" ? TagPdf.Labels(tags) : TagPdf.Sheets(tags, used),
            "application/pdf",
            Rows.Count == 1 ? $"tag-{Rows[0].Tag}.pdf" : "tags.pdf"
        );
    }
}
