using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Diagnoses;

/// <summary>Where somebody comes who hears "it drips": which assembly is it.</summary>
public sealed class IndexModel(RegisterSearch search, DiagnosisList list, KeepDiagnosis keep) : PageModel
{
    private const int Offered = 8;

    public string? Words { get; private set; }
    public IReadOnlyList<RegisterLine> Found { get; private set; } = [];
    public IReadOnlyList<DiagnosisLine> Latest { get; private set; } = [];

    public async Task OnGet(string? q, CancellationToken cancel)
    {
        Words = q is { Length: > 120 } ? q[..120] : q;
        if (!string.IsNullOrWhiteSpace(Words))
            Found = [.. (await search.Find(Words, null, cancel)).Take(Offered)];
        Latest = await list.Latest(cancel);
    }

    /// <summary>Opens one on an assembly.</summary>
    public async Task<IActionResult> OnPost(Guid assembly, CancellationToken cancel) =>
        await this.Answer(await keep.Open(assembly, User.Name(), cancel), Board, () => OnGet(null, cancel));

    /// <summary>Opens the one of a run.</summary>
    public async Task<IActionResult> OnPostRun(Guid run, CancellationToken cancel) =>
        await this.Answer(await keep.OpenFor(run, User.Asker(), User.Name(), cancel), Board, () => OnGet(null, cancel));

    private static string Board(Guid id) => $"/diagnoses/{id}";
}
