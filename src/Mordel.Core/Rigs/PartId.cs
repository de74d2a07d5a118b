namespace Mordel.Core.Rigs;

/// <summary>The stable name of a part, as used in files and logs: <c>so1</c>, <c>tc3</c>, <c>high-bleed</c>.</summary>
/// <param name="Value">The name.</param>
public readonly record struct PartId(string Value)
{
    /// <inheritdoc/>
    public override string ToString() => Value;
}

/// <summary>The parts that the field has names for.</summary>
public static class Parts
{
    public static readonly PartId So1 = new("so1"),
        So2 = new("so2");
    public static readonly PartId Tc1 = new("tc1"),
        Tc2 = new("tc2"),
        Tc3 = new("tc3"),
        Tc4 = new("tc4");
    public static readonly PartId T1 = new("t1"),
        T2 = new("t2"),
        T3 = new("t3");
    public static readonly PartId Cv1 = new("cv1"),
        Cv2 = new("cv2"),
        Relief = new("rv"),
        AirInlet = new("ai"),
        VentScrew = new("vent-screw"),
        Strainer = new("strainer");
    public static readonly PartId HighControl = new("high-control"),
        LowControl = new("low-control"),
        BypassControl = new("bypass-control");
    public static readonly PartId HighBleed = new("high-bleed"),
        LowBleed = new("low-bleed");
    public static readonly PartId HighHose = new("high-hose"),
        LowHose = new("low-hose"),
        BypassHose = new("bypass-hose");
    public static readonly PartId SightTube = new("sight-tube"),
        BleedOff = new("bleed-off");
    public static readonly PartId Gauge = new("gauge"),
        Supply = new("supply"),
        Site = new("site");
}

/// <summary>What a part is; decides its ports, how it is drawn and what can be done with it.</summary>
public enum PartKind
{
    /// <summary>The main, before the assembly.</summary>
    Supply,

    /// <summary>The pipes behind the assembly.</summary>
    Site,

    /// <summary>Inlet or outlet isolation valve.</summary>
    Shutoff,

    /// <summary>Test cock; its outlet takes a hose or a fitting.</summary>
    Cock,

    /// <summary>Spring check, one way.</summary>
    Check,

    /// <summary>Relief valve: opens a chamber to air when the supply side stands too little above it.</summary>
    Relief,

    /// <summary>Air inlet: lets air into a chamber that has lost its pressure.</summary>
    Inlet,

    /// <summary>Vent screw: opens a chamber to air by hand.</summary>
    Screw,

    /// <summary>Strainer in the pipe; divides nothing.</summary>
    Strainer,

    /// <summary>Control valve between a hose's side and the manifold.</summary>
    Control,

    /// <summary>Bleed valve from a hose's side to the drain tube.</summary>
    Bleed,

    /// <summary>A hose: one end fixed at the kit, one end free.</summary>
    Hose,

    /// <summary>The differential gauge with its high and low port.</summary>
    Gauge,

    /// <summary>Clear tube, open at its top.</summary>
    SightTube,

    /// <summary>Tee with a needle valve, between a cock and a hose.</summary>
    BleedOff,
}
