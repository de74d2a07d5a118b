using Microsoft.AspNetCore.Mvc;
using Microsoft.AspNetCore.Mvc.RazorPages;
using Mordel.Core.Drawing;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Data.Lists;
using Mordel.Web.Application;

namespace Mordel.Web.Pages.Bench;

/// <summary>
/// A rig under a learner's hands. The water runs in the browser; the server gives the rig and takes the recording.
/// </summary>
public sealed class RigModel(BenchList book, KitsAndPeopleList people) : PageModel
{
    public string Mode { get; private set; } = "free";

    /// <summary>The rig as text; empty where the page's own form says it.</summary>
    public string RigText { get; private set; } = "";

    /// <summary>Under which name this device keeps the recording.</summary>
    public string Key { get; private set; } = "";
    public int Minutes { get; private set; }
    public Guid? Assignment { get; private set; }
    public FlowDirection Flow { get; private set; } = FlowDirection.LeftToRight;
    public bool HasSetting { get; private set; }
    public string[] Colours { get; private set; } = ["", "", ""];

    /// <summary>The rig drawn, until hands and water are there; empty where it is not known yet.</summary>
    public string Drawn { get; private set; } = "";

    public string Heading =>
        Mode switch
        {
            "guided" => "With the sheet",
            "exam" => "Exam",
            _ => "Free play",
        };

    public async Task<IActionResult> OnGetAsync(string mode, BenchChoice choice, CancellationToken cancel)
    {
        Mode = mode;
        HasSetting = Request.Query.ContainsKey("procedure");
        Colours = await people.HoseColours(User.Id(), cancel);
        if (choice.Assignment is { } id)
        {
            if (await book.Assigned(id, User.Asker(), cancel) is not { } assigned)
                return NotFound();
            (RigText, Minutes, Assignment, Key) = (assigned.Rig, assigned.Minutes, id, $"{mode} {id} {User.Id()}");
            Draw(RecordingFormat.ReadRig(RigText, out _));
            return Page();
        }

        if (mode != "free")
            RigText = choice.RigText;
        Minutes = choice.Minutes is > 0 and <= 120 ? choice.Minutes : 0;
        Flow = Enum.TryParse<FlowDirection>(choice.Flow, out var way) && Enum.IsDefined(way) ? way : Flow;
        var about = string.IsNullOrEmpty(choice.Rig) ? choice.Procedure : ContentHash.Compute(choice.Rig)[..12];
        Key = $"{mode} {choice.Seed} {about} {User.Id()}";
        var scenario = RecordingFormat.ReadRig(choice.RigText, out var errors);
        Draw(scenario);
        // What a link asks for and cannot be: the page says so, and offers the choice again.
        return RigText.Length > 0 && scenario is null
            ? Redirect($"/bench?problem={Uri.EscapeDataString(string.Join(" ", errors.Select(f => f.ToString())))}")
            : Page();
    }

    private void Draw(Scenario? scenario)
    {
        if (scenario is null)
            return;
        BenchDrawing.Draw(scenario.Situation.Rig, Flow, out var svg);
        Drawn = svg;
    }
}
