using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Text;
using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>A place on the bench drawing.</summary>
public readonly record struct Spot(double X, double Y);

/// <summary>
/// The rig of the bench: everything that a hand moves and everything that water moves is an element of its own with its
/// part's name, so that a screen can set it sixty times a second. Heights agree with each other: what is level on the
/// sheet is level at the rig. An inch is <see cref="PerInch"/> units, but for the inch between the pipe's centre and
/// the cocks' outlets, which is as tall as a cock is drawn. The drawing holds no colour.
/// </summary>
public sealed class BenchDrawing
{
    /// <summary>Units of the drawing to an inch of height.</summary>
    public const double PerInch = 11;

    private const double Slot = 68,
        End = 52,
        Half = 18,
        Rail = 96,
        Centre = 396,
        CockTop = 78,
        Plate = 158;

    // A standing assembly: where its pipe stands on the sheet, room above it, and its parts a little closer together.
    private const double PipeAt = 500,
        Above = 14,
        Closer = 53;

    // Where the kit's three sides stand beside its middle.
    private static readonly double[] Sides = [-100, 0, 100];
    private readonly Rig rig;
    private readonly bool mirrored,
        stands;
    private readonly Dictionary<PartId, double> along = [];
    private readonly double length;
    private readonly StringBuilder falls = new();
    private bool turned;
    private readonly StringBuilder svg = new();

