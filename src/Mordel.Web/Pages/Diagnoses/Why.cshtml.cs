using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;

namespace Mordel.Web.Pages.Diagnoses;

/// <summary>
/// Why a hypothesis stands where it stands: the imagined assembly that goes best with what was seen, its water running,
/// beside what was seen.
/// </summary>
public sealed class WhyModel(DiagnosisList list, WeighDiagnosis weigh) : PageModel
{
    public DiagnosisFile View { get; private set; } = null!;
    public Hypothesis Hypothesis { get; private set; } = null!;
    public Diagnosed Diagnosed { get; private set; } = null!;
    public ImaginedCase Case { get; private set; } = null!;

    /// <summary>The rig as a scenario.</summary>
    public string Rig { get; private set; } = "";

    /// <summary>The looks about the port, each with how every valve stands then.</summary>
    public IEnumerable<(ServiceLook Look, string Turns)> Acts =>
        from look in ServiceLooks.For(View.Body)
        where !look.CanShow.IsEmpty
        select (look, Turns(look));

    /// <summary>What a set of faults is called in an address: <c>cv1.leaks rv.leaks</c>.</summary>
    public static string Slug(FaultSet faults) =>
        string.Join(' ', (faults ?? FaultSet.None).Faults.Elements.Select(f => $"{f.Part}.{f.Kind}"));

    public async Task<IActionResult> OnGet(Guid id, string? of, CancellationToken cancel)
    {
        if (await list.Of(id, cancel) is not { } view)
            return NotFound();
        View = view;
        Atlas atlas;
        try
        {
            (_, atlas, _, Diagnosed) = await weigh.Of(view, Doer.Repairer, LookOrder.Best, cancel);
        }
        catch (FormatException)
        {
            // The board says what is missing.
            return Redirect($"/diagnoses/{id}");
        }

        // A part that was ruled out since the link was made has nothing to show: the board says what stands now.
        if (Diagnosed.Hypotheses.FirstOrDefault(h => Slug(h.Faults) == (of ?? "")) is not { } hypothesis)
            return Redirect($"/diagnoses/{id}");
        Hypothesis = hypothesis;
        Case = ImaginedCase.Of(atlas, Diagnosed, hypothesis);
        Rig = ScenarioFormat.Write(Case.Case.Situation(Kit.FiveValve), view.Row.ProcedureId ?? atlas.Schools[0].Id);
        return Page();
    }

    // Every valve that any look turns, as it stands at this one.
    private string Turns(ServiceLook look)
    {
        var all = ServiceLooks.For(View.Body);
        var turned = new Dictionary<PartId, Opening>();
        foreach (var (part, _) in all.SelectMany(l => l.Turns))
            turned[part] = View.Body.Parts.First(p => p.Id == part).Normal;
        foreach (var step in all.Where(l => l.Id == look.After || l.Id == look.Id))
        foreach (var (part, to) in step.Turns)
            turned[part] = to;
        return string.Join(' ', turned.Select(t => FormattableString.Invariant($"{t.Key}:{t.Value.Fraction}")));
    }
}
