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
public sealed class IndexModel(ImportList list, BeginImport begin, BringBack bringBack) : PageModel
{
    public IReadOnlyList<ImportRow> Imports { get; private set; } = [];
    public IReadOnlyList<string> Senders { get; private set; } = [];

    /// <summary>What became of a file of places, people or kits; null where none was brought.</summary>
    public BroughtBack? Back { get; private set; }

    /// <summary>Whether it was only looked at.</summary>
    public bool WasDryRun { get; private set; }

    /// <summary>Whether such a file was brought just now.</summary>
    public bool IsBack { get; private set; }

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

    /// <summary>Takes a file of places, people or kits, or says what would become of it.</summary>
    public async Task<IActionResult> OnPostBack(IFormFile? file, bool dryRun, CancellationToken cancel)
    {
        IsBack = true;
        if (file is null || file.Length == 0)
        {
            await OnGet(cancel);
            return this.Wrong("Choose a file first: CSV or xlsx.");
        }

        await using var bytes = file.OpenReadStream();
        var mayMake = User.IsInRole(Data.Rows.Roles.Owner);
        var taken = await bringBack.Take(bytes, mayMake, dryRun, new(User.Name()), cancel);
        if (taken.Why is not null)
            return await this.Answer(taken, _ => "/imports", () => OnGet(cancel));
        (Back, WasDryRun) = (taken.Value, dryRun);
        await OnGet(cancel);
        return Page();
    }
}