    private BenchDrawing(Rig rig, FlowDirection flow)
    {
        this.rig = rig;
        // A vacuum breaker's inlet must be on top: it never stands.
        stands =
            flow is FlowDirection.Upward or FlowDirection.Downward && rig.Body.Parts.All(p => p.Kind != PartKind.Inlet);
        mirrored = flow is FlowDirection.RightToLeft || (stands && flow == FlowDirection.Downward);
        var parts = rig.Body.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site)).ToList();
        // A short assembly still needs room for the kit above it.
        length = stands ? (End * 2) + (Closer * parts.Count) : Math.Max(620, (End * 2) + (Slot * parts.Count));
        var slot = (length - (End * 2)) / parts.Count;
        for (var i = 0; i < parts.Count; i++)
            along[parts[i].Id] = End + (slot * (i + 0.5));
        Outlets = rig
            .Parts.Where(p => p.HasOutlet && p.Kind == PartKind.Cock)
            .ToImmutableDictionary(p => p.Id, p => OnSheet(X(along[p.Id]), Centre - CockTop));
        (PartId Id, double Offset)[] ports =
        [
            (Parts.HighHose, Sides[0]),
            (Parts.LowHose, Sides[1]),
            (Parts.BypassHose, Sides[2]),
        ];
        Ports = ports
            .Where(p => rig.Has(p.Id))
            .ToImmutableDictionary(p => p.Id, p => new Spot(KitAt + p.Offset, Plate));
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
    public Spot Size => stands ? new(PipeAt + 240, Bottom) : new(length + Rail, Bottom);

    /// <summary>
    /// Whether the assembly stands. The heights of the gauge are then told against the cock in use, which stands an
    /// inch above the middle that they count from.
    /// </summary>
    public bool Stands => stands;

    private double Bottom => stands ? Above + length + 60 : 640;

    private double ShelfAt => Bottom - 30;

    private double KitAt => stands ? 172 : length / 2;

    private double Floor => stands ? PipeAt + 150 : length;

    // From the drawing of a lying assembly to the sheet: a standing one is turned a quarter to the left, so that cocks
    // point left.
    private Spot OnSheet(double x, double y) => stands ? new(PipeAt + y - Centre, Above + length - x) : new(x, y);

    /// <summary>Height on the sheet of the body's centre line.</summary>
    public static double CentreLine => Centre;

    /// <summary>How far above the centre line a cock's outlet is drawn, which stands an inch above it.</summary>
    public static double FirstInch => CockTop;

    /// <summary>Where a height is on the sheet of a lying assembly.</summary>
    public static double Level(double inches) =>
        inches <= 0 ? Centre - (inches * PerInch)
        : inches <= 1 ? Centre - (inches * CockTop)
        : Centre - CockTop - ((inches - 1) * PerInch);

    /// <summary>Where the handle of the gauge's height slides.</summary>
    public double RailAt => stands ? PipeAt + 190 : length + (Rail / 2);

    /// <summary>The farthest heights at which the gauge can be held here, inches.</summary>
    public (double Low, double High) Reach => stands ? (-12, 10) : (-14, 14);

    /// <summary>Draws a rig.</summary>
    /// <param name="rig">The rig.</param>
    /// <param name="flow">Which way the water runs; one that stands is drawn standing, but for a vacuum
    /// breaker.</param>
    /// <param name="svg">The drawing as an SVG element.</param>
    public static BenchDrawing Draw(Rig rig, FlowDirection flow, out string svg)
    {
        ArgumentNullException.ThrowIfNull(rig);
        var drawing = new BenchDrawing(rig, flow);
        svg = drawing.Draw();
        return drawing;
    }

    private double X(double s) => mirrored ? length - s : s;

    private string P(double s, double y) => $"{N(X(s))},{N(y)}";

    private string Draw()
    {
        svg.Append(
            $"<svg class=\"bench-rig\" viewBox=\"0 0 {N(Size.X)} {N(Size.Y)}\" role=\"group\" aria-label=\"The rig\">"
        );
        svg.Append($"<path class=\"floor\" d=\"M0,{N(Bottom - 2)} L{N(Floor)},{N(Bottom - 2)}\"/>");
        // Below the lowest that the gauge can be held at, so that its line crosses neither.
        svg.Append($"<g data-shelf=\"{Parts.SightTube}\">");
        Label(136, ShelfAt + 6, "sight tube", "small", "start");
        svg.Append($"</g><g data-shelf=\"{Parts.BleedOff}\">");
        Label(312, ShelfAt + 6, "bleed-off tee", "small", "start");
        svg.Append("</g>");
        DrawPlate();
        turned = stands;
        if (stands)
            svg.Append($"<g transform=\"translate({N(PipeAt - Centre)} {N(Above + length)}) rotate(-90)\">");
        DrawChambers();
        foreach (var part in rig.Body.Parts)
        {
            switch (part.Kind)
            {
                case PartKind.Shutoff:
                    Valve(part, X(along[part.Id]), Centre, DrawShutoff);
                    break;
                case PartKind.Check:
                    DrawCheck(part);
                    break;
                case PartKind.Relief:
                    DrawRelief(part);
                    break;
                case PartKind.Inlet:
                    DrawInlet(part);
                    break;
                case PartKind.Cock:
                    Valve(part, X(along[part.Id]), Centre - 50, DrawCock);
                    break;
                case PartKind.Screw:
                    Valve(part, X(along[part.Id]), Centre - 44, DrawScrew);
                    break;
                case PartKind.Strainer:
                    Label(X(along[part.Id]), Centre + 48, "strainer", "small");
                    break;
                case PartKind.Site:
                    DrawTap();
                    break;
            }
        }

        if (stands)
            svg.Append("</g>").Append(falls);
        turned = false;
        svg.Append("<g data-fittings=\"\"></g><g data-hoses=\"\"></g>");
        DrawRail();
        return svg.Append("</svg>").ToString();
    }

    private void DrawChambers()
    {
        var cuts = rig
            .Body.Parts.Where(p => p.Kind is PartKind.Shutoff or PartKind.Check)
            .Select(p => along[p.Id])
            .ToList();
        double[] edges = [0, .. cuts, length];
        for (var i = 0; i + 1 < edges.Length; i++)
        {
            var (x, w) = (Math.Min(X(edges[i]), X(edges[i + 1])), edges[i + 1] - edges[i]);
            svg.Append(
                $"<rect class=\"void\" x=\"{N(x)}\" y=\"{N(Centre - Half)}\" width=\"{N(w)}\" "
                    + $"height=\"{N(Half * 2)}\"/><rect class=\"cell\" "
                    + $"data-cell=\"{rig.Body.Chambers[i].Id}\""
                    + $"{(stands ? "" : $" data-top=\"{N(Centre - Half)}\" data-tall=\"{N(Half * 2)}\"")} x=\""
                    + $"{N(x)}\" y=\"{N(Centre - Half)}\" width=\"{N(w)}\" height=\"{N(Half * 2)}\"/>"
            );
            var bounds = rig
                .Body.Chambers[i]
                .Ports.Select(p => rig[p.Part])
                .Where(p => p.Kind is PartKind.Shutoff or PartKind.Check)
                .ToList();
            var leads = i == 0 || rig.At(new(bounds[0].Id, "out"))?.Id == rig.Body.Chambers[i].Id;
            svg.Append(
                $"<path class=\"flow\" data-flow=\"{(leads ? bounds[0].Id : bounds[^1].Id)}\" "
                    + $"d=\"M{P(edges[i] + 8, Centre)} L{P(edges[i + 1] - 8, Centre)}\"/>"
            );
        }

        foreach (var side in new[] { -Half, Half })
            svg.Append($"<path class=\"wall\" d=\"M{P(0, Centre + side)} L{P(length, Centre + side)}\"/>");
        svg.Append(
            $"<path class=\"arrow\" d=\"M{P(10, Centre + 34)} L{P(48, Centre + 34)} M{P(38, Centre + 27)} "
                + $"L{P(48, Centre + 34)} L{P(38, Centre + 41)}\"/>"
        );
        Label(X(29), Centre + 62, "main", "small");
        Label(X(length - 34), Centre + 62, "site", "small");
    }

    private void DrawShutoff(Part part)
    {
        var (x, cell) = (X(along[part.Id]), rig.At(new(part.Id, "in"))!.Id);
        svg.Append(
            $"<circle class=\"body\" cx=\"{N(x)}\" cy=\"{N(Centre)}\" r=\"27\"/><g class=\"inner\" "
                + $"data-bore=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(Centre)}\"><circle class=\"ball\" "
                + $"cx=\"{N(x)}\" cy=\"{N(Centre)}\" r=\"21\"/><rect class=\"void\" x=\"{N(x - 21)}\" "
                + $"y=\"{N(Centre - 8)}\" width=\"42\" height=\"16\"/><rect class=\"cell\" "
                + $"data-cell=\"{cell}\" x=\"{N(x - 21)}\" y=\"{N(Centre - 8)}\" width=\"42\" "
                + $"height=\"16\"/></g>"
        );
        svg.Append(
            $"<g data-handle=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(Centre)}\"><path class=\"handle\" "
                + $"d=\"M{N(x)},{N(Centre)} L{N(x + 44)},{N(Centre)}\"/><circle class=\"boss\" cx=\"{N(x)}\" "
                + $"cy=\"{N(Centre)}\" r=\"7\"/></g>"
        );
        Label(x, Centre + 62, part.Label, "name");
    }

    private void DrawCock(Part part)
    {
        var (x, cell) = (X(along[part.Id]), rig.At(new(part.Id, "in"))!.Id);
        Neck(x, Centre - Half, Centre - 40, cell, part.Id);
        Neck(x, Centre - 60, Centre - CockTop, cell, part.Id, beyond: true);
        svg.Append(
            $"<circle class=\"body\" cx=\"{N(x)}\" cy=\"{N(Centre - 50)}\" r=\"14\"/><g class=\"inner\" "
                + $"data-bore=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(Centre - 50)}\" data-upright=\"1\"><rect "
                + $"class=\"cell\" data-cell=\"{cell}\" x=\"{N(x - 10)}\" y=\"{N(Centre - 54)}\" width=\"20\" "
                + $"height=\"8\"/></g>"
        );
        svg.Append(
            $"<g data-handle=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(Centre - 50)}\" data-upright=\"1\"><path "
                + $"class=\"handle\" d=\"M{N(x)},{N(Centre - 50)} L{N(x + 25)},{N(Centre - 50)}\"/><circle "
                + $"class=\"boss\" cx=\"{N(x)}\" cy=\"{N(Centre - 50)}\" r=\"4.5\"/></g>"
        );
        if (turned)
            Label(x - 33, Centre - 58, part.Label, "name");
        else
            Label(x - 19, Centre - 28, part.Label, "name", "end");
        Fall(
            part.Id,
            $"M{N(x)},{N(Centre - CockTop)} C{N(x)},{N(Centre - CockTop - 46)} "
                + $"{N(x + 30)},{N(Centre - CockTop - 46)} {N(x + 32)},{N(Centre - 26)}"
        );
    }

    private void DrawCheck(Part part)
    {
        var (s, x) = (along[part.Id], X(along[part.Id]));
        var d = mirrored ? -1 : 1;
        svg.Append(
            $"<g class=\"fixed\" data-part=\"{part.Id}\"><path class=\"bulge\" d=\"M{P(s - 22, Centre - Half)} "
                + $"C{P(s - 12, Centre - 34)} {P(s + 22, Centre - 34)} {P(s + 32, Centre - Half)} "
                + $"L{P(s + 32, Centre + Half)} C{P(s + 22, Centre + 34)} {P(s - 12, Centre + 34)} "
                + $"{P(s - 22, Centre + Half)} Z\"/>"
        );
        svg.Append(
            $"<g class=\"inner\"><path class=\"seat\" d=\"M{P(s - 10, Centre - Half)} L{P(s - 10, Centre - 8)} "
                + $"M{P(s - 10, Centre + 8)} L{P(s - 10, Centre + Half)}\"/><path class=\"flow through\" "
                + $"data-flow=\"{part.Id}\" d=\"M{P(s - 16, Centre)} L{P(s + 30, Centre)}\"/>"
        );
        svg.Append(
            $"<g data-coil=\"{part.Id}\" data-x=\"{N(x + (d * 28))}\"><path class=\"coil\" d=\"M{P(s - 4, Centre)} "
                + $"L{P(s + 1, Centre + 8)} L{P(s + 7, Centre - 8)} L{P(s + 13, Centre + 8)} "
                + $"L{P(s + 19, Centre - 8)} L{P(s + 28, Centre)}\"/></g>"
        );
        svg.Append(
            $"<g data-disc=\"{part.Id}\" data-way=\"{d * 12}\"><path class=\"disc\" d=\"M{P(s - 5, Centre - 12)} "
                + $"L{P(s - 5, Centre + 12)}\"/></g><path class=\"stop\" d=\"M{P(s + 29, Centre - Half)} "
                + $"L{P(s + 29, Centre + Half)}\"/></g>"
        );
        Label(x + (d * 4), Centre + 62, part.Label, "name");
        svg.Append("</g>");
    }

    // The diaphragm hangs under the zone and feels the supply side through its own thin line.
    private void DrawRelief(Part part)
    {
        var (s, x) = (along[part.Id], X(along[part.Id]));
        var (zone, supply) = (rig.At(new(part.Id, "in"))!.Id, rig.At(new(Parts.Cv1, "in"))!.Id);
        var sense = along[Parts.Cv1] - 34;
        svg.Append(
            $"<g class=\"fixed\" data-part=\"{part.Id}\"><path class=\"sense\" d=\"M{P(sense, Centre + Half)} "
                + $"L{P(sense, Centre + 124)} L{P(s - 26, Centre + 124)}\"/><path class=\"sense-water cell\" "
                + $"data-cell=\"{supply}\" d=\"M{P(sense, Centre + Half)} L{P(sense, Centre + 124)} "
                + $"L{P(s - 26, Centre + 124)}\"/>"
        );
        svg.Append(
            $"<path class=\"bulge\" d=\"M{P(s - 16, Centre + Half)} L{P(s - 16, Centre + 60)} "
                + $"L{P(s - 28, Centre + 92)} L{P(s - 28, Centre + 136)} L{P(s + 28, Centre + 136)} "
                + $"L{P(s + 28, Centre + 92)} L{P(s + 16, Centre + 60)} L{P(s + 16, Centre + Half)}\"/>"
        );
        svg.Append(
            $"<g class=\"inner\"><rect class=\"cell\" data-cell=\"{zone}\" x=\"{N(x - 14)}\" "
                + $"y=\"{N(Centre + Half)}\" width=\"28\" height=\"34\"/><rect class=\"cell\" data-cell=\"{supply}\" "
                + $"x=\"{N(x - 26)}\" y=\"{N(Centre + 114)}\" width=\"52\" height=\"20\"/>"
        );
        svg.Append(
            $"<path class=\"seat\" d=\"M{P(s - 16, Centre + 56)} L{P(s - 8, Centre + 56)} M{P(s + 8, Centre + 56)} "
                + $"L{P(s + 16, Centre + 56)}\"/><g data-disc=\"{part.Id}\" data-way=\"11\" data-down=\"1\"><path "
                + $"class=\"disc\" d=\"M{P(s - 12, Centre + 61)} L{P(s + 12, Centre + 61)}\"/><path "
                + $"class=\"stem\" d=\"M{P(s, Centre + 61)} L{P(s, Centre + 110)}\"/><path "
                + $"class=\"diaphragm\" d=\"M{P(s - 27, Centre + 112)} C{P(s - 12, Centre + 106)} "
                + $"{P(s + 12, Centre + 106)} {P(s + 27, Centre + 112)}\"/></g></g>"
        );
        Label(x + (mirrored ? -40 : 40), Centre + 128, part.Label, "name", mirrored ? "end" : "start");
        Fall(
            part.Id,
            $"M{N(x + (mirrored ? -26 : 26))},{N(Centre + 80)} L{N(x + (mirrored ? -34 : 34))},{N(Bottom - 6)}"
        );
        svg.Append("</g>");
    }

    private void DrawInlet(Part part)
    {
        var (s, x) = (along[part.Id], X(along[part.Id]));
        var body = rig.At(new(part.Id, "in"))!.Id;
        var top = rig.Has(Parts.VentScrew) ? 1.5 : 3.0;
        var y = Level(top);
        svg.Append(
            $"<g class=\"fixed\" data-part=\"{part.Id}\"><rect class=\"void\" x=\"{N(x - 20)}\" y=\"{N(y + 4)}\" "
                + $"width=\"40\" height=\"{N(Centre - Half - y - 4)}\"/><rect class=\"cell\" data-cell=\"{body}\" "
                + $"data-top=\"{N(y + 4)}\" data-tall=\"{N(Centre - Half - y - 4)}\" x=\"{N(x - 20)}\" "
                + $"y=\"{N(y + 4)}\" width=\"40\" height=\"{N(Centre - Half - y - 4)}\"/><path class=\"bulge "
                + $"hollow\" d=\"M{P(s - 20, Centre - Half)} L{P(s - 20, y)} M{P(s + 20, Centre - Half)} "
                + $"L{P(s + 20, y)}\"/>"
        );
        svg.Append(
            $"<path class=\"seat\" d=\"M{P(s - 24, y)} L{P(s - 10, y)} M{P(s + 10, y)} L{P(s + 24, y)}\"/><g "
                + $"data-disc=\"{part.Id}\" data-way=\"12\" data-down=\"1\"><path class=\"disc\" "
                + $"d=\"M{P(s - 15, y + 6)} L{P(s + 15, y + 6)}\"/><path class=\"stem\" d=\"M{P(s, y + 6)} "
                + $"L{P(s, y + 22)}\"/></g>"
        );
        Label(x, y - 16, part.Label, "name");
        Fall(
            part.Id,
            $"M{N(x - 12)},{N(y - 4)} C{N(x - 30)},{N(y - 30)} {N(x - 44)},{N(y - 8)} {N(x - 46)},{N(Centre - Half)}"
        );
        svg.Append("</g>");
    }

    private void DrawScrew(Part part)
    {
        var x = X(along[part.Id]);
        Neck(x, Centre - Half, Centre - 38, rig.At(new(part.Id, "in"))!.Id, part.Id);
        svg.Append(
            $"<g data-screw=\"{part.Id}\"><path class=\"handle\" d=\"M{N(x - 13)},{N(Centre - 44)} "
                + $"L{N(x + 13)},{N(Centre - 44)} M{N(x)},{N(Centre - 44)} L{N(x)},{N(Centre - 32)}\"/></g>"
        );
        Label(x, Centre - 66, "vent", "small");
        Fall(
            part.Id,
            $"M{N(x + 6)},{N(Centre - 38)} C{N(x + 24)},{N(Centre - 58)} {N(x + 34)},{N(Centre - 40)} "
                + $"{N(x + 34)},{N(Centre - Half)}"
        );
    }

    private void DrawTap()
    {
        var x = X(length - 22);
        svg.Append(
            $"<g class=\"part\" data-part=\"site\" data-tap=\"\" tabindex=\"0\" role=\"switch\" "
                + $"aria-checked=\"false\" aria-label=\"Tap downstream\"><rect class=\"target\" x=\"{N(x - 24)}\" "
                + $"y=\"{N(Centre - 78)}\" width=\"48\" height=\"60\"/><path class=\"wall\" "
                + $"d=\"M{N(x)},{N(Centre - Half)} L{N(x)},{N(Centre - 46)}\"/><g data-tap-handle=\"\"><path "
                + $"class=\"handle\" d=\"M{N(x - 14)},{N(Centre - 50)} L{N(x + 14)},{N(Centre - 50)}\"/></g>"
        );
        Label(x, Centre - 62, "tap", "small");
        svg.Append("</g>");
        Fall(
            Parts.Site,
            $"M{P(length - 2, Centre + 6)} C{P(length + 4, Centre + 10)} {P(length + 4, Centre + 60)} "
                + $"{P(length + 4, Bottom - 6)}"
        );
    }

    // The kit's valves. Its gauge stands beside the drawing, large enough to be read.
    private void DrawPlate()
    {
        var (centre, kit) = (KitAt, rig.Kit);
        svg.Append(
            $"<rect class=\"plate\" x=\"{N(centre - 150)}\" y=\"6\" width=\"356\" height=\"{N(Plate - 6)}\" rx=\"8\"/>"
        );
        var controls = rig.Has(Parts.BypassControl);
        if (controls)
            svg.Append($"<path class=\"manifold\" d=\"M{N(centre + Sides[0])},112 L{N(centre + Sides[2])},112\"/>");
        var bleeds = controls ? 48 : 112;
        (PartId Id, double X, double Y)[] knobs =
        [
            (Parts.HighControl, Sides[0], 112),
            (Parts.LowControl, Sides[1], 112),
            (Parts.BypassControl, Sides[2], 112),
            (Parts.HighBleed, Sides[0], bleeds),
            (Parts.LowBleed, Sides[1], bleeds),
        ];
        for (var i = 0; i < (controls ? 3 : 2); i++)
            svg.Append(
                $"<path class=\"manifold thin\" d=\"M{N(centre + Sides[i])},{N(kit.HasBleeds && i < 2 ? 48 : 112)} "
                    + $"L{N(centre + Sides[i])},{N(Plate)}\"/>"
            );
        foreach (var (id, x, y) in knobs.Where(k => rig.Has(k.Id)))
            Valve(rig[id], centre + x, y, p => Knob(p, centre + x, y));
    }

    private void Knob(Part part, double x, double y)
    {
        var bleed = part.Kind == PartKind.Bleed;
        svg.Append(
            $"<g data-knob=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(y)}\"><circle class=\"knob\" cx=\"{N(x)}\" "
                + $"cy=\"{N(y)}\" r=\"{(bleed ? 18 : 21)}\"/><path class=\"mark-line\" d=\"M{N(x)},{N(y)} "
                + $"L{N(x)},{N(y - (bleed ? 15 : 18))}\"/></g>"
        );
        Label(
            x + (bleed ? 24 : 27),
            y + (bleed ? 0 : 26),
            bleed ? "bleed" : part.Label.Split(' ')[0],
            "small",
            "start"
        );
        if (bleed)
            Fall(
                part.Id,
                $"M{N(x + 18)},{N(y + 4)} C{N(x + 34)},{N(y + 8)} {N(x + 34)},{N(y + 24)} {N(x + 34)},{N(y + 52)}"
            );
    }

    // The gauge's height, true to scale, with a line across to what it is level with. Beside a standing assembly the
    // rail goes along with the cock in use.
    private void DrawRail()
    {
        double At(double inches) => stands ? -(inches - 1) * PerInch : Level(inches);
        var (x, top, bottom, middle) = (RailAt, At(Reach.High), At(Reach.Low), At(0));
        svg.Append($"<g data-rail=\"\"><path class=\"rail\" d=\"M{N(x)},{N(top)} L{N(x)},{N(bottom)}\"/>");
        for (var i = (int)Reach.Low; i <= Reach.High; i += 2)
            svg.Append($"<path class=\"tick\" d=\"M{N(x - (i % 12 == 0 ? 12 : 6))},{N(At(i))} L{N(x)},{N(At(i))}\"/>");
        Label(x, top - (stands ? 50 : 26), "gauge", "small");
        Label(x, top - (stands ? 32 : 8), "height", "small");
        svg.Append(
            $"<g class=\"part\" data-part=\"height\" data-height=\"\" tabindex=\"0\" role=\"slider\" "
                + $"aria-orientation=\"vertical\" aria-label=\"Gauge height, inches above "
                + $"{(stands ? "an inch below the cock in use" : "the body's centre")}\" "
                + $"aria-valuemin=\"{N(Reach.Low)}\" aria-valuemax=\"{N(Reach.High)}\"><path class=\"level\" "
                + $"d=\"M4,{N(middle)} L{N(x - 26)},{N(middle)}\"/><rect class=\"target\" "
                + $"x=\"{N(x - 40)}\" y=\"{N(middle - 30)}\" width=\"80\" height=\"60\"/><circle "
                + $"class=\"grip\" cx=\"{N(x)}\" cy=\"{N(middle)}\" r=\"24\"/><path "
                + $"class=\"needle\" d=\"M{N(x - 8)},{N(middle + 8)} "
                + $"L{N(x + 11)},{N(middle - 11)}\"/></g></g>"
        );
    }

    private void Valve(Part part, double x, double y, Action<Part> draw)
    {
        var shutoff = part.Kind == PartKind.Shutoff;
        svg.Append(
            $"<g class=\"part\" data-part=\"{part.Id}\" tabindex=\"0\" role=\"slider\" "
                + $"aria-label=\"{Text(part.Label)}\" aria-valuemin=\"0\" aria-valuemax=\"100\" aria-valuenow=\"0\">"
        );
        svg.Append(
            $"<rect class=\"target\" x=\"{N(x - 31)}\" y=\"{N(y - (shutoff ? 31 : 30))}\" width=\"62\" "
                + $"height=\"{(shutoff ? 78 : 60)}\"/>"
        );
        draw(part);
        svg.Append("</g>");
    }

    private void Neck(double x, double from, double to, string cell, PartId part, bool beyond = false) =>
        svg.Append(
            $"<rect class=\"void\" x=\"{N(x - 7)}\" y=\"{N(to)}\" width=\"14\" height=\"{N(from - to)}\"/><rect "
                + $"class=\"cell neck\" data-cell=\"{cell}\"{(beyond ? $" data-beyond=\"{part}\"" : "")} "
                + $"x=\"{N(x - 7)}\" y=\"{N(to)}\" width=\"14\" height=\"{N(from - to)}\"/><rect "
                + $"class=\"metal-neck\" x=\"{N(x - 7)}\" y=\"{N(to)}\" width=\"14\" "
                + $"height=\"{N(from - to)}\"/><path class=\"wall thin\" d=\"M{N(x - 7)},{N(from)} "
                + $"L{N(x - 7)},{N(to)} M{N(x + 7)},{N(from)} L{N(x + 7)},{N(to)}\"/>"
        );

    // Water falls down, however the assembly lies: of a standing one it runs off beside the pipe.
    private void Fall(PartId part, string path)
    {
        if (turned)
        {
            var start = path[1..path.IndexOf(' ', StringComparison.Ordinal)].Split(',');
            var from = OnSheet(
                double.Parse(start[0], CultureInfo.InvariantCulture),
                double.Parse(start[1], CultureInfo.InvariantCulture)
            );
            var away = from.X < PipeAt ? -1 : 1;
            falls.Append(
                $"<g class=\"spill\" data-spill=\"{part}\"><path class=\"jet\" d=\"M{N(from.X)},{N(from.Y)} "
                    + $"C{N(from.X + (away * 12))},{N(from.Y - 4)} {N(from.X + (away * 24))},{N(from.Y + 8)} "
                    + $"{N(from.X + (away * 26))},{N(from.Y + 40)} "
                    + $"L{N(from.X + (away * 28))},{N(Bottom - 6)}\"/><circle class=\"bead\" r=\"3.5\"/></g>"
            );
            return;
        }

        svg.Append(
            $"<g class=\"spill\" data-spill=\"{part}\"><path class=\"jet\" d=\"{path}\"/><circle class=\"bead\" "
                + $"r=\"3.5\"/></g>"
        );
    }

    // Letters stand upright, whatever is turned.
    private void Label(double x, double y, string text, string css, string anchor = "middle") =>
        svg.Append(
            $"<text class=\"{css}\"{(turned ? $" transform=\"rotate(90 {N(x)} {N(y)})\"" : "")} x=\"{N(x)}\" "
                + $"y=\"{N(y)}\" text-anchor=\"{anchor}\">{Text(text)}</text>"
        );

    private static string Text(string text) => WebUtility.HtmlEncode(text);
}
