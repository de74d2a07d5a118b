using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>
/// What parts look like at the bench, with their insides: everything that a hand moves and everything that water moves
/// is a piece of its own, so that a screen can set it sixty times a second.
/// </summary>
/// <param name="rig">The rig.</param>
/// <param name="along">Where its parts stand along the flow.</param>
/// <param name="floor">How far the floor is below the pipe's middle.</param>
internal sealed class BenchShapes(Rig rig, IReadOnlyDictionary<PartId, double> along, double floor)
{
    /// <summary>Half the pipe's width; how far out a cock's outlet is.</summary>
    public const double Half = 18,
        CockTop = 78;

    /// <summary>The pieces of a part; none where it is not drawn.</summary>
    public ImmutableArray<Piece> Of(Part part) =>
        part.Kind switch
        {
            PartKind.Shutoff => Shutoff(part),
            PartKind.Check => Check(part),
            PartKind.Relief => Relief(part),
            PartKind.Inlet => Inlet(part),
            PartKind.Cock => Cock(part),
            PartKind.Screw => Screw(part),
            PartKind.Strainer => [new Piece.Caption("small", new TextSpot(0, -48), "strainer")],
            PartKind.Site => Tap,
            _ => [],
        };

    private string Chamber(PartId part) => rig.At(new(part, "in"))!.Id;

    private static string F(FormattableString path) => path.ToString(CultureInfo.InvariantCulture);

    private ImmutableArray<Piece> Shutoff(Part part)
    {
        var bore = new Piece.Block("void", -21, 8, 42, 16);
        return
        [
            new Piece.Ring("body", 27),
            new Piece.Moving(
                Motion.Bore,
                0,
                [new Piece.Ring("ball", 21), bore, new Piece.Cell(Chamber(part.Id), bore with { Css = "cell" })]
            ),
            new Piece.Moving(
                Motion.Handle,
                0,
                [new Piece.Line("handle", "M0,0 L44,0") { Unmirrored = true }, new Piece.Ring("boss", 7)]
            ),
            new Piece.Caption("name", new TextSpot(0, -62)),
        ];
    }

    private ImmutableArray<Piece> Cock(Part part)
    {
        var chamber = Chamber(part.Id);
        return
        [
            .. Neck(chamber, Half, 40),
            .. Neck(chamber, 60, CockTop, beyond: true),
            new Piece.Ring("body", 14, 50),
            new Piece.Moving(Motion.Bore, 50, [new Piece.Cell(chamber, new("cell", -10, 54, 20, 8))]),
            new Piece.Moving(
                Motion.Handle,
                50,
                [new Piece.Line("handle", "M0,50 L25,50") { Unmirrored = true }, new Piece.Ring("boss", 4.5, 50)]
            ),
            new Piece.Caption("name", new(new(-19, 28, "end"), new(-33, 58), new(-33, 58))) { Unmirrored = true },
            new Piece.Fall("M0,78 C0,124 30,124 32,26") { Unmirrored = true },
        ];
    }

    private static ImmutableArray<Piece> Check(Part part) =>
        [
            new Piece.Within(
                "fixed",
                [
                    new Piece.Line("bulge", "M-22,18 C-12,34 22,34 32,18 L32,-18 C22,-34 -12,-34 -22,-18 Z"),
                    new Piece.Within(
                        "inner",
                        [
                            new Piece.Line("seat", "M-10,18 L-10,8 M-10,-8 L-10,-18"),
                            new Piece.Stream("flow through", "M-16,0 L30,0"),
                            new Piece.Moving(
                                Motion.Coil,
                                0,
                                [new Piece.Line("coil", "M-4,0 L1,-8 L7,8 L13,-8 L19,8 L28,0")],
                                Way: 28
                            ),
                            new Piece.Moving(Motion.Disc, 0, [new Piece.Line("disc", "M-5,12 L-5,-12")], Way: 12),
                            new Piece.Line("stop", "M29,18 L29,-18"),
                        ]
                    ),
                    new Piece.Caption("name", new TextSpot(4, -62)),
                ],
                NamesPart: true
            ),
        ];

