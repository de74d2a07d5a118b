using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;
using Mordel.Data;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Web.Application;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Pages.Runs;

/// <summary>What is typed together with a signature.</summary>
public sealed record SignatureForm
{
    public string? Name { get; init; }
    public string? Ink { get; init; }
    public string? Typed { get; init; }
    public string? Remarks { get; init; }
    public int Seen { get; init; }
    public string? Permission { get; init; }
    public string? Restoring { get; init; }
    public string? Pace { get; init; }

    /// <summary>Where the shutoffs stood and stand: <c>open</c>, <c>partly</c> or <c>closed</c>.</summary>
    public string? FoundSo1 { get; init; }
    public string? FoundSo2 { get; init; }
    public string? LeftSo1 { get; init; }
    public string? LeftSo2 { get; init; }

    /// <summary>What is known of the shutoffs apart from the sheet: <c>tight</c> or <c>leaks</c>.</summary>
    public string? So1 { get; init; }
    public string? So2 { get; init; }
}

/// <summary>The verdict, what the report still lacks, and the signature under it.</summary>
public sealed class VerdictModel(
    FindRun find,
    SealRun seal,
    TakeOverRecord takeOver,
    ShowAgain showAgain,
    TimeProvider clock
) : PageModel
{
    private const int LongestWho = 120,
        LongestWords = 2_000;

    public RunFile Run => Ready.Run;
    public ReadyToSign Ready { get; private set; } = null!;
    public Verdict Verdict => Ready.Verdict;
    public SignatureForm Form { get; private set; } = new();

    /// <summary>What the register says otherwise than the run.</summary>
    public IReadOnlyList<string> Differences { get; private set; } = [];

    /// <summary>Whether whoever signs is to show first that it is they.</summary>
    public bool AsksWhoItIs { get; private set; }

    /// <summary>What nobody has entered.</summary>
    public IReadOnlyList<EnteredFact> Missing { get; private set; } = [];

    /// <summary>Whether the signed-in person made the run.</summary>
    public bool Mine => Run.Row.TesterId == User.Id();

    /// <summary>What is written on the tag: date, result, tester, next due.</summary>
    public string? Tag => Run.State.AtTheEnd ? VerdictViews.Tag(Run.Setup, Verdict, Today) : null;

    /// <summary>What the gauge's height and its zero mean for the readings.</summary>
    public IEnumerable<string> HeightNotes => GaugeNotes.Of(Run.Plan, Run.State, Verdict);

    /// <summary>What was odd about the times of the entries.</summary>
    public int NotEnteredElsewhere => Missing.Count(m => !Askable(m.Id));

    private DateOnly Today => clock.Today();

    /// <summary>Whether nobody has entered this, so that it is asked here.</summary>
    public bool Asks(string id) => Missing.Any(m => m.Id == id);

    /// <summary>
    /// Whether a shutoff can be stated here: the test has said nothing, or could not have shown a leak.
    /// </summary>
    public bool AsksShutoff(TestItem item) => VerdictViews.AsksShutoff(Verdict, item);

    public async Task<IActionResult> OnGet(Guid id, CancellationToken cancel)
    {
        if (await find.IsSealed(id, User.Asker(), cancel) is not { } isSealed)
            return NotFound();
        if (isSealed)
            return Redirect($"/reports/{id}");
        if (!await Load(id, cancel))
            return NotFound();
        Form = new() { Name = Run.Setup.Tester.Name, Remarks = Run.State.Remarks };
        AsksWhoItIs = Mine && await showAgain.IsWanted(HttpContext);
        return Page();
    }

    public async Task<IActionResult> OnPost(Guid id, SignatureForm form, CancellationToken cancel)
    {
        if (await find.IsSealed(id, User.Asker(), cancel) is not { } isSealed)
            return NotFound();
        if (isSealed)
            return Redirect($"/reports/{id}");
        if (!await Load(id, cancel))
            return NotFound();
        Form = form;
        AsksWhoItIs = await showAgain.IsWantedNow(HttpContext);
        if (AsksWhoItIs)
            return this.Wrong("Show first that it is you, by the link above the signature; then sign.");
        var beside = Beside(form, out var wrong);
        if (wrong is not null)
            return this.Wrong(wrong);
        var signed = await seal.By(
            id,
            User.Id(),
            new(form.Name ?? "", form.Typed == "yes" ? Signing.TypedName : form.Ink ?? "", form.Seen, beside),
            cancel
        );
        return await this.Answer(signed, _ => $"/reports/{id}", () => Load(id, cancel));
    }

    public async Task<IActionResult> OnPostTakeOver(Guid id, CancellationToken cancel) =>
        await this.Answer(
            await takeOver.Into(id, User.Id(), cancel),
            _ => $"/runs/{id}/verdict",
            () => OnGet(id, cancel)
        );

    private async Task<bool> Load(Guid id, CancellationToken cancel)
    {
        if (await find.For(id, User.Asker(), cancel) is not { } run)
            return false;
        Ready = await seal.Weigh(run, cancel);
        Missing = [.. EnteredFacts.Collect(run.Plan, run.State).Where(f => !f.IsEntered)];
        Differences = await takeOver.Differences(run, cancel);
        return true;
    }

    private static bool Askable(string id) =>
        id is "permission" or "restoring"
        || id.StartsWith("found-", StringComparison.Ordinal)
        || id.StartsWith("left-", StringComparison.Ordinal);

    // What was filled in, as entries; what was left empty stays "not entered".
    private List<EntryBody> Beside(SignatureForm form, out string? wrong)
    {
        var (bodies, faults) = (new List<EntryBody>(), new List<string>());
        void Who(Matter about, string? who, string name)
        {
            if (who?.Trim() is not { Length: > 0 } said)
                return;
            if (said.Length > LongestWho)
                faults.Add($"{name} may have {LongestWho} characters.");
            else
                bodies.Add(new EntryBody.Agreed(about, said));
        }

        void Stood(string? standing, string name, Func<ValvePosition, EntryBody> body)
        {
            if (string.IsNullOrEmpty(standing))
                return;
            if (EntryFormat.PositionNamed(standing) is { } known)
                bodies.Add(body(known));
            else
                faults.Add($"{name}: open, partly or closed.");
        }

        void Shutoff(string? said, TestItem item)
        {
            if (string.IsNullOrEmpty(said))
                return;
            if (said is "tight" or "leaks")
                bodies.Add(new EntryBody.Transcribed(item, new ItemValue.Tightness(said == "tight")));
            else
                faults.Add($"{item.Name}: tight or leaks.");
        }

        Who(Matter.Permission, form.Permission, "Who gave permission");
        Who(Matter.Restoring, form.Restoring, "Who was asked");
        Stood(form.FoundSo1, "SO1 as found", s => new EntryBody.AsFound(Parts.So1, s));
        Stood(form.FoundSo2, "SO2 as found", s => new EntryBody.AsFound(Parts.So2, s));
        Stood(form.LeftSo1, "SO1 as left", s => new EntryBody.AsLeft(Parts.So1, s));
        Stood(form.LeftSo2, "SO2 as left", s => new EntryBody.AsLeft(Parts.So2, s));
        Shutoff(form.So1, TestItem.Shutoff1);
        Shutoff(form.So2, TestItem.Shutoff2);
        if (form.Pace?.Trim() is { Length: > 0 } pace)
        {
            if (pace.Length > LongestWords)
                faults.Add($"The explanation may have {LongestWords} characters.");
            else
                bodies.Add(new EntryBody.Explained(Oddity.Pace, pace));
        }

        var remarks = (form.Remarks ?? "").Replace("\r\n", "\n", StringComparison.Ordinal).Trim();
        if (remarks.Length > LongestWords)
            faults.Add($"The remarks may have {LongestWords} characters.");
        else if (remarks != Run.State.Remarks.Trim())
            bodies.Add(new EntryBody.Remarks(remarks));
        wrong = faults.Count == 0 ? null : string.Join(" ", faults);
        return bodies;
    }
}
