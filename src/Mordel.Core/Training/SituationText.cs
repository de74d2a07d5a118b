using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>Says what is wrong with a rig, what was found and how it was judged, in the field's words.</summary>
public static class SituationText
{
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
        var sound = rig.Body.Type.Facts().FirstCheckAboveRelief is { } above ? situation.Springs.Relief + above : 1;
        if (situation.Springs.Cv1 < sound)
            said.Add("CV1’s spring is worn");
        if (rig.Has(Parts.Cv2) && situation.Springs.Cv2 < 1)
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
        return [.. said.Select(Wording.Capital)];
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
