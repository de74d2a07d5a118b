using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>
/// What holds for a body whose construction nobody has said: as much as is true of every one, and that the maker's
/// sheet goes first.
/// </summary>
public static class PlainSheets
{
    private const string Unknown =
        "Nobody has said how this make and model is built. Have the maker’s sheet at hand; a picture of each layer "
        + "before it is lifted shows the way back.";

    private const string MayPush = "There may be a spring under it: hold it down, leave two opposite bolts for last.";

    /// <summary>A check under a cover of its own.</summary>
    public static BenchSheet Check { get; } =
        new(
            ConstructionFamily.PlainCheck,
            Unknown,
            [
                new("cover", "cover or cap", PartForm.Cover) { IsSprung = true },
                new("cover-ring", "O-ring of the cover", PartForm.ORing) { HeldBy = ["cover"], Grease = Grease.Film },
                new("spring", "spring", PartForm.Spring) { HeldBy = ["cover"], NeverFor = "spring of the other check" },
                new("holder", "disc holder with its stem", PartForm.Poppet) { HeldBy = ["spring"] },
                new("disc", "seal disc", PartForm.Disc) { HeldBy = ["holder"], WayRound = "as it lay" },
                new("seat", "seat", PartForm.Seat) { HeldBy = ["holder"] },
            ],
            [
                new("Mark the cover and body with a pencil, then loosen the cover slowly", "cover", "cover-ring")
                {
                    Caution = MayPush,
                },
                new("Take the spring and lay it on its own cloth", "spring"),
                new("Lift the disc holder out", "holder"),
                new("Take the disc off", "disc"),
                new("Run a fingernail over the seat’s edge; take it out only where it is damaged", "seat"),
            ],
            [
                new("Set the seat", "seat"),
                new("Lay the disc in", "disc"),
                new("Set the disc holder; it must move freely", "holder"),
                new("Centre the spring", "spring"),
                new("Press the cover on against the spring and tighten it evenly", "cover-ring", "cover")
                {
                    Caution = MayPush,
                },
            ]
        )
        {
            Mind = ["One check at a time: the other stays shut until this one is closed."],
        };

    /// <summary>A relief valve.</summary>
    public static BenchSheet Relief { get; } =
        new(
            ConstructionFamily.PlainRelief,
            Unknown,
            [
                new("line", "sensing line", PartForm.Hose),
                new("cover", "cover", PartForm.Cover) { HeldBy = ["line"], IsSprung = true },
                new("diaphragm", "diaphragm", PartForm.Diaphragm) { HeldBy = ["cover"], WayRound = "as it lay" },
                new("spring", "spring", PartForm.Spring) { HeldBy = ["diaphragm"] },
                new("piston", "stem or piston", PartForm.Piston) { HeldBy = ["spring"] },
                new("seat", "seat", PartForm.Seat) { HeldBy = ["piston"] },
            ],
            [
                new("Take the sensing line off; mark how its fitting stands", "line"),
                new("Mark the cover, then loosen it slowly, the last two screws opposite each other", "cover")
                {
                    Caution = MayPush,
                },
                new("Lift the diaphragm; note which face lay up", "diaphragm"),
                new("Take the spring out", "spring"),
                new("Draw the stem or piston out", "piston"),
                new("Brush the seat before it is taken out", "seat") { Why = "Debris there may be all that is wrong." },
            ],
            [
                new("Set the seat", "seat"),
                new("Set the stem or piston; it must slide", "piston"),
                new("Centre the spring", "spring"),
                new("Lay the diaphragm as it lay", "diaphragm"),
                new("Press the cover on, start two opposite screws, then the rest, evenly", "cover")
                {
                    Caution = MayPush,
                },
                new("Put the sensing line on as it stood", "line"),
            ]
        );

    /// <summary>A vacuum breaker.</summary>
    public static BenchSheet Breaker { get; } =
        new(
            ConstructionFamily.PlainBreaker,
            Unknown,
            [
                new("canopy", "canopy", PartForm.Canopy) { Of = Parts.AirInlet },
                new("bonnet", "bonnet", PartForm.Bonnet)
                {
                    HeldBy = ["canopy"],
                    IsSprung = true,
                    Of = Parts.AirInlet,
                },
                new("float", "float or inlet disc", PartForm.Float) { HeldBy = ["bonnet"], Of = Parts.AirInlet },
                new("check", "check with its spring", PartForm.Poppet) { HeldBy = ["float"], Of = Parts.Cv1 },
            ],
            [
                new("Take the canopy off", "canopy"),
                new("Loosen the bonnet slowly", "bonnet") { Caution = MayPush },
                new("Lift the float out", "float"),
                new("Lift the check out", "check"),
            ],
            [
                new("Set the check; it must move freely", "check"),
                new("Set the float on its guide", "float"),
                new("Close the bonnet by hand, then tighten it", "bonnet") { Caution = MayPush },
                new("Put the canopy on", "canopy"),
            ]
        );

    /// <summary>All of them.</summary>
    public static IReadOnlyList<BenchSheet> All { get; } = [Check, Relief, Breaker];
}
