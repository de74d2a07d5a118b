using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>Both checks and the relief valve under one cover (handbook chapter 5).</summary>
public static class CagedCartridgeSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.CagedCartridge,
            "Small to 3 in, one cover: both checks are cages that are pulled out by hand.",
            [
                new("bolts", "cover bolts", PartForm.Bolts) { IsSprung = true },
                new("cover", "cover with relief stem and diaphragm", PartForm.Cover)
                {
                    Of = Parts.Relief,
                    HeldBy = ["bolts"],
                    IsSprung = true,
                },
                new("relief-spring", "relief spring", PartForm.Spring) { Of = Parts.Relief, HeldBy = ["cover"] },
                new("retainer", "retainer", PartForm.Retainer) { HeldBy = ["cover"] },
                new("cv2", "CV2 in its cage", PartForm.Module)
                {
                    Of = Parts.Cv2,
                    HeldBy = ["retainer"],
                    NeverFor = "CV1",
                },
                new("cv1", "CV1 in its cage", PartForm.Module)
                {
                    Of = Parts.Cv1,
                    HeldBy = ["cv2"],
                    NeverFor = "CV2",
                },
                new("relief-seat", "relief seat", PartForm.Seat) { Of = Parts.Relief, HeldBy = ["cv1"] },
            ],
            [
                new("Loosen the cover bolts crosswise; leave one on each side for last", "bolts")
                {
                    Caution = "The relief spring lifts the cover: hold it down while the last two come out.",
                },
                new("Lift the cover straight up; stem and diaphragm come with it", "cover"),
                new("Take the relief spring, which lies loose", "relief-spring"),
                new("Take the retainer out", "retainer"),
                new("Pull CV2 by hand and lay it on its own cloth", "cv2")
                {
                    Why = "Seats and springs of the two differ and never change places.",
                },
                new("Pull CV1 by hand and lay it on the other cloth", "cv1"),
                new("Lift the relief seat out and brush it", "relief-seat"),
            ],
            [
                new("Set the relief seat", "relief-seat"),
                new("Push CV1 home", "cv1") { Why = "It goes first here: CV2 holds it." },
                new("Push CV2 home", "cv2"),
                new("Set the retainer", "retainer"),
                new("Stand the relief spring in its place", "relief-spring"),
                new("Lower the cover so that the stem finds its hole and the diaphragm’s bead its groove", "cover")
                {
                    Caution = "Press it down against the spring until two opposite bolts have caught.",
                },
                new("Start all bolts by hand, then tighten crosswise, a little at a time", "bolts"),
            ]
        )
        {
            Mind =
            [
                "Seat and cage of a check part by an eighth of a turn: clockwise up to 2 in, anticlockwise from 2½ in.",
                "The disc holder must slide freely in its cage.",
            ],
        };
}
