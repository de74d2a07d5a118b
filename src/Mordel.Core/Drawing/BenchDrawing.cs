using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Drawing;

/// <summary>A place on the bench drawing.</summary>
public readonly record struct Spot(double X, double Y);

/// <summary>
/// The sheet of the bench: where everything is that a hand moves and everything that water moves. Heights agree with
/// each other: what is level on the sheet is level at the rig. An inch is <see cref="PerInch"/> units, but for the inch
/// between the pipe's centre and the cocks' outlets, which is as tall as a cock is drawn. The drawing holds no colour.
/// </summary>
public sealed class BenchDrawing
{
    /// <summary>Units of the drawing to an inch of height.</summary>
    public const double PerInch = 11;

    /// <summary>Room beside a lying assembly for the gauge's height.</summary>
    private const double Rail = 96;

    private const double Slot = 68,
        End = 52,
        Centre = 396;

    // A standing assembly: where its pipe stands on the sheet, room above it, and its parts a little closer together.
    private const double PipeAt = 500,
        Above = 14,
        Closer = 53;

    private BenchDrawing(Rig rig, FlowDirection flow)
    {
        // A vacuum breaker's inlet must be on top: it never stands.
        Stands =
            flow is FlowDirection.Upward or FlowDirection.Downward && rig.Body.Parts.All(p => p.Kind != PartKind.Inlet);
        IsMirrored = flow is FlowDirection.RightToLeft || (Stands && flow == FlowDirection.Downward);
        var parts = Placement.InLine(rig.Body).Length;
        // A short assembly still needs room for the kit above it.
        var length = Stands ? (End * 2) + (Closer * parts) : Math.Max(620, (End * 2) + (Slot * parts));
        Placed = Placement.Even(rig.Body, length, End);
        Outlets = rig
            .Parts.Where(p => p.HasOutlet && p.Kind == PartKind.Cock)
            .ToImmutableDictionary(p => p.Id, p => OnSheet(X(Placed.Along[p.Id]), Centre - BenchShapes.CockTop));
        (PartId Id, double Offset)[] ports =
        [
            (Parts.HighHose, BenchPlate.Sides[0]),
            (Parts.LowHose, BenchPlate.Sides[1]),
            (Parts.BypassHose, BenchPlate.Sides[2]),
        ];
        Ports = ports
            .Where(p => rig.Has(p.Id))
            .ToImmutableDictionary(p => p.Id, p => new Spot(KitAt + p.Offset, BenchPlate.Bottom));
        Shelf = new Dictionary<PartId, Spot>
        {
            [Parts.SightTube] = new(30, ShelfAt),
            [Parts.BleedOff] = new(292, ShelfAt + 16),
        }.ToImmutableDictionary();
    }

    /// <summary>Where a hose or fitting can go, by cock.</summary>
    public ImmutableDictionary<PartId, Spot> Outlets { get; }

    /// <summary>Where the hoses leave the kit.</summary>
    public ImmutableDictionary<PartId, Spot> Ports { get; }

    /// <summary>Where tube and tee lie while they are not fitted.</summary>
    public ImmutableDictionary<PartId, Spot> Shelf { get; }

    /// <summary>Width and height of the sheet.</summary>
    public Spot Size => Stands ? new(PipeAt + 240, Bottom) : new(Length + Rail, Bottom);

    /// <summary>
    /// Whether the assembly stands. The heights of the gauge are then told against the cock in use, which stands an
    /// inch above the middle that they count from.
    /// </summary>
    public bool Stands { get; }

    /// <summary>Height on the sheet of the body's centre line.</summary>
    public static double CentreLine => Centre;

    /// <summary>How far above the centre line a cock's outlet is drawn, which stands an inch above it.</summary>
    public static double FirstInch => BenchShapes.CockTop;

    /// <summary>Where the handle of the gauge's height slides.</summary>
    public double RailAt => Stands ? PipeAt + 190 : Length + (Rail / 2);

    /// <summary>The farthest heights at which the gauge can be held here, inches.</summary>
    public (double Low, double High) Reach => Stands ? (-12, 10) : (-14, 14);

    /// <summary>Where the parts stand along the flow.</summary>
    internal Placement Placed { get; }

    /// <summary>Whether the flow runs from right to left before the assembly is stood up.</summary>
    internal bool IsMirrored { get; }

    /// <summary>The sheet's lower edge.</summary>
    internal double Bottom => Stands ? Above + Length + 60 : 640;

    /// <summary>Height of the shelf.</summary>
    internal double ShelfAt => Bottom - 30;

    /// <summary>The kit's middle.</summary>
    internal double KitAt => Stands ? 172 : Length / 2;

    /// <summary>How far the floor reaches.</summary>
    internal double Floor => Stands ? PipeAt + 150 : Length;

    /// <summary>What turns the drawing of a lying assembly so that it stands, cocks to the left.</summary>
    internal string Turn => $"translate({Frame.N(PipeAt - Centre)} {Frame.N(Above + Length)}) rotate(-90)";

    /// <summary>Whether a point of the sheet is on the cocks' side of a standing pipe.</summary>
    internal static bool IsBeforePipe(Spot spot) => spot.X < PipeAt;

    private double Length => Placed.Length;

    /// <summary>Where a height is on the sheet of a lying assembly.</summary>
    public static double Level(double inches) =>
        inches <= 0 ? Centre - (inches * PerInch)
        : inches <= 1 ? Centre - (inches * FirstInch)
        : Centre - FirstInch - ((inches - 1) * PerInch);

    /// <summary>Draws a rig.</summary>
    /// <param name="rig">The rig.</param>
    /// <param name="flow">Which way the water runs; one that stands is drawn standing, but for a vacuum
    /// breaker.</param>
    /// <param name="svg">The drawing as an SVG element.</param>
    public static BenchDrawing Draw(Rig rig, FlowDirection flow, out string svg)
    {
        ArgumentNullException.ThrowIfNull(rig);
        var drawing = new BenchDrawing(rig, flow);
        svg = new BenchRenderer(rig, drawing).Draw();
        return drawing;
    }

    /// <summary>From the flow's direction to that of the lying drawing.</summary>
    internal double X(double along) => IsMirrored ? Length - along : along;

    /// <summary>
    /// From the drawing of a lying assembly to the sheet: a standing one is turned a quarter to the left, so that cocks
    /// point left.
    /// </summary>
    internal Spot OnSheet(double x, double y) => Stands ? new(PipeAt + y - Centre, Above + Length - x) : new(x, y);
}
