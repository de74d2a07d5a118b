namespace Mordel.Core.Procedures;

/// <summary>What comes before every test (handbook chapter 2): notify, identify, inspect, observe, kit.</summary>
public static class Preliminaries
{
    /// <summary>The stage.</summary>
    public static Stage Stage { get; } = new("before", "Before the test", StageKind.Before,
    [
        new("before.notify", "Occupant told, permission given", [new Act.Look("Tell the occupant that water will be off, and for how long. Get permission.")],
            "Nobody should lose water unawares; a process may not lose it at all.")
        {
            Caution = "Fire lines only under their impairment procedure, alarm company first. Processes, dialysis, boilers: only in the agreed window.",
        },
        new("before.identify", "It is the assembly on the order", [new Act.Look("Compare type, make, model, size and serial number; find the flow arrow.")],
            "A different serial number is a replacement: a new assembly, linked to the old one."),
        new("before.inspect", "Rightly placed, complete, unmodified", [new Act.Look("Type against hazard, clearances, all cocks and handles, nothing bypassed or capped, room to work, not submerged.")],
            "A sound valve in the wrong place protects nobody.")
        {
            Caution = "Pits and vaults are confined spaces: permit, gas test, attendant.",
        },
        new("before.observe", "Both shutoffs as found, no leaks", [new Act.Look("Look for leaks, discharge, standing water. Note how each shutoff stands.")],
            "The shutoffs are left as they were found."),
        new("before.kit", "Kit reads zero, is in calibration, fits", [new Act.Look("Both ports open to air: the needle must read zero. Adapters, tube and tee at hand.")],
            "A test with a kit out of calibration does not count."),
    ]);
}
