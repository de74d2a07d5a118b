using Mordel.Core.Serialization;

namespace Mordel.Web.Pages.Bench;

/// <summary>What a link to the bench asks for.</summary>
public sealed class BenchChoice
{
    public Guid? Assignment { get; set; }
    public string? Procedure { get; set; }
    public string? Kit { get; set; }

    /// <summary><c>exam</c> or <c>field</c>; empty for a sound rig.</summary>
    public string? Rules { get; set; }
    public int Seed { get; set; } = 1;
    public int Minutes { get; set; }
    public string? Flow { get; set; }

    /// <summary>
    /// A rig that somebody has set, as <c>mordel.scenario/1</c>; it goes before what else is asked for.
    /// </summary>
    public string? Rig { get; set; }

    /// <summary>The rig as text: as it was set, drawn by lot, or sound when no rules were named.</summary>
    public string RigText =>
        !string.IsNullOrEmpty(Rig)
            ? Rig
            : JsonText.Object(json =>
            {
                json.WriteString("format", string.IsNullOrEmpty(Rules) ? ScenarioFormat.Name : RecordingFormat.Drawn);
                if (string.IsNullOrEmpty(Rules))
                {
                    json.WriteStartObject("assembly");
                    json.WriteString(
                        "type",
                        Mordel.Core.Schools.SchoolCatalogue.Named(Procedure)?.Type.ToString() ?? ""
                    );
                    json.WriteEndObject();
                }

                json.WriteString("procedure", Procedure ?? "");
                json.WriteString("kit", Kit ?? "");
                if (!string.IsNullOrEmpty(Rules))
                    json.WriteString("rules", Rules);
                json.WriteNumber("seed", Math.Max(0, Seed));
            });
}
