using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>
/// What parts look like on a run's drawing, which stands still: a bar for a closed valve, a gap for an open one.
/// </summary>
internal static class RunShapes
{
    /// <summary>Half the pipe's width; how far out a cock's outlet is.</summary>
    public const double Half = 17,
        CockTop = 78;

    private static readonly ImmutableArray<Piece> Shutoff =
    [
        new Piece.Ring("body", 25),
        new Piece.Pool("in", "M-24,-9 L24,-9 L24,9 L-24,9 Z") { When = Visible.Open },
        new Piece.Line("wall thin", "M-23,-9 L23,-9 M-23,9 L23,9") { When = Visible.Open },
        new Piece.Line("bar", "M0,-22 L0,22") { When = Visible.Closed },
        // The handle lies along the pipe when open and across it when closed.
        new Piece.Line("handle", "M0,25 L0,34 L26,34") { When = Visible.Open },
        new Piece.Line("handle", "M0,25 L0,54") { When = Visible.Closed },
        new Piece.Caption("name", new TextSpot(0, -48)),
        new Piece.Numbers(new(new(46, -48), new(0, 74), new(0, 74))),
    ];

    private static readonly ImmutableArray<Piece> Check =
    [
        new Piece.Line("seat", "M-8,-17 L-8,-7 M-8,7 L-8,17"),
        new Piece.Line("disc", "M-3,-11 L-3,11"),
        new Piece.Line("spring", "M-3,0 L3,7 L9,-7 L15,7 L21,-7 L25,0"),
        new Piece.Line("stop", "M26,-17 L26,17"),
        new Piece.Caption("name", new TextSpot(6, -48)),
    ];

    private static readonly ImmutableArray<Piece> Cock =
    [
        .. Neck("in", 17, 44),
        .. Neck("out", 44, 78),
        new Piece.Line("handle", "M-11,34 L-11,56") { When = Visible.Open },
        new Piece.Line("bar", "M-13,44 L13,44") { When = Visible.Closed },
        new Piece.Line("handle", "M-22,44 L-13,44") { When = Visible.Closed },
        new Piece.Stream("flowing", "M0,17 L0,78") { When = Visible.Open },
        new Piece.Caption("name", new(new(14, 62, "start"), new(-22, 46), new(22, 46))),
        new Piece.Numbers(new(new(-30, 68), new(26, 62), new(-26, 62))),
    ];

    // The relief hangs under the zone; its port is open below.
    private static readonly ImmutableArray<Piece> Relief =
    [
        new Piece.Pool("in", "M-12,-17 L-12,-34 L12,-34 L12,-17 Z"),
        new Piece.Line("wall thin", "M-12,-17 L-12,-40 L-20,-58 M12,-17 L12,-40 L20,-58"),
        new Piece.Line("gap", "M-12,-38 L-4,-44 M12,-38 L4,-44") { When = Visible.Running },
        new Piece.Line("drop", "M0,-48 L0,-82") { When = Visible.Running },
        new Piece.Line("bar", "M-14,-38 L14,-38") { When = Visible.Dry },
        new Piece.Caption("name", new(new(-22, -50, "end"), new(0, -74), new(0, -74))),
    ];

    // The air inlet sits on top of the body under its canopy.
    private static readonly ImmutableArray<Piece> Inlet =
    [
        new Piece.Pool("in", "M-20,17 L-20,40 L20,40 L20,17 Z"),
        new Piece.Line("wall thin", "M-20,17 L-20,46 L-10,46 M20,17 L20,46 L10,46"),
        new Piece.Line("disc", "M-13,34 L13,34") { When = Visible.Open },
        new Piece.Line("disc", "M-13,43 L13,43") { When = Visible.Closed },
        new Piece.Line("wall thin", "M-30,54 L-18,68 L18,68 L30,54"),
        new Piece.Caption("name", new(new(0, 88), new(0, 92), new(0, 92))),
        new Piece.Numbers(new TextSpot(40, 88)),
    ];

    private static readonly ImmutableArray<Piece> Screw =
    [
        .. Neck("in", 17, 38),
        new Piece.Line("handle", "M-12,58 L12,58") { When = Visible.Open },
        new Piece.Line("drop", "M10,40 L18,24") { When = Visible.Open },
        new Piece.Line("bar", "M-12,40 L12,40") { When = Visible.Closed },
        new Piece.Line("handle", "M-7,46 L7,46") { When = Visible.Closed },
        new Piece.Caption("small", new(new(0, 74), new(0, 92), new(0, 92)), TextStanding: "screw"),
        new Piece.Numbers(new TextSpot(34, 52)),
    ];

    private static readonly ImmutableArray<Piece> Strainer =
    [
        new Piece.Line("wall thin", "M-6,-17 L12,-44 L26,-34 L12,-17"),
        new Piece.Line("spring", "M2,-20 L18,-40"),
        new Piece.Caption("small", new(new(4, -66), new(-18, -62), new(34, -62)), "strainer"),
    ];

    /// <summary>The pieces of a part; none where it is not drawn.</summary>
    public static ImmutableArray<Piece> Of(Part part) =>
        part.Kind switch
        {
            PartKind.Shutoff => Shutoff,
            PartKind.Check => Check,
            PartKind.Cock => Cock,
            PartKind.Relief => Relief,
            PartKind.Inlet => Inlet,
            PartKind.Screw => Screw,
            PartKind.Strainer => Strainer,
            _ => [],
        };

    private static ImmutableArray<Piece> Neck(string port, double from, double to) =>
        [
            new Piece.Pool(port, $"M-7,{from} L-7,{to} L7,{to} L7,{from} Z"),
            new Piece.Line("wall thin", $"M-7,{from} L-7,{to} M7,{from} L7,{to}"),
        ];
}
