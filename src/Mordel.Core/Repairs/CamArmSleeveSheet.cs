using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>Large, clappers with cam arms behind a sliding sleeve (handbook chapter 5).</summary>
public static class CamArmSleeveSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.CamArmSleeve,
            "Large, a sleeve that slides back from an opening: each check is a clapper with a sprung arm.",
            [
                new("tc3", "TC3 with its O-ring", PartForm.Cock) { Grease = Grease.Film },
                new("line", "sensing line", PartForm.Hose) { Of = Parts.Relief },
                new("sleeve", "sleeve", PartForm.Sleeve) { HeldBy = ["tc3", "line"] },
                new("plate", "plate", PartForm.Plate) { HeldBy = ["sleeve"] },
                new("cv1", "CV1 with the stiffer arm", PartForm.Module)
                {
                    Of = Parts.Cv1,
                    HeldBy = ["plate"],
                    IsSprung = true,
                    NeverFor = "CV2",
                },
                new("cv2", "CV2 with the softer arm", PartForm.Module)
                {
                    Of = Parts.Cv2,
                    HeldBy = ["cv1"],
                    IsSprung = true,
                    NeverFor = "CV1",
                },
                new("relief", "relief valve with its O-ring", PartForm.Piston)
                {
                    Of = Parts.Relief,
                    HeldBy = ["line"],
                    Grease = Grease.Film,
                },
            ],
            [
                new("Clean the outside, then turn TC3 out", "tc3")
                {
                    Why = "The sleeve slides over its place, and dirt would fall in.",
                },
                new("Take the sensing line off", "line"),
                new("Slide the sleeve back", "sleeve"),
                new("Take the plate out", "plate"),
                new(
                    "Push a screwdriver through slot and arm to hold CV1’s spring, then turn CV1 out through the slot",
                    "cv1"
                )
                {
                    Caution = "The arm snaps over when the screwdriver slips: fingers out of the slot.",
                },
                new("Hold CV2’s spring in the same way and turn CV2 out", "cv2")
                {
                    Caution = "The arm snaps over when the screwdriver slips: fingers out of the slot.",
                },
                new("Screw the relief valve off below", "relief")
                {
                    Why = "Inside it: four screws, a clip, and a rolling rubber whose notch lies inward.",
                },
            ],
            [
                new("Turn CV2, the one with the softer arm, in through the slot", "cv2")
                {
                    Caution = "Its spring is held by the screwdriver until the arm has caught.",
                    Why = "Checks that were mixed up are told apart by the arm: CV1 is the stiffer.",
                },
                new("Turn CV1 in, its spring held in the same way", "cv1")
                {
                    Caution = "Its spring is held by the screwdriver until the arm has caught.",
                },
                new("Set the plate", "plate"),
                new("Slide the sleeve home", "sleeve"),
                new("Screw the relief valve on with its own O-ring, no thread tape", "relief"),
                new("Put the sensing line on", "line"),
                new("Turn TC3 in with its own greased O-ring", "tc3"),
            ]
        )
        {
            Mind =
            [
                "A C-clip and a pin hold the arm; five screws hold the clapper’s rubber.",
                "Stretch the rubbers between two fingers: cuts show.",
            ],
        };
}
