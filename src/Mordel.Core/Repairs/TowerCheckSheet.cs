using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>Large, a tower with both checks under a bolted top cover (handbook chapter 5).</summary>
public static class TowerCheckSheet
{
    /// <summary>The sheet.</summary>
    public static BenchSheet Sheet { get; } =
        new(
            ConstructionFamily.TowerCheck,
            "Large, six bolts with tapered washers on a top cover: the checks stand in a tower.",
            [
                new("bolts", "six cover bolts, tapered washers", PartForm.Bolts)
                {
                    WayRound = "the washers’ taper into the cover",
                },
                new("cover", "top cover", PartForm.Cover) { HeldBy = ["bolts"] },
                new("retaining", "check retaining bolts", PartForm.Bolts) { HeldBy = ["cover"] },
                new("tower", "tower screws with their O-rings", PartForm.Screw)
                {
                    HeldBy = ["retaining"],
                    Grease = Grease.Film,
                },
                new("cv1", "CV1, a poppet", PartForm.Poppet)
                {
                    Of = Parts.Cv1,
                    HeldBy = ["tower"],
                    IsSprung = true,
                    NeverFor = "CV2",
                    WayRound = "any way: it is round",
                },
                new("cv2", "CV2, which swings", PartForm.Module)
                {
                    Of = Parts.Cv2,
                    HeldBy = ["cv1"],
                    NeverFor = "CV1",
                    WayRound = "springs and bosses down, protrusions up",
                },
            ],
            [
                new("Loosen all six bolts a turn, then take them out with their washers", "bolts")
                {
                    Caution = "Leave one bolt on each side for last, and stand beside the cover.",
                },
                new("Lift the cover off", "cover") { Caution = "Heavy: lifting gear or two people." },
                new("Back the check retaining bolts off until they are flush, from both sides", "retaining"),
                new("Undo the tower’s screws and look at their O-rings", "tower"),
                new("Lift CV1 out", "cv1") { Caution = "Its spring may lift it: hold it down while it comes free." },
                new("Ease CV2 out with a flat driver", "cv2"),
            ],
            [
                new("Lower CV2 in: springs and bosses down, protrusions up", "cv2")
                {
                    Why = "A new disc must lie quite flat.",
                },
                new("Set CV1", "cv1") { Caution = "Its spring pushes until the tower holds it." },
                new("Screw the tower down with its O-rings", "tower"),
                new("Tighten CV2’s retaining bolts, then CV1’s; neither may bind", "retaining"),
                new("Set the cover", "cover"),
                new(
                    "Start all six bolts one thread, then hand tight; the two in the middle first, then the other four",
                    "bolts"
                ),
            ]
        )
        {
            Mind = ["Before the relief valve is taken apart: brush its piston and seat, and try again."],
        };
}
