using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>A PVB or SVB from its canopy down (handbook chapter 5).</summary>
public static class VacuumBreakerSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.VacuumBreaker,
            "PVB and SVB: everything is reached from above, under the canopy.",
            [
                new("canopy-screw", "canopy screw", PartForm.Screw),
                new("canopy", "canopy", PartForm.Canopy) { Of = Parts.AirInlet, HeldBy = ["canopy-screw"] },
                new("bonnet", "bonnet", PartForm.Bonnet)
                {
                    Of = Parts.AirInlet,
                    HeldBy = ["canopy"],
                    IsSprung = true,
                },
                new("bonnet-ring", "O-ring of the bonnet", PartForm.ORing)
                {
                    HeldBy = ["bonnet"],
                    Grease = Grease.Film,
                },
                new("float", "float on its guide pin", PartForm.Float)
                {
                    Of = Parts.AirInlet,
                    HeldBy = ["bonnet"],
                    WayRound = "disc up, guide in its hole",
                },
                new("check", "check poppet with its spring", PartForm.Poppet)
                {
                    Of = Parts.Cv1,
                    HeldBy = ["float"],
                    IsSprung = true,
                },
            ],
            [
                new("Take the screw and the canopy off", "canopy-screw", "canopy"),
                new("Lay a bar across the lugs and screw the bonnet out", "bonnet", "bonnet-ring")
                {
                    Caution = "A spring pushes at it, and old plastic guides are brittle: turn slowly, hand on it.",
                },
                new("Lift the float off its pin", "float") { Why = "A bent guide lets it hang." },
                new("Lift the check poppet and its spring out", "check")
                {
                    Caution = "Its spring lifts it: keep it down with a finger.",
                },
            ],
            [
                new("Set the check poppet and its spring; it must move freely", "check")
                {
                    Caution = "Keep it down with a finger until the float holds it.",
                },
                new("Set the float on its pin, disc up", "float"),
                new("Screw the bonnet in by hand, then with the bar", "bonnet-ring", "bonnet")
                {
                    Caution = "Do not force a bonnet: guides break, and a crossed thread leaks for good.",
                },
                new("Set the canopy and its screw", "canopy", "canopy-screw"),
            ]
        )
        {
            Mind =
            [
                "After closing the float must seat with a click of water and the canopy stay dry.",
                "Look for freeze cracks in the ball valves and the body before anything is ordered.",
            ],
        };
}