    // The diaphragm hangs under the zone and feels the supply side through its own thin line.
    private ImmutableArray<Piece> Relief(Part part)
    {
        var sense = along[Parts.Cv1] - 34 - along[part.Id];
        var line = F($"M{sense},-18 L{sense},-124 L-26,-124");
        var supply = Chamber(Parts.Cv1);
        return
        [
            new Piece.Within(
                "fixed",
                [
                    new Piece.Line("sense", line),
                    new Piece.Line("sense-water cell", line) { Chamber = supply },
                    new Piece.Line("bulge", "M-16,-18 L-16,-60 L-28,-92 L-28,-136 L28,-136 L28,-92 L16,-60 L16,-18"),
                    new Piece.Within(
                        "inner",
                        [
                            new Piece.Cell(Chamber(part.Id), new("cell", -14, -18, 28, 34)),
                            new Piece.Cell(supply, new("cell", -26, -114, 52, 20)),
                            new Piece.Line("seat", "M-16,-56 L-8,-56 M8,-56 L16,-56"),
                            new Piece.Moving(
                                Motion.Disc,
                                -61,
                                [
                                    new Piece.Line("disc", "M-12,-61 L12,-61"),
                                    new Piece.Line("stem", "M0,-61 L0,-110"),
                                    new Piece.Line("diaphragm", "M-27,-112 C-12,-106 12,-106 27,-112"),
                                ],
                                Way: 11
                            ),
                        ]
                    ),
                    new Piece.Caption("name", new TextSpot(40, -128, "start")),
                    new Piece.Fall(F($"M26,-80 L34,{6 - floor}")),
                ],
                NamesPart: true
            ),
        ];
    }

    // With a vent screw its seat is an inch and a half above the middle, else three.
    private ImmutableArray<Piece> Inlet(Part part)
    {
        var seat = BenchDrawing.CentreLine - BenchDrawing.Level(rig.Has(Parts.VentScrew) ? 1.5 : 3.0);
        var room = new Piece.Block("void", -20, seat - 4, 40, seat - Half - 4);
        return
        [
            new Piece.Within(
                "fixed",
                [
                    room,
                    new Piece.Cell(Chamber(part.Id), room with { Css = "cell" }, HasLevel: true),
                    new Piece.Line("bulge hollow", F($"M-20,18 L-20,{seat} M20,18 L20,{seat}")),
                    new Piece.Line("seat", F($"M-24,{seat} L-10,{seat} M10,{seat} L24,{seat}")),
                    new Piece.Moving(
                        Motion.Disc,
                        seat - 6,
                        [
                            new Piece.Line("disc", F($"M-15,{seat - 6} L15,{seat - 6}")),
                            new Piece.Line("stem", F($"M0,{seat - 6} L0,{seat - 22}")),
                        ],
                        Way: 12
                    ),
                    new Piece.Caption("name", new TextSpot(0, seat + 16)),
                    new Piece.Fall(F($"M-12,{seat + 4} C-30,{seat + 30} -44,{seat + 8} -46,18")) { Unmirrored = true },
                ],
                NamesPart: true
            ),
        ];
    }

    private ImmutableArray<Piece> Screw(Part part) =>
        [
            .. Neck(Chamber(part.Id), Half, 38),
            new Piece.Moving(
                Motion.Screw,
                44,
                [new Piece.Line("handle", "M-13,44 L13,44 M0,44 L0,32") { Unmirrored = true }]
            ),
            new Piece.Caption("small", new TextSpot(0, 66), "vent"),
            new Piece.Fall("M6,38 C24,58 34,40 34,18") { Unmirrored = true },
        ];

    // A tap somewhere behind the assembly.
    private ImmutableArray<Piece> Tap =>
        [
            new Piece.Line("wall", "M0,18 L0,46"),
            new Piece.Moving(Motion.Tap, 50, [new Piece.Line("handle", "M-14,50 L14,50") { Unmirrored = true }]),
            new Piece.Caption("small", new TextSpot(0, 62), "tap"),
            new Piece.Fall(F($"M20,-6 C26,-10 26,-60 26,{6 - floor}")),
        ];

    private static ImmutableArray<Piece> Neck(string chamber, double from, double to, bool beyond = false)
    {
        var room = new Piece.Block("void", -7, to, 14, to - from);
        return
        [
            room,
            new Piece.Cell(chamber, room with { Css = "cell neck" }, Beyond: beyond),
            room with
            {
                Css = "metal-neck",
            },
            new Piece.Line("wall thin", F($"M-7,{from} L-7,{to} M7,{from} L7,{to}")) { Unmirrored = true },
        ];
    }
}
