using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Outside;
using Mordel.Core.Register;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Documents.Interchange;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Imports;

/// <summary>A file on its way into the register: its columns, what would become of it, what became of it.</summary>
public sealed class ImportModel(
    ImportList list,
    BeginImport begin,
    ApplyImport apply,
    UndoImport undo,
    RegisterBell bell,
    RunningImports running,
    IFiles files,
    ITableReader reader,
    ProfileList profiles
) : PageModel
{
    // Values of a column that are shown beside its head.
    private const int Examples = 3;

    public ImportRow Import { get; private set; } = null!;
    public IReadOnlyList<ImportColumn> Columns { get; private set; } = [];

    /// <summary>Some values of each column.</summary>
    public IReadOnlyList<string> Values { get; private set; } = [];
    public IReadOnlyList<Understood> Understood { get; private set; } = [];
    public IReadOnlyList<ImportLineView> Lines { get; private set; } = [];
    public IReadOnlyList<string> Rules { get; private set; } = [];

    /// <summary>The lines that are shown.</summary>
    public LineState Shown { get; private set; }
    public bool More { get; private set; }

    /// <summary>Whether the columns are asked for.</summary>
    public bool AsksColumns { get; private set; }

    public async Task<IActionResult> OnGet(
        Guid id,
        string? lines,
        int? after,
        string? columns,
        CancellationToken cancel
    )
    {
        if (await list.Of(id, cancel) is not { } import)
            return NotFound();
        Import = import;
        Columns = ImportColumns.Read(import.Columns);
        AsksColumns = import.State is ImportStates.Columns || (columns is not null && CanChange);
        if (AsksColumns)
        {
            Rules = [.. (await profiles.All(cancel)).Select(p => p.Id).Distinct()];
            Values = Sample(id);
            return Page();
        }

        Understood = Data.Commands.Imports.Understanding.Read(import.Understood);
        Shown = Enum.TryParse<LineState>(lines, out var wished) && Enum.IsDefined(wished) ? wished : First();
        var found = await list.Lines(id, Shown, after ?? 0, cancel);
        (Lines, More) = ([.. found.Take(ImportList.PageSize)], found.Count > ImportList.PageSize);
        return Page();
    }

    /// <summary>How far it is, for the page that waits.</summary>
    public async Task<IActionResult> OnGetProgress(Guid id, CancellationToken cancel) =>
        await list.Of(id, cancel) is { } import
            ? new JsonResult(new { import.State, Says = ImportWords.Says(import, running.Done(id)) })
            : NotFound();

    /// <summary>Lines that were not taken in, with reasons, to go back to the sender.</summary>
    public async Task<IActionResult> OnGetBack(Guid id, CancellationToken cancel)
    {
        if (await list.Of(id, cancel) is not { } import)
            return NotFound();
        var heads = ImportColumns.Read(import.Columns).Select(c => c.Head).ToList();
        using var all = new MemoryStream();
        await TableWriter.Csv(
            all,
            [.. heads, "why it was not taken in"],
            Padded(list.NotTaken(id, cancel), heads.Count),
            mark: true
        );
        return File(
            all.ToArray(),
            "text/csv; charset=utf-8",
            $"back-{Path.GetFileNameWithoutExtension(import.FileName)}.csv"
        );
    }

    /// <summary>Says what the columns hold.</summary>
    public async Task<IActionResult> OnPostColumns(
        Guid id,
        List<string> fields,
        List<string> orders,
        string? authority,
        string? rules,
        CancellationToken cancel
    )
    {
        var said = await begin.Say(id, new(fields, orders, authority, rules), cancel);
        if (said.Why is null)
            bell.Ring();
        return await Answered(id, said, "columns", cancel);
    }

    /// <summary>Says what a doubtful line is.</summary>
    public async Task<IActionResult> OnPostDecide(
        Guid id,
        int line,
        string? decision,
        int? after,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await apply.Decide(id, line, decision, cancel),
            _ => $"/imports/{id}?lines=Doubtful&after={after ?? 0}#line-{line}",
            () => OnGet(id, nameof(LineState.Doubtful), after, null, cancel)
        );

    /// <summary>Says yes.</summary>
    public async Task<IActionResult> OnPostConfirm(Guid id, CancellationToken cancel)
    {
        var said = await apply.Confirm(id, User.Name(), cancel);
        if (said.Why is null)
            bell.Ring();
        return await Answered(id, said, null, cancel);
    }

    /// <summary>Stops what is under way.</summary>
    public async Task<IActionResult> OnPostStop(Guid id, CancellationToken cancel) =>
        await Answered(id, await apply.Stop(id, cancel), null, cancel);

    /// <summary>Undoes what was taken in.</summary>
    public async Task<IActionResult> OnPostUndo(Guid id, CancellationToken cancel) =>
        await Answered(id, await undo.Of(id, User.Name(), cancel), null, cancel);

    private bool CanChange => Import.State is ImportStates.Checked or ImportStates.Stopped;

    private Task<IActionResult> Answered(Guid id, Reply<Guid> reply, string? columns, CancellationToken cancel) =>
        this.Answer(reply, _ => $"/imports/{id}", () => OnGet(id, null, null, columns, cancel));

    // What wants somebody comes first.
    private LineState First() =>
        Import.Doubtful > 0 ? LineState.Doubtful
        : Import.Wrong > 0 ? LineState.Wrong
        : Import.New > 0 ? LineState.New
        : Import.Changed > 0 ? LineState.Changed
        : LineState.Same;

    private List<string> Sample(Guid id)
    {
        using var file = files.Open(BeginImport.FileOf(id));
        if (file is null)
            return [];
        var (heads, first) = ImportFile.Begin(reader, file);
        return
        [
            .. heads.Select(
                (_, i) =>
                    string.Join(
                        " · ",
                        first
                            .Select(l => i < l.Count ? Cleaner.Plain(l[i]) : "")
                            .Where(v => v.Length > 0)
                            .Distinct()
                            .Take(Examples)
                    )
            ),
        ];
    }

    private static async IAsyncEnumerable<string[]> Padded(
        IAsyncEnumerable<(IReadOnlyList<string> Cells, string Why)> lines,
        int columns
    )
    {
        await foreach (var (cells, why) in lines)
            yield return [.. cells.Concat(Enumerable.Repeat("", columns)).Take(columns), why];
    }
}
