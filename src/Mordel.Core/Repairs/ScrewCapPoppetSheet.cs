using Mordel.Core.Catalogue;

namespace Mordel.Core.Repairs;

/// <summary>A check under a large screwed cap (handbook chapter 5).</summary>
public static class ScrewCapPoppetSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.ScrewCapPoppet,
            "Small RP, DC and PVB: each check under a large cap of its own.",
            [
                new("cap", "cap", PartForm.Cap) { IsSprung = true },
                new("cap-ring", "O-ring of the cap", PartForm.ORing) { HeldBy = ["cap"], Grease = Grease.Film },
                new("spring", "spring", PartForm.Spring) { HeldBy = ["cap"], NeverFor = "spring of the other check" },
                new("poppet", "poppet", PartForm.Poppet) { HeldBy = ["spring"] },
                new("screw", "disc screw", PartForm.Screw) { HeldBy = ["poppet"] },
                new("washer", "retaining washer", PartForm.Washer)
                {
                    HeldBy = ["screw"],
                    WayRound = "flat face to the disc, bevel to the screw’s head",
                },
                new("disc", "seal disc", PartForm.Disc) { HeldBy = ["washer"], WayRound = "unused face to the seat" },
                new("seat", "seat", PartForm.Seat) { HeldBy = ["poppet"] },
                new("seat-ring", "O-ring of the seat", PartForm.ORing) { HeldBy = ["seat"], Grease = Grease.Film },
            ],
            [
                new("Unscrew the cap with one hand flat on it; let it rise slowly", "cap", "cap-ring")
                {
                    Caution = "The spring pushes the cap out: keep the hand on it, face and fingers out of its line.",
                },
                new("Lift the spring out and lay it on the cap it came from", "spring")
                {
                    Why = "The springs of the two checks differ and look alike.",
                },
                new("Draw the poppet out by its stem", "poppet"),
                new("Hold the poppet, undo the screw, take washer and disc off", "screw", "washer", "disc"),
                new(
                    "Run a fingernail over the seat’s edge; only a damaged seat is screwed out, with the seat tool",
                    "seat",
                    "seat-ring"
                )
                {
                    Why = "A crack around the seat shows only when it is out.",
                },
            ],
            [
                new("Start the seat by hand with its O-ring, then tighten it with the seat tool", "seat-ring", "seat")
                {
                    Caution = "A crossed thread ruins the body: it must turn in lightly.",
                },
                new(
                    "Lay the disc and the washer on, flat face to the disc; tighten the screw",
                    "disc",
                    "washer",
                    "screw"
                )
                {
                    Why = "With its screw tight the disc must not turn.",
                },
                new("Set the poppet on the seat; it must move freely", "poppet"),
                new("Centre the spring on the poppet", "spring"),
                new(
                    "Centre the cap on the spring, press with the heel of the hand and start it by hand",
                    "cap-ring",
                    "cap"
                )
                {
                    Caution = "The spring pushes against you until two threads have caught.",
                },
            ]
        )
        {
            Mind =
            [
                "One check at a time: the other stays shut until this one is closed.",
                "Where an O-ring seals, the cap is tightened by hand and a small turn; a wrench only where the maker "
                    + "says.",
                "Angled fittings in the cocks may be in the way: turn them out of the cap’s line.",
            ],
        };
}
