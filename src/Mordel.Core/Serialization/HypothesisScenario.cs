using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;

namespace Mordel.Core.Serialization;

/// <summary>A hypothesis as a scenario, so that the water model shows what it would do.</summary>
public static class HypothesisScenario
{
    /// <summary>The scenario's text; null where a rig cannot be set with it, or nothing is wrong.</summary>
    /// <param name="body">The body.</param>
    /// <param name="faults">What would be wrong.</param>
    /// <param name="procedure">By which school; the body's first when null.</param>
    public static string? Write(AssemblyBody body, FaultSet faults, string? procedure)
    {
        ArgumentNullException.ThrowIfNull(body);
        ArgumentNullException.ThrowIfNull(faults);
        var school = SchoolCatalogue.Named(procedure)
            ?? SchoolCatalogue.All.First(p => p.Type == body.Type && (p.Body is null || p.Body == body.Name));
        if (faults.Faults.IsEmpty || faults.Faults.Elements.Any(f => f.Part == Parts.Supply || HasAmount(f)))
            return null;
        return JsonText.Object(json =>
        {
            json.WriteString("format", ScenarioFormat.Name);
            json.WriteStartObject("assembly");
            json.WriteString("type", body.Type.Name);
            if (body.Type.Facts().HasChoiceOfBodies)
                json.WriteString("body", body.Name);
            var weak = faults.Faults.Elements.Where(f => f.Kind == PartFault.SpringWeak).ToList();
            if (weak.Count > 0)
            {
                json.WriteStartObject("springs");
                foreach (var fault in weak)
                {
                    var (low, high) = AtlasCase.SpringRange(body, fault.Part, worn: true);
                    json.WriteNumber(fault.Part.Value, Math.Round((decimal)((low + high) / 2), 1));
                }

                json.WriteEndObject();
            }

            json.WriteEndObject();
            json.WriteString("procedure", school.Id);
            json.WriteString("kit", Kit.FiveValve.Name);
            json.WriteStartArray("faults");
            foreach (var fault in faults.Faults.Elements.Where(f => f.Kind != PartFault.SpringWeak))
            {
                json.WriteStartObject();
                json.WriteString("part", fault.Part.Value);
                json.WriteString("fault", fault.Kind);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        });
    }

    private static bool HasAmount(PartFault fault) => fault.Known is FaultKind.ZeroOffset or FaultKind.GaugeHeight;
}
