using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Imports;

/// <summary>Files that were brought in, and a place to bring another.</summary>
[RequestSizeLimit(Limits.LargestTable)]
[RequestFormLimits(MultipartBodyLengthLimit = Limits.LargestTable)]
public sealed class IndexModel(ImportList list, BeginImport begin) : PageModel
{
    public IReadOnlyList<ImportRow> Imports { get; private set; } = [];
    public IReadOnlyList<string> Senders { get; private set; } = [];

    public async Task OnGet(CancellationToken cancel)
    {
        Imports = await list.Latest(cancel);
        Senders = await list.Senders(cancel);
    }

    /// <summary>Takes a file; its columns are looked at next.</summary>
    public async Task<IActionResult> OnPost(IFormFile? file, string? sender, CancellationToken cancel)
    {
        if (file is null || file.Length == 0)
        {
            await OnGet(cancel);
            return this.Wrong("Choose a file first: CSV or xlsx.");
        }

        await using var bytes = file.OpenReadStream();
        return await this.Answer(
            await begin.Take(bytes, Path.GetFileName(file.FileName), sender, User.Name(), cancel),
            id => $"/imports/{id}",
            () => OnGet(cancel)
        );
    }
}
