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
    /// <summary>SO1, the shutoff on the side of the main.</summary>
    public static readonly PartId So1 = new("so1");

    /// <summary>SO2, the shutoff on the side of the site.</summary>
    public static readonly PartId So2 = new("so2");

    /// <summary>TC1, the first cock: before SO1, or on a vacuum breaker before the check.</summary>
    public static readonly PartId Tc1 = new("tc1");

    /// <summary>TC2, the second cock: before CV1, or on a vacuum breaker behind the check.</summary>
    public static readonly PartId Tc2 = new("tc2");

    /// <summary>TC3, the cock between the two checks.</summary>
    public static readonly PartId Tc3 = new("tc3");

    /// <summary>TC4, the cock behind CV2.</summary>
    public static readonly PartId Tc4 = new("tc4");

    /// <summary>T1, the tap of a three-tap body before CV1.</summary>
    public static readonly PartId T1 = new("t1");

    /// <summary>T2, the tap of a three-tap body between the checks.</summary>
    public static readonly PartId T2 = new("t2");

    /// <summary>T3, the tap of a three-tap body behind CV2.</summary>
    public static readonly PartId T3 = new("t3");

    /// <summary>CV1, the first check, or the only one of a vacuum breaker.</summary>
    public static readonly PartId Cv1 = new("cv1");

    /// <summary>CV2, the second check.</summary>
    public static readonly PartId Cv2 = new("cv2");

    /// <summary>The relief valve of an RP's zone.</summary>
    public static readonly PartId Relief = new("rv");

    /// <summary>The air inlet of a vacuum breaker.</summary>
    public static readonly PartId AirInlet = new("ai");

    /// <summary>The vent screw of a spill-resistant breaker.</summary>
    public static readonly PartId VentScrew = new("vent-screw");

    /// <summary>The strainer before an assembly.</summary>
    public static readonly PartId Strainer = new("strainer");

    /// <summary>The kit's control valve of the high side.</summary>
    public static readonly PartId HighControl = new("high-control");

    /// <summary>The kit's control valve of the low side.</summary>
    public static readonly PartId LowControl = new("low-control");

    /// <summary>The kit's control valve of the bypass hose, or of the vent.</summary>
    public static readonly PartId BypassControl = new("bypass-control");

    /// <summary>The kit's bleed valve of the high side.</summary>
    public static readonly PartId HighBleed = new("high-bleed");

    /// <summary>The kit's bleed valve of the low side.</summary>
    public static readonly PartId LowBleed = new("low-bleed");

    /// <summary>The high hose.</summary>
    public static readonly PartId HighHose = new("high-hose");

    /// <summary>The low hose.</summary>
    public static readonly PartId LowHose = new("low-hose");

    /// <summary>The bypass hose.</summary>
    public static readonly PartId BypassHose = new("bypass-hose");

    /// <summary>The sight tube.</summary>
    public static readonly PartId SightTube = new("sight-tube");

    /// <summary>The tee with a needle valve that lets water off between a cock and a hose.</summary>
    public static readonly PartId BleedOff = new("bleed-off");

    /// <summary>The differential gauge.</summary>
    public static readonly PartId Gauge = new("gauge");

    /// <summary>The main before the assembly.</summary>
    public static readonly PartId Supply = new("supply");

    /// <summary>The pipes behind the assembly.</summary>
    public static readonly PartId Site = new("site");
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
