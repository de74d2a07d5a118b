using System.Text;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data;
using Mordel.Data.Commands.Parts;
using Mordel.Data.Lists;
using Mordel.Documents.Interchange;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Spares;

/// <summary>Spare parts: what there is, where it lies, what is to be ordered.</summary>
public sealed class IndexModel(PartsList list, KeepParts keep, TimeProvider clock) : PageModel
{
    // What errors of a file are named at once.
    private const int ErrorsShown = 20;

    public IReadOnlyList<PartLine> Lines { get; private set; } = [];

    /// <summary>What an import has just changed.</summary>
    public ImportedParts? Imported { get; private set; }

    public int ToOrder => Lines.Count(l => l.IsLow);

    public async Task OnGet(CancellationToken cancel) => Lines = await list.All(User.Id(), cancel);

    /// <summary>The list as CSV.</summary>
    public async Task<IActionResult> OnGetCsv(CancellationToken cancel) =>
        Csv(PartsCsv.Write((await list.All(User.Id(), cancel)).Select(l => l.Part)), "parts");

    /// <summary>What is to be ordered, as CSV.</summary>
    public async Task<IActionResult> OnGetOrder(CancellationToken cancel) =>
        Csv(
            PartsCsv.WriteOrder(
                (await list.All(User.Id(), cancel)).Where(l => l.IsLow).Select(l => (l.Part, l.ToOrder))
            ),
            "order"
        );

    /// <summary>Takes a list in.</summary>
    public async Task<IActionResult> OnPostImport(IFormFile? file, CancellationToken cancel)
    {
        if (!User.IsAtTheDesk())
            return Forbid();
        if (file is null || file.Length == 0)
            return await Again(["Choose a CSV file first."], cancel);
        using var reader = new StreamReader(file.OpenReadStream(), Encoding.UTF8);
        var parts = PartsCsv.Read(await reader.ReadToEndAsync(cancel), out var errors);
        if (!errors.IsEmpty)
            return await Again(
                [
                    "Nothing was taken in. Mend these lines and choose the file again.",
                    .. errors.Take(ErrorsShown).Select(e => $"{e.Place}: {e.Says}"),
                ],
                cancel
            );
        var reply = await keep.Import(parts, User.Name(), cancel);
        if (reply.Why is not null)
            return await Again([reply.Refusal!], cancel);
        Imported = reply.Value;
        await OnGet(cancel);
        return Page();
    }

    /// <summary>Parts go into one's own van, or come back from it.</summary>
    public async Task<IActionResult> OnPostVan(Guid item, int count, CancellationToken cancel) =>
        await this.Answer(
            await keep.ToVan(item, User.Id(), count, User.Name(), cancel),
            _ => "/parts",
            () => OnGet(cancel)
        );

    /// <summary>Parts came in.</summary>
    public async Task<IActionResult> OnPostReceived(Guid item, int count, CancellationToken cancel) =>
        User.IsAtTheDesk()
            ? await this.Answer(
                await keep.Receive(item, count, User.Name(), cancel),
                _ => "/parts",
                () => OnGet(cancel)
            )
            : Forbid();

    private FileContentResult Csv(string text, string name) =>
        File(Encoding.UTF8.GetBytes(text), "text/csv; charset=utf-8", $"{name}-{clock.Today():yyyy-MM-dd}.csv");

    private async Task<IActionResult> Again(string[] says, CancellationToken cancel)
    {
        await OnGet(cancel);
        return this.Wrong(says);
    }
}
