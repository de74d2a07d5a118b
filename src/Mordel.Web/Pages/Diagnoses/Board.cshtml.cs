using System.Globalization;
using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Diagnosis;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Diagnoses;

/// <summary>What is asked of the board beside what was observed.</summary>
/// <param name="Part">The part that was touched.</param>
/// <param name="Order">By which order looks are proposed.</param>
/// <param name="Who">Who is at the assembly.</param>
/// <param name="Taken">Whether the remark was taken to the run just now.</param>
public sealed record BoardChoice(string? Part, string? Order, string? Who, string? Taken = null)
{
    /// <summary>The order.</summary>
    public LookOrder Looks =>
        Order switch
        {
            "shut-first" => LookOrder.ShutFirst,
            "flow-first" => LookOrder.FlowFirst,
            _ => LookOrder.Best,
        };

    /// <summary>Who is there; at the desk it is somebody on the telephone.</summary>
    public Doer By(bool atTheDesk) =>
        Who switch
        {
            "occupant" => Doer.Occupant,
            "tester" => Doer.Tester,
            "repairer" => Doer.Repairer,
            _ => atTheDesk ? Doer.Occupant : Doer.Repairer,
        };

    /// <summary>What goes along with an answer: the part that was touched does not.</summary>
    public Dictionary<string, string> Route => Pairs(null, Order, Who).ToDictionary(p => p.Key, p => p.Value);

    /// <summary>The same choice as a query, with one thing changed.</summary>
    public string With(string? part = null, string? order = null, string? who = null) =>
        QueryString
            .Create(Pairs(part, order ?? Order, who ?? Who).Select(p => KeyValuePair.Create(p.Key, (string?)p.Value)))
            .ToString();

    private static IEnumerable<KeyValuePair<string, string>> Pairs(string? part, string? order, string? who)
    {
        if (!string.IsNullOrEmpty(part))
            yield return new("part", part);
        if (!string.IsNullOrEmpty(order))
            yield return new("order", order);
        if (!string.IsNullOrEmpty(who))
            yield return new("who", who);
    }
}

