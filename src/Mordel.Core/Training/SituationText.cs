using System.Collections.Immutable;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>Says what is wrong with a rig, what was found and how it was judged, in the field's words.</summary>
public static class SituationText
{
    /// <summary>
    /// The findings that a report can hold, in the order in which they are offered, with their words.
    /// </summary>
    public static ImmutableArray<(string Id, string Words)> Findings { get; } =
    [
        ("cv1-leaks", "CV1 leaks"),
        ("cv2-leaks", "CV2 leaks"),
        ("relief-leaks", "the relief leaks by itself"),
        ("relief-low", "the relief opens too low"),
        ("relief-stuck", "the relief does not open"),
        ("inlet-stuck", "the air inlet does not open"),
        ("inlet-not-full", "the air inlet does not open fully"),
        ("so1-leaks", "SO1 leaks"),
        ("so2-leaks-with-flow", "SO2 leaks with the flow"),
        ("so2-leaks-back-pressure", "SO2 leaks, back pressure"),
        ("not-static", "the water does not stand still"),
        ("cock-blocked", "a cock is blocked"),
        ("hoses-swapped", "hoses were swapped"),
    ];

    /// <summary>The words of a finding.</summary>
    public static string Finding(string id) => Findings.FirstOrDefault(f => f.Id == id).Words ?? id;

    /// <summary>The findings that an assembly of a type can have.</summary>
    public static IEnumerable<(string Id, string Words)> FindingsOf(AssemblyType type) =>
        Findings.Where(f =>
            f.Id switch
            {
                "cv2-leaks" => type is AssemblyType.RP or AssemblyType.DC,
                "relief-leaks" or "relief-low" or "relief-stuck" => type == AssemblyType.RP,
                "inlet-stuck" or "inlet-not-full" or "not-static" => type is AssemblyType.PVB or AssemblyType.SVB,
                _ => true,
            }
        );

    /// <summary>The word of a verdict.</summary>
    public static string Word(Overall overall) =>
        overall switch
        {
            Overall.Pass => "pass",
            Overall.Fail => "fail",
            Overall.NotTestable => "not testable",
            _ => "incomplete",
        };

    /// <summary>
    /// What is wrong with a rig: faults, worn springs, what stands behind it. Empty words when nothing is.
    /// </summary>
    public static ImmutableArray<string> Describe(Situation situation)
    {
        ArgumentNullException.ThrowIfNull(situation);
        var rig = situation.Rig;
        var said = situation
            .Faults.Select(d => d.Part == Parts.Gauge ? Kit(d) : $"{rig[d.Part].Label} {OfPart(d)}")
            .ToList();
        var low = rig.Body.Type switch
        {
            AssemblyType.RP => (situation.Springs.Cv1 < situation.Springs.Relief + 3, situation.Springs.Cv2 < 1),
            AssemblyType.DC => (situation.Springs.Cv1 < 1, situation.Springs.Cv2 < 1),
            _ => (situation.Springs.Cv1 < 1, false),
        };
        if (low.Item1)
            said.Add("CV1’s spring is worn");
        if (low.Item2)
            said.Add("CV2’s spring is worn");
        if (rig.Has(Parts.Relief) && situation.Springs.Relief < 2)
            said.Add("the relief’s spring is worn");
        if (rig.Has(Parts.AirInlet) && situation.Springs.Inlet < 1)
            said.Add("the inlet’s spring is worn");
        if (said.Count == 0)
            said.Add("nothing is wrong with it");
        if (situation.SiteBehind.Plumbing == SitePlumbing.OwnPressure)
            said.Add($"{Narrator.Number(situation.SiteBehind.Pressure, 0)} psi stand behind it");
        if (situation.SiteBehind.Plumbing == SitePlumbing.OpenOutlet)
            said.Add("an outlet stands open behind it");
        return [.. said.Select(Narrator.Capital)];
    }

    private static string OfPart(Fault d)
    {
        var fault = FaultCatalogue.All.First(f => f.Kind == d.Kind);
        return fault.HasSize ? $"{fault.Says} ({d.Size.ToString().ToLowerInvariant()})" : fault.Says;
    }

    private static string Kit(Fault d) =>
        d.Kind switch
        {
            FaultKind.ZeroOffset => $"the needle rests {Narrator.Number(d.By)} off zero",
            FaultKind.AirInHoses => "some air stays in the hoses",
            FaultKind.HosesSwapped => "the hoses are on each other’s cocks",
            _ => "the gauge is not held at its level",
        };
}
