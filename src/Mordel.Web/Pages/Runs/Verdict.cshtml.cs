using System.Collections.Immutable;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Lists;
using Mordel.Web.Api;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Runs;

/// <summary>The verdict, and the signature under it.</summary>
public sealed class VerdictModel(FindRun find, SealRun seal, TakeEntries take, SignWith certificates, TimeProvider clock) : PageModel
{
    public RunFile Run { get; private set; } = null!;
    public Verdict Verdict { get; private set; } = null!;
    public IReadOnlyList<string> Obstacles { get; private set; } = [];
    public string? Problem { get; private set; }
    public string Remarks { get; private set; } = "";
    public string Name { get; private set; } = "";
    public string? Certificate { get; private set; }

    /// <summary>What is written on the tag: date, result, tester, next due.</summary>
    public string? Tag => Run.State.AtTheEnd
        ? $"{Today:d MMM yyyy} · {Verdict.Overall.Word()} · {Run.Row.Tester!.FullName} · {(Verdict.Overall == Overall.Pass ? "next due" : "test again by")} {Run.Plan.Profile.NextDue(Today, Verdict.Overall == Overall.Pass):d MMM yyyy}" : null;

    /// <summary>What the gauge's height means for the readings.</summary>
    public IEnumerable<string> HeightNotes => Verdict.Items.Where(i => Run.State.Readings.TryGetValue(i.Item, out var taken) && taken.OneHose)
        .Select(i => HeightWhatIf.Of(i, Run.State.GaugeOffset)).OfType<string>();

    private DateOnly Today => clock.Today();

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (!await Load(id, cancel)) return NotFound();
        return Run.Row.IsSealed ? Redirect($"/reports/{id}") : Page();
    }

    public async Task<IActionResult> OnPost(Guid id, string? name, string? ink, string? typed, string? remarks, int seen, CancellationToken cancel)
    {
        if (!await Load(id, cancel)) return NotFound();
        if (Run.Row.IsSealed) return Redirect($"/reports/{id}");
        (Name, Remarks) = (name ?? "", remarks ?? "");
        if (Run.Row.TesterId == User.Id() && seen == Run.Log.Count && Remarks.Trim() != Run.State.Remarks && Remarks.Length <= 2000 && !Remarks.Contains('\0', StringComparison.Ordinal))
        {
            var entry = new Entry(new(Guid.CreateVersion7()), Run.Log.LastTick + 1, clock.GetUtcNow(), new EntryBody.Remarks(Remarks.Trim()));
            await take.Into(id, User.Id(), ImmutableArray.Create(entry), cancel);
            seen++;
        }

        var signed = await seal.By(id, User.Id(), new(Name, typed == "yes" ? InkText.Typed : ink ?? "", seen), cancel);
        if (signed.Refusal is null) return Redirect($"/reports/{id}");
        await Load(id, cancel);
        (Name, Problem) = (name ?? "", signed.Refusal);
        return Page();
    }

    private async Task<bool> Load(Guid id, CancellationToken cancel)
    {
        if (await find.For(id, User.Asker(), cancel) is not { } run) return false;
        Run = run;
        Verdict = run.Verdict(await find.Previous(run, cancel));
        Obstacles = run.Row.IsSealed ? [] : await seal.Obstacles(run, cancel);
        (Remarks, Name) = (run.State.Remarks, run.Row.Tester!.FullName);
        Certificate = await certificates.Number(run, cancel);
        return true;
    }
}
