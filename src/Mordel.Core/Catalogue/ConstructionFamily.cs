using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Catalogue;

/// <summary>
/// A way of building the inside of an assembly, or of its relief valve: what can be taken out, and in which order
/// (handbook chapter 5). A make and model belongs to one; the names are our own.
/// </summary>
public sealed record ConstructionFamily
{
    private ConstructionFamily() { }

    /// <summary>Its name in files.</summary>
    public required string Id { get; init; }

    /// <summary>What it is called.</summary>
    public required string Title { get; init; }

    /// <summary>The types that are built so.</summary>
    public required ImmutableArray<AssemblyType> Types { get; init; }

    /// <summary>
    /// The parts that come out, in their order; a part that a type has not is passed over. Where each stands under a
    /// cover of its own, the order is that of the flow and one is done before the next is opened.
    /// </summary>
    public required ImmutableArray<PartId> Out { get; init; }

    /// <summary>The order in which they go back.</summary>
    public required ImmutableArray<PartId> In { get; init; }

    /// <summary>Whether each part has a cover of its own, so that one can be opened without the other.</summary>
    public bool OneByOne { get; init; }

    /// <summary>Screw-cap poppet: each check under its own cap.</summary>
    public static ConstructionFamily ScrewCapPoppet { get; } =
        new()
        {
            Id = "screw-cap-poppet",
            Title = "screw-cap poppet",
            Types = [AssemblyTypes.RP, AssemblyTypes.DC, AssemblyTypes.PVB],
            Out = [Parts.Cv1, Parts.Cv2],
            In = [Parts.Cv1, Parts.Cv2],
            OneByOne = true,
        };

    /// <summary>Caged cartridge: both checks as modules under one cover, with the relief's stem.</summary>
    public static ConstructionFamily CagedCartridge { get; } =
        new()
        {
            Id = "caged-cartridge",
            Title = "caged cartridge",
            Types = [AssemblyTypes.RP, AssemblyTypes.DC],
            Out = [Parts.Relief, Parts.Cv2, Parts.Cv1],
            In = [Parts.Cv1, Parts.Cv2, Parts.Relief],
        };

    /// <summary>In-line stack: both checks behind one grooved cover.</summary>
    public static ConstructionFamily InLineStack { get; } = CheckOneFirst("in-line-stack", "in-line stack");

    /// <summary>Cam-arm sleeve: clappers on arms, reached through a slot.</summary>
    public static ConstructionFamily CamArmSleeve { get; } = CheckOneFirst("cam-arm-sleeve", "cam-arm sleeve");

    /// <summary>Tower check: both checks in a tower under a bolted cover.</summary>
    public static ConstructionFamily TowerCheck { get; } = CheckOneFirst("tower-check", "tower check");

    /// <summary>Relief valve as a bolted cartridge.</summary>
    public static ConstructionFamily ReliefCartridge { get; } =
        OfRelief("relief-cartridge", "relief, bolted cartridge");

    /// <summary>Relief valve with a piston and a clip.</summary>
    public static ConstructionFamily ReliefPiston { get; } = OfRelief("relief-piston", "relief, piston and clip");

    /// <summary>Vacuum breaker: the float under its bonnet, the check below it.</summary>
    public static ConstructionFamily VacuumBreaker { get; } =
        new()
        {
            Id = "vacuum-breaker",
            Title = "vacuum breaker",
            Types = [AssemblyTypes.PVB, AssemblyTypes.SVB],
            Out = [Parts.AirInlet, Parts.Cv1],
            In = [Parts.Cv1, Parts.AirInlet],
        };

    /// <summary>All of them, in the order of the handbook.</summary>
    public static ImmutableArray<ConstructionFamily> All { get; } =
    [
        ScrewCapPoppet,
        CagedCartridge,
        InLineStack,
        CamArmSleeve,
        TowerCheck,
        ReliefCartridge,
        ReliefPiston,
        VacuumBreaker,
    ];

    /// <summary>A check whose construction nobody has said: under a cover of its own.</summary>
    public static ConstructionFamily PlainCheck { get; } =
        new()
        {
            Id = "plain-check",
            Title = "check, construction not known",
            Types = [AssemblyTypes.RP, AssemblyTypes.DC],
            Out = [Parts.Cv1, Parts.Cv2],
            In = [Parts.Cv1, Parts.Cv2],
            OneByOne = true,
        };

    /// <summary>A relief valve whose construction nobody has said.</summary>
    public static ConstructionFamily PlainRelief { get; } =
        OfRelief("plain-relief", "relief valve, construction not known");

    /// <summary>A vacuum breaker whose construction nobody has said.</summary>
    public static ConstructionFamily PlainBreaker { get; } =
        new()
        {
            Id = "plain-breaker",
            Title = "vacuum breaker, construction not known",
            Types = [AssemblyTypes.PVB, AssemblyTypes.SVB],
            Out = [Parts.AirInlet, Parts.Cv1],
            In = [Parts.Cv1, Parts.AirInlet],
        };

    /// <summary>The family with this name in files; null when there is none.</summary>
    public static ConstructionFamily? Named(string? id) => All.FirstOrDefault(f => f.Id == id);

    /// <summary>The families that a type may be built in.</summary>
    public static IEnumerable<ConstructionFamily> Of(AssemblyType type) => All.Where(f => f.Types.Contains(type));

    /// <summary>The parts of a body that this family gives access to, in the order in which they come out.</summary>
    public IEnumerable<PartId> OutOf(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return Out.Where(p => body.Parts.Any(x => x.Id == p));
    }

    // CV1 comes out first and CV2 goes in first.
    private static ConstructionFamily CheckOneFirst(string id, string title) =>
        new()
        {
            Id = id,
            Title = title,
            Types = [AssemblyTypes.RP, AssemblyTypes.DC],
            Out = [Parts.Cv1, Parts.Cv2],
            In = [Parts.Cv2, Parts.Cv1],
        };

    private static ConstructionFamily OfRelief(string id, string title) =>
        new()
        {
            Id = id,
            Title = title,
            Types = [AssemblyTypes.RP],
            Out = [Parts.Relief],
            In = [Parts.Relief],
        };
}
