using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>Writes <c>mordel.scenario/1</c>.</summary>
public static partial class ScenarioFormat
{
    /// <summary>A situation as text that reads back as the same rig, springs, faults, main and site.</summary>
    /// <param name="situation">What is true. Its sizes must be the usual ones with leaks multiplied at most.</param>
    /// <param name="procedure">The school it is tested by.</param>
    public static string Write(Situation situation, string procedure)
    {
        ArgumentNullException.ThrowIfNull(situation);
        var (body, kit) = (situation.Rig.Body, situation.Rig.Kit);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            json.WriteStartObject("assembly");
            json.WriteString("type", body.Type.Name);
            if (body.Type.Facts().HasChoiceOfBodies)
                json.WriteString("body", body.Name);
            json.WriteStartObject("springs");
            foreach (var range in body.Type.Facts().Drawn)
                json.WriteNumber(range.Part.Value, Digits(situation.Springs[range.Part]));
            json.WriteEndObject();
            json.WriteEndObject();
            json.WriteStartObject("supply");
            json.WritePsi(situation.Supply.Psi);
            if (situation.Supply.Swing > 0)
            {
                json.WriteStartObject("swing");
                json.WritePsi(situation.Supply.Swing);
                json.WriteEndObject();
                json.WriteNumber("seconds", Digits(situation.Supply.Period));
            }

            json.WriteEndObject();
            json.WriteSite(situation.SiteBehind);
            json.WriteStartArray("faults");
            foreach (var fault in situation.Faults)
                json.WriteFault(fault);
            json.WriteEndArray();
            json.WriteString("procedure", procedure);
            json.WriteString("kit", kit.Name);
            json.WriteNumber("seed", situation.Seed);
            json.WriteStartObject("scale");
            json.WriteNumber("leaks", Digits(situation.Sizes.Weep / Sizes.Usual.Weep));
            json.WriteEndObject();
        });
    }

    private static void WriteSite(this Utf8JsonWriter json, SitePipes site)
    {
        json.WriteStartObject("site");
        switch (site.Plumbing)
        {
            case SitePlumbing.OwnPressure:
                json.WriteStartObject("back-pressure");
                json.WritePsi(site.Pressure);
                json.WriteEndObject();
                break;
            case SitePlumbing.OpenOutlet:
                json.WriteString("demand", "open");
                json.WriteStartObject("outlet");
                json.WriteNumber("value", Digits(site.OutletHeight));
                json.WriteString("unit", "in");
                json.WriteEndObject();
                break;
            default:
                json.WriteString("demand", "none");
                break;
        }

        json.WriteEndObject();
    }

    private static void WriteFault(this Utf8JsonWriter json, Fault fault)
    {
        json.WriteStartObject();
        json.WriteString("part", fault.Part == Parts.Gauge ? "kit" : fault.Part.Value);
        json.WriteString("fault", FaultCatalogue.All.First(f => f.Kind == fault.Kind).Id);
        switch (fault.Kind)
        {
            case FaultKind.Leaks:
                json.WriteString("size", fault.Size.ToString().ToLowerInvariant());
                break;
            case FaultKind.ZeroOffset:
                json.WriteNumber("by", Digits(fault.By));
                break;
            case FaultKind.GaugeHeight:
                json.WriteNumber("inches", Digits(fault.By));
                break;
        }

        json.WriteEndObject();
    }

    private static void WritePsi(this Utf8JsonWriter json, double psi)
    {
        json.WriteNumber("value", Digits(psi));
        json.WriteString("unit", LinePressure.Symbol(LinePressureUnit.Psi));
    }

    // Finer than anybody sets a spring or reads a pressure.
    private static decimal Digits(double number) => Math.Round((decimal)number, 4);
}
