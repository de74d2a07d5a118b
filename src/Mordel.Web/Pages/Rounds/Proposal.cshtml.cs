using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Planning;
using Mordel.Core.Register;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Rounds;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Web.Application;
using Mordel.Web.Hosting;

namespace Mordel.Web.Pages.Rounds;

/// <summary>Rounds as they are proposed: lanes of time beside the map, changed by hand, mended, accepted.</summary>
public sealed class ProposalModel(
    ProposalList list,
    ChangeProposal change,
    AcceptRounds accept,
    VanLoads loads,
    ConsentList consents,
    RunningPlans running
) : PageModel
{
    public ProposalView View { get; private set; } = null!;

    /// <summary>The day that is shown.</summary>
    public DateOnly Day { get; private set; }

    /// <summary>The stop that is chosen.</summary>
    public PlanStop? Chosen { get; private set; }

    /// <summary>What its owner said last; null where nothing was said.</summary>
    public ConsentRow? Said { get; private set; }

    /// <summary>What each tester takes along on the day.</summary>
    public IReadOnlyDictionary<string, VanLoad> Loads { get; private set; } = new Dictionary<string, VanLoad>();

    public IReadOnlyList<DateOnly> Days => [.. View.Problem.Shifts.Select(s => s.Day).Distinct().Order()];
    public bool CanChange => View.Row.State == ProposalStates.Proposed;
    public PlanFigures Figures => PlanFigures.Of(View.Problem, View.Plan);

    /// <summary>What changes of the rounds as they stand.</summary>
    public IReadOnlyList<PlanChange> Changes =>
        View.Problem.Before is { } before ? PlanChanges.Between(View.Problem, before, View.Plan) : [];

    /// <summary>The figures of the step before, where there is one to compare with.</summary>
    public PlanFigures? Earlier => View.Earlier is { } earlier ? PlanFigures.Of(View.Problem, earlier) : null;

    /// <summary>How far the search is, in words.</summary>
    public string Progress =>
        running.Of(View.Row.Id) is { } at
            ? $"{at.Stops} of {View.Row.Stops} stops have a place so far, after {at.Seconds:0} seconds."
            : "Looking for rounds…";

    /// <summary>What a tester without a round is said to be: free, or why no stop can be his or hers.</summary>
    public string WhyFree(PlanShift shift)
    {
        ArgumentNullException.ThrowIfNull(shift);
        var tester = View.Problem.Tester(shift.Tester)!;
        var against = View
            .Problem.Stops.Select(s => Fitness.Against(s with { Pin = null }, tester, shift.Day))
            .ToList();
        return against.Exists(a => a.IsEmpty) ? "free"
            : against.TrueForAll(a => a.Contains(PlanLimit.Certificate)) ? "no certificate that holds on this day"
            : against.TrueForAll(a => a.Contains(PlanLimit.Calibration)) ? "kit out of calibration on this day"
            : against.TrueForAll(a => a.Contains(PlanLimit.Kit)) ? "no kit for any of these stops"
            : "may make none of these stops";
    }

    /// <summary>The days, as they are said.</summary>
    public string Span =>
        $"{View.Row.FirstDay:dddd d MMMM}"
        + (View.Row.LastDay > View.Row.FirstDay ? $" to {View.Row.LastDay:dddd d MMMM}" : "");

    /// <summary>How many stops, as it is said.</summary>
    public static string Stops(int count) => count == 1 ? "1 stop" : $"{count} stops";

    /// <summary>Minutes as people say them.</summary>
    public static string Long(int minutes) => minutes < 60 ? $"{minutes} min" : $"{minutes / 60} h {minutes % 60:00}";

    /// <summary>What a tester's day is, in a line under the name.</summary>
    public string Says(PlanShift shift, PlanRoute? route) =>
        route is null
            ? WhyFree(shift)
            : $"{Stops(route.Visits.Length)}, {Window.Says(route.Leave)} to {Window.Says(route.Back)}";

    /// <summary>Where a stop is, and what it asks for.</summary>
    public string Says(PlanStop stop)
    {
        ArgumentNullException.ThrowIfNull(stop);
        var where = View.Plan.Of(stop.Id) is { } at
            ? $"{PlanWords.Day(at.Route.Day)}, {at.Visit.Work}, {View.Problem.Tester(at.Route.Tester)?.Name}"
            : "In no round";
        return $"{where}{(stop.Pin is null ? "" : ", settled")}. Water may be off {string.Join(" or ", stop.Windows)}, "
            + $"{stop.Minutes} minutes{(stop.Due is { } due ? $", due {due:d MMM yyyy}" : "")}"
            + $"{(stop.Skills.IsEmpty ? "" : $", asks for {PlanWords.And(stop.Skills)}")}.";
    }

    public string Link(string? stop = null, DateOnly? day = null) =>
        $"/rounds/{View.Row.Id}?day={Core.Register.Days.Write(day ?? Day)}{(stop is null ? "" : $"&stop={stop}")}";

    public async Task<IActionResult> OnGet(Guid id, DateOnly? day, string? stop, CancellationToken cancel)
    {
        if (await list.Of(id, cancel) is not { } view)
            return NotFound();
        View = view;
        Chosen = view.Problem.Stop(stop ?? "");
        if (Chosen is not null && Guid.TryParse(Chosen.Id, out var assembly))
            Said = (await consents.Latest([assembly], cancel)).GetValueOrDefault(assembly);
        Day =
            day is { } wished && Days.Contains(wished) ? wished
            : view.Plan.Of(stop ?? "") is { } at ? at.Route.Day
            : Days[0];
        if (view.Row.State != ProposalStates.Looking)
            Loads = await loads.Of(view, Day, cancel);
        return Page();
    }

    public async Task<IActionResult> OnGetProgress(Guid id, CancellationToken cancel)
    {
        if (await list.State(id, cancel) is not { } state)
            return NotFound();
        var at = running.Of(id);
        return new JsonResult(
            new
            {
                State = state,
                Says = at is null
                    ? "Looking for rounds…"
                    : $"{at.Stops} stops have a place so far, after {at.Seconds:0} seconds.",
            }
        );
    }

    public Task<IActionResult> OnPostMove(
        Guid id,
        string? stop,
        string? tester,
        DateOnly? on,
        TimeOnly? at,
        CancellationToken cancel
    ) =>
        Done(
            id,
            on,
            stop,
            change.Move(id, stop, tester, on, at is { } t ? (t.Hour * 60) + t.Minute : null, cancel),
            cancel
        );

    public Task<IActionResult> OnPostOut(Guid id, DateOnly? day, string? stop, CancellationToken cancel) =>
        Done(id, day, stop, change.TakeOut(id, stop, cancel), cancel);

    public Task<IActionResult> OnPostPin(
        Guid id,
        DateOnly? day,
        string? stop,
        bool settled,
        CancellationToken cancel
    ) => Done(id, day, stop, change.Pin(id, stop, settled, cancel), cancel);

    public Task<IActionResult> OnPostRound(
        Guid id,
        DateOnly? day,
        string? tester,
        bool settled,
        CancellationToken cancel
    ) => Done(id, day, null, change.PinRound(id, tester, day, settled, cancel), cancel);

    public Task<IActionResult> OnPostUndo(Guid id, DateOnly? day, string? stop, CancellationToken cancel) =>
        Done(id, day, stop, change.Undo(id, cancel), cancel);

    public Task<IActionResult> OnPostMend(Guid id, DateOnly? day, CancellationToken cancel) =>
        Done(id, day, null, change.Mend(id, cancel), cancel);

    public Task<IActionResult> OnPostDrop(Guid id, CancellationToken cancel) =>
        Done(id, null, null, change.Drop(id, cancel), cancel);

    public Task<IActionResult> OnPostAccept(Guid id, DateOnly? day, bool tell, CancellationToken cancel) =>
        Done(id, day, null, accept.With(id, tell, new(User.Name()), cancel), cancel);

    public IActionResult OnPostStop(Guid id)
    {
        running.Stop(id);
        return Redirect($"/rounds/{id}");
    }

    private async Task<IActionResult> Done(
        Guid id,
        DateOnly? day,
        string? stop,
        Task<Reply<Guid>> reply,
        CancellationToken cancel
    ) =>
        await this.Answer(
            await reply,
            _ =>
                $"/rounds/{id}?{(day is { } d ? $"day={Core.Register.Days.Write(d)}&" : "")}"
                + $"{(string.IsNullOrEmpty(stop) ? "" : $"stop={Uri.EscapeDataString(stop)}")}",
            () => OnGet(id, day, stop, cancel)
        );
}