/// <summary>The findings board: what was seen, what remains, what to look at next.</summary>
public sealed class BoardModel(
    DiagnosisList list,
    KeepDiagnosis keep,
    AskWhoeverIsThere links,
    KeepLinks kept,
    TakeRemark remark,
    WeighDiagnosis weigh,
    ModelBuilds builds,
    TimeProvider clock
) : PageModel
{
    public DiagnosisFile View { get; private set; } = null!;
    public Diagnosed? Diagnosed => Weighed?.Diagnosed;
    public BoardChoice Choice { get; private set; } = new(null, null, null);

    /// <summary>A link that was made just now: it is shown this once.</summary>
    public string? NewLink { get; private set; }

    /// <summary>Why nothing can be said, when the atlas is missing.</summary>
    public string? Trouble { get; private set; }

    /// <summary>The diagnosis with the rates it was weighed with; null when the atlas is missing.</summary>
    public WeighedDiagnosis? Weighed { get; private set; }

    /// <summary>The bench sheets of its make and model.</summary>
    public IReadOnlyList<BenchSheet> Sheets { get; private set; } = [];

    /// <summary>The links that were made, the newest first.</summary>
    public IReadOnlyList<LinkRow> Links { get; private set; } = [];
    public DateTimeOffset Now => clock.GetUtcNow();

    /// <summary>Who is taken to be at the assembly.</summary>
    public Doer By => Choice.By(User.IsAtTheDesk());

    /// <summary>The parts at which something may be seen, in flow order.</summary>
    public IEnumerable<Part> Places =>
        View.Body.Parts.Where(p =>
            (p.Id != Parts.Site && ServiceLooks.For(View.Body).Any(l => l.Part == p.Id && !l.CanShow.IsEmpty))
            || Evidence.Openable(View.Body).Contains(p.Id)
        );

    public async Task<IActionResult> OnGet(Guid id, [FromQuery] BoardChoice choice, CancellationToken cancel)
    {
        await keep.Follow(id, User.Asker(), User.Name(), cancel);
        if (await list.Of(id, cancel) is not { } view)
            return NotFound();
        (View, Choice) = (view, choice);
        if (User.IsAtTheDesk())
            Links = await kept.To(LinkPurposes.Look, id, cancel);
        Sheets = Core.Repairs.BenchSheets.For(view.Body, await builds.Of(view.Row.Assembly!, cancel));
        try
        {
            Weighed = await weigh.Of(view, By, choice.Looks, cancel);
        }
        catch (FormatException e)
        {
            Trouble = e.Message;
        }

        return Page();
    }

    /// <summary>Something was seen.</summary>
    public async Task<IActionResult> OnPostSaw(
        Guid id,
        string? look,
        string? outlet,
        string? opened,
        string? found,
        Guid? entry,
        [FromQuery] BoardChoice choice,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await keep.Saw(id, look, outlet, opened, found, Me, cancel, entry),
            _ => $"/diagnoses/{id}{choice.With()}",
            () => OnGet(id, choice, cancel)
        );

    /// <summary>Something seen is taken back.</summary>
    public async Task<IActionResult> OnPostBack(
        Guid id,
        Guid observation,
        [FromQuery] BoardChoice choice,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await keep.TakeBack(id, observation, Me, cancel),
            _ => $"/diagnoses/{id}{choice.With()}",
            () => OnGet(id, choice, cancel)
        );

    /// <summary>What stands first goes into the remarks of the open run it came from.</summary>
    public async Task<IActionResult> OnPostRemark(Guid id, [FromQuery] BoardChoice choice, CancellationToken cancel)
    {
        if (await OnGet(id, choice, cancel) is not PageResult page || Diagnosed is null)
            return NotFound();
        if (View.Row.RunId is not { } run || Diagnosed.Hypotheses is not [var first, ..])
            return this.Wrong("There is no open run to take it to.");
        return await this.Answer(
            await remark.Into(run, User.Asker(), Remark(first), cancel),
            _ => $"/diagnoses/{id}?taken=yes",
            () => Task.FromResult<IActionResult>(page)
        );
    }

    /// <summary>Makes a link for the owner.</summary>
    public async Task<IActionResult> OnPostLink(
        Guid id,
        int days,
        [FromQuery] BoardChoice choice,
        CancellationToken cancel
    )
    {
        if (!User.IsAtTheDesk())
            return Forbid();
        var reply = await links.Issue(id, days, User.Name(), cancel);
        if (reply.Value is { } token && reply.Why is null)
            NewLink = $"{Request.Scheme}://{Request.Host}/look/{token}";
        else if (reply.Why is not null)
            this.Say(reply.Errors);
        return await OnGet(id, choice, cancel);
    }

    /// <summary>Revokes one.</summary>
    public async Task<IActionResult> OnPostRevoke(
        Guid id,
        Guid link,
        [FromQuery] BoardChoice choice,
        CancellationToken cancel
    ) =>
        User.IsAtTheDesk()
            ? await this.Answer(
                await links.Revoke(id, link, cancel),
                _ => $"/diagnoses/{id}{choice.With()}",
                () => OnGet(id, choice, cancel)
            )
            : Forbid();

    /// <summary>Whether somebody is taken to be at the assembly.</summary>
    public bool IsThere(string who) => By.ToString().Equals(who, StringComparison.OrdinalIgnoreCase);

    /// <summary>A line of what was seen, in words.</summary>
    public string Says(BoardLine line) =>
        line?.Observed is { } seen
            ? Diagnosing.Sentence(seen, View.Body, View.Row.ProcedureId)
            : "An entry that cannot be read any more";

    /// <summary>The labels of what is to be put right.</summary>
    public string Labels(FaultSet faults) =>
        string.Join(" and ", faults.Repair.Select(p => View.Body.Parts.First(x => x.Id == p).Label));

    /// <summary>What the page needs to go on without a signal.</summary>
    public string? Log =>
        Weighed is { } w ? BoardFormat.WriteLog(w.Diagnosed.Evidence, w.Learned.Rates, Choice.Looks) : null;

    /// <summary>The bench sheet that opens what is to be put right; all of them where it is not known.</summary>
    public string SheetFor(FaultSet faults) =>
        Sheets.FirstOrDefault(s => s.Family.Out.Any(p => faults?.Repair.Contains(p) == true)) is { } sheet
            ? $"/bench-sheets/{sheet.Id}"
            : "/bench-sheets";

    /// <summary>A weight, for an attribute.</summary>
    public static string Digits(double weight) => weight.ToString("0.###", CultureInfo.InvariantCulture);

    /// <summary>The remark that says it.</summary>
    public string Remark(Hypothesis first) =>
        FormattableString.Invariant($"By comparison with the water model most likely: {first.Faults.Words(View.Body)} ")
        + FormattableString.Invariant($"({first.Weight * 100:0} %).");

    private Observer Me => new(User.Name(), ObservationWays.House);
}
