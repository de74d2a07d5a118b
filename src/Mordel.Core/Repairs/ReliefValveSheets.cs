using Mordel.Core.Catalogue;

namespace Mordel.Core.Repairs;

/// <summary>A relief valve whose cartridge stays in its bolted cover (handbook chapter 5).</summary>
public static class ReliefBoltedCartridgeSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.ReliefCartridge,
            "The relief valve of an RP with a ring of screws in its cover and a sensing hose.",
            [
                new("hose", "sensing hose", PartForm.Hose),
                new("screws", "cover screws", PartForm.Bolts) { HeldBy = ["hose"], IsSprung = true },
                new("cover", "cover with its cartridge", PartForm.Cover)
                {
                    HeldBy = ["screws"],
                    IsSprung = true,
                    WayRound = "its sensing hole on that of the body",
                },
                new("spring", "spring", PartForm.Spring) { HeldBy = ["cover"], WayRound = "around the seat" },
                new("seat", "seat", PartForm.Seat) { HeldBy = ["spring"] },
                new("ring-screw", "screw of the seal ring", PartForm.Screw) { HeldBy = ["cover"] },
                new("ring", "seal ring", PartForm.Disc) { HeldBy = ["ring-screw"] },
                new("diaphragm", "diaphragm", PartForm.Diaphragm)
                {
                    HeldBy = ["ring"],
                    WayRound = "its bead in the groove",
                },
                new("plunger-ring", "O-ring of the plunger", PartForm.ORing)
                {
                    HeldBy = ["diaphragm"],
                    Grease = Grease.Film,
                },
            ],
            [
                new("Take the sensing hose off", "hose"),
                new("Take the screws out, but for two that stand opposite", "screws")
                {
                    Caution = "Spring behind it: hold the cover down, then take the last two out by turns.",
                },
                new("Lift the cover off; the cartridge stays in it", "cover"),
                new("Take the spring, then the seat", "spring", "seat"),
                new("Undo the seal ring’s screw, take the ring, look at both faces", "ring-screw", "ring"),
                new("Take the diaphragm: hold it to the light, stretch its fold", "diaphragm"),
                new("Roll the plunger’s O-ring off", "plunger-ring"),
            ],
            [
                new("Roll the O-ring on, a thin film of grease on it", "plunger-ring"),
                new("Lay the diaphragm in, its bead in the groove", "diaphragm"),
                new("Lay the seal ring on and tighten its screw", "ring", "ring-screw"),
                new("Set the seat, and the spring around it", "seat", "spring"),
                new("Set the cover, its sensing hole on that of the body, and press it home", "cover")
                {
                    Caution = "Keep it pressed until two screws have caught.",
                },
                new("Start two opposite screws by hand, then the rest; tighten evenly", "screws"),
                new("Put the sensing hose on", "hose"),
            ]
        );
}

/// <summary>A relief valve with a piston in a clip (handbook chapter 5).</summary>
public static class ReliefPistonClipSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.ReliefPiston,
            "The relief valve of an RP whose cover is held by two body bolts.",
            [
                new("line", "sensing line", PartForm.Hose),
                new("bolts", "two body bolts", PartForm.Bolts) { HeldBy = ["line"], IsSprung = true },
                new("cover", "cover", PartForm.Cover) { HeldBy = ["bolts"], IsSprung = true },
                new("body-ring", "O-ring to the body", PartForm.ORing) { HeldBy = ["bolts"], Grease = Grease.Film },
                new("diaphragm", "diaphragm", PartForm.Diaphragm)
                {
                    HeldBy = ["cover"],
                    WayRound = "folded inward, its boss in the piston’s groove",
                },
                new("clip", "C-clip", PartForm.Clip) { HeldBy = ["diaphragm"], IsSprung = true },
                new("piston", "piston", PartForm.Piston) { HeldBy = ["clip"] },
                new("spring", "spring", PartForm.Spring) { HeldBy = ["piston"] },
            ],
            [
                new("Take the sensing line off", "line"),
                new("Undo the two body bolts by turns, the cover held down", "bolts")
                {
                    Caution = "Spring behind it: the second bolt is the one that lets go.",
                },
                new("Take the cover and the O-ring to the body off", "cover", "body-ring"),
                new("Peel the diaphragm off", "diaphragm"),
                new("Press the piston down and take the C-clip", "clip")
                {
                    Caution = "The clip holds the spring: it jumps when the piston slips. Eyes away, a rag over it.",
                },
                new("Let the piston rise slowly, take it and the spring", "piston", "spring"),
            ],
            [
                new("Centre the spring", "spring"),
                new("Set the piston on it; its end must find the hole at the top", "piston"),
                new("Press the piston down and set the C-clip all round", "clip")
                {
                    Caution = "Do not let go before the clip sits in its groove all round.",
                },
                new("Fold the diaphragm inward so that its boss sits in the piston’s groove", "diaphragm"),
                new("Set the O-ring to the body and the cover", "body-ring", "cover"),
                new("Draw the two bolts in by turns", "bolts")
                {
                    Caution = "Hold the cover down until both have caught.",
                },
                new("Put the sensing line on", "line"),
            ]
        );
}
