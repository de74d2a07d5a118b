using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>Large, both checks behind a grooved cover (handbook chapter 5).</summary>
public static class InLineStackSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.InLineStack,
            "Large, a cover held by a coupling: the checks stand one behind the other in the pipe’s line.",
            [
                new("hose", "sensing hose at the relief’s cover", PartForm.Hose)
                {
                    Of = Parts.Relief,
                    WayRound = "its fitting turned as it was found",
                },
                new("coupling", "coupling halves", PartForm.Coupling),
                new("gasket", "gasket", PartForm.Gasket) { HeldBy = ["coupling"], Grease = Grease.Outside },
                new("cover", "cover", PartForm.Cover) { HeldBy = ["coupling", "gasket"] },
                new("spiral", "spiral retainer", PartForm.Retainer) { HeldBy = ["cover"] },
                new("cv1", "CV1", PartForm.Module)
                {
                    Of = Parts.Cv1,
                    HeldBy = ["spiral"],
                    NeverFor = "CV2",
                },
                new("plates", "two retaining plates", PartForm.Plate) { HeldBy = ["cv1"], IsSprung = true },
                new("cv2", "CV2", PartForm.Module)
                {
                    Of = Parts.Cv2,
                    HeldBy = ["plates"],
                    NeverFor = "CV1",
                },
                new("relief-seat", "relief seat", PartForm.Seat) { Of = Parts.Relief, HeldBy = ["hose"] },
                new("bolt-rings", "O-rings of the bolts", PartForm.ORing) { Grease = Grease.Film },
            ],
            [
                new("Leave the cocks open; mark how the fitting stands and take the sensing hose off", "hose"),
                new("Undo the coupling’s bolts and take both halves off", "coupling")
                {
                    Caution = "Heavy: two people from 4 in on, and nothing under pressure behind it.",
                },
                new("Slide the gasket aside and lift the cover away", "gasket", "cover"),
                new("Work the spiral retainer out from one end", "spiral"),
                new("Draw CV1 out", "cv1"),
                new("Push the two plates in against their springs and turn them out", "plates")
                {
                    Caution = "The plates stand under their springs: hold both until they are free.",
                },
                new("Draw CV2 out", "cv2"),
                new("Pull the relief seat straight out, and take the bolts’ O-rings off", "relief-seat", "bolt-rings"),
            ],
            [
                new("Press the relief seat straight in; new O-rings on the bolts", "relief-seat", "bolt-rings"),
                new("Push CV2 home", "cv2"),
                new("Set the plates: the groove must show all round. Then shut TC4", "plates")
                {
                    Caution = "The plates stand under their springs: hold both until they have caught.",
                    Why = "The groove shows that CV2 is home; with TC4 shut it stays there.",
                },
                new("Push CV1 home", "cv1"),
                new("Lead the spiral retainer in at one end and press it round. Then shut TC2", "spiral")
                {
                    Why = "With TC2 shut CV1 stays home.",
                },
                new(
                    "Grease the gasket’s outside, set the cover, slide the gasket over. Then shut TC3",
                    "cover",
                    "gasket"
                ),
                new("Put the coupling halves on; they must meet", "coupling"),
                new("Put the sensing hose on, its fitting turned as it was", "hose"),
            ]
        )
        {
            Mind = ["A kit also renews the bolts’ O-rings."],
        };
}
