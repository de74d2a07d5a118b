using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>
/// The bodies there are, part by part in flow order (handbook chapter 1). A new type begins with a description here.
/// </summary>
public static class Bodies
{
    private static Part Relief => new(Parts.Relief, PartKind.Relief, "RV", Opening.Closed);

    private static Part Inlet => new(Parts.AirInlet, PartKind.Inlet, "AI", Opening.Closed);

    /// <summary>
    /// Reduced pressure zone, four cocks: TC1 · SO1 · TC2 · CV1 · zone with TC3 and RV · CV2 · TC4 · SO2.
    /// </summary>
    public static AssemblyBody ReducedPressure { get; } =
        InFlowOrder(
            AssemblyType.RP,
            "four-cock",
            ["inlet", "before-cv1", "zone", "behind-cv2", "outlet"],
            Cock(Parts.Tc1),
            Shutoff(Parts.So1),
            Cock(Parts.Tc2),
            Check(Parts.Cv1),
            Cock(Parts.Tc3),
            Relief,
            Check(Parts.Cv2),
            Cock(Parts.Tc4),
            Shutoff(Parts.So2)
        );

    /// <summary>Reduced pressure zone, three taps: SO1 · T1 · CV1 · zone with T2 and RV · CV2 · T3 · SO2.</summary>
    public static AssemblyBody ThreeTap { get; } =
        InFlowOrder(
            AssemblyType.RP,
            "three-tap",
            ["inlet", "before-cv1", "zone", "behind-cv2", "outlet"],
            Shutoff(Parts.So1),
            Cock(Parts.T1),
            Check(Parts.Cv1),
            Cock(Parts.T2),
            Relief,
            Check(Parts.Cv2),
            Cock(Parts.T3),
            Shutoff(Parts.So2)
        );

    /// <summary>Double check: TC1 · SO1 · TC2 · CV1 · TC3 · CV2 · TC4 · SO2.</summary>
    public static AssemblyBody DoubleCheck { get; } =
        InFlowOrder(
            AssemblyType.DC,
            "DC",
            ["inlet", "before-cv1", "between-checks", "behind-cv2", "outlet"],
            Cock(Parts.Tc1),
            Shutoff(Parts.So1),
            Cock(Parts.Tc2),
            Check(Parts.Cv1),
            Cock(Parts.Tc3),
            Check(Parts.Cv2),
            Cock(Parts.Tc4),
            Shutoff(Parts.So2)
        );

    /// <summary>Pressure vacuum breaker: SO1 · TC1 · CV · body with AI on top · TC2 · SO2.</summary>
    public static AssemblyBody PressureVacuumBreaker { get; } =
        InFlowOrder(
            AssemblyType.PVB,
            "PVB",
            ["inlet", "before-cv1", "body", "outlet"],
            Shutoff(Parts.So1),
            Cock(Parts.Tc1),
            Check(Parts.Cv1),
            Inlet,
            Cock(Parts.Tc2),
            Shutoff(Parts.So2)
        );

    /// <summary>Spill-resistant vacuum breaker: SO1 · TC · CV · body with AI on top and vent screw · SO2.</summary>
    public static AssemblyBody SpillResistant { get; } =
        InFlowOrder(
            AssemblyType.SVB,
            "SVB",
            ["inlet", "before-cv1", "body", "outlet"],
            Shutoff(Parts.So1),
            Cock(Parts.Tc1),
            Check(Parts.Cv1),
            Inlet,
            new Part(Parts.VentScrew, PartKind.Screw, "vent screw", Opening.Closed),
            Shutoff(Parts.So2)
        );

    /// <summary>All of them; the first of a type is its usual one.</summary>
    public static ImmutableArray<AssemblyBody> All { get; } =
    [ReducedPressure, ThreeTap, DoubleCheck, PressureVacuumBreaker, SpillResistant];

    /// <summary>The names of the bodies that an RP can have.</summary>
    public static ImmutableArray<string> Choices(AssemblyType type) =>
        [.. All.Where(b => b.Type == type).Select(b => b.Name)];

    /// <summary>
    /// The body of a type, by name where the type has more than one; the usual one when the name is not known.
    /// </summary>
    public static AssemblyBody Find(AssemblyType type, string? name = null, BodyFeatures features = default)
    {
        var body = All.FirstOrDefault(b => b.Type == type && b.Name == name) ?? All.First(b => b.Type == type);
        return features.Strainer ? WithStrainer(body) with { Features = features } : body with { Features = features };
    }

    // Behind SO1, so that it can be opened and cleaned once SO1 is shut and the pressure is off.
    private static AssemblyBody WithStrainer(AssemblyBody body)
    {
        var strainer = new Part(Parts.Strainer, PartKind.Strainer, "strainer", Opening.Full);
        var at = body.Parts.IndexOf(body.Parts.First(p => p.Id == Parts.So1)) + 1;
        return body with { Parts = body.Parts.Insert(at, strainer) };
    }

    private static Part Cock(PartId id) => new(id, PartKind.Cock, id.Value.ToUpperInvariant(), Opening.Closed);

    private static Part Shutoff(PartId id) => new(id, PartKind.Shutoff, id.Value.ToUpperInvariant(), Opening.Full);

    private static Part Check(PartId id) => new(id, PartKind.Check, id.Value.ToUpperInvariant(), Opening.Closed);

    private static AssemblyBody InFlowOrder(AssemblyType type, string name, string[] chamberNames, params Part[] flow)
    {
        var supply = new Part(Parts.Supply, PartKind.Supply, "main", Opening.Full);
        var site = new Part(Parts.Site, PartKind.Site, "site", Opening.Full);
        var chambers = ImmutableArray.CreateBuilder<Chamber>();
        var here = new List<Port> { new(supply.Id, "out") };
        foreach (var part in flow)
        {
            here.Add(new(part.Id, "in"));
            if (part.Kind is not (PartKind.Shutoff or PartKind.Check))
                continue;
            chambers.Add(new(chamberNames[chambers.Count], [.. here]));
            here = [new(part.Id, "out")];
        }

        here.Add(new(site.Id, "in"));
        chambers.Add(new(chamberNames[chambers.Count], [.. here]));
        return new(type, name, [supply, .. flow, site], chambers.ToImmutable());
    }
}
