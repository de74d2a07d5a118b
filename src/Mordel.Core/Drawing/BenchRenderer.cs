using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>
/// The drawing of a rig that lives: everything that moves is an element of its own that names its part, and says about
/// which point it turns or how far it goes.
/// </summary>
internal sealed class BenchRenderer : RigRenderer
{
    private readonly Rig rig;
    private readonly BenchDrawing sheet;
    private readonly BenchShapes shapes;
    private readonly StringBuilder falls = new();

    public BenchRenderer(Rig rig, BenchDrawing sheet)
    {
        (this.rig, this.sheet) = (rig, sheet);
        shapes = new(rig, sheet.Placed.Along, sheet.Bottom - BenchDrawing.CentreLine);
        Pen = new((along, outward) => (sheet.X(along), BenchDrawing.CentreLine - outward));
    }

    protected override Pen Pen { get; }

    // Letters of a standing assembly have spots of their own.
    protected override FlowDirection Flow =>
        sheet.Stands ? FlowDirection.Upward
        : sheet.IsMirrored ? FlowDirection.RightToLeft
        : FlowDirection.LeftToRight;

    protected override bool IsMirrored => sheet.IsMirrored;

    public string Draw()
    {
        var size = sheet.Size;
        Pen.Raw(
            $"<svg class=\"bench-rig\" viewBox=\"0 0 {N(size.X)} {N(size.Y)}\" role=\"group\" aria-label=\"The rig\">"
        );
        Pen.Line("floor", $"M0,{N(sheet.Bottom - 2)} L{N(sheet.Floor)},{N(sheet.Bottom - 2)}");
        DrawShelf();
        var plate = new BenchPlate(Pen, rig, sheet, Falls);
        plate.Draw();
        Pen.IsTurned = sheet.Stands;
        if (sheet.Stands)
            Pen.Raw($"<g transform=\"{sheet.Turn}\">");
        DrawChambers();
        foreach (var part in rig.Body.Parts)
            DrawPart(part);
        if (sheet.Stands)
            Pen.Raw("</g>").Raw(falls.ToString());
        Pen.IsTurned = false;
        Pen.Raw("<g data-fittings=\"\"></g><g data-hoses=\"\"></g>");
        plate.DrawRail();
        return Pen.Raw("</svg>").ToString();
    }

    // Below the lowest that the gauge can be held at, so that its line crosses neither.
    private void DrawShelf()
    {
        Pen.Raw($"<g data-shelf=\"{Parts.SightTube}\">");
        Pen.Word(136, sheet.ShelfAt + 6, "sight tube", "small", "start");
        Pen.Raw($"</g><g data-shelf=\"{Parts.BleedOff}\">");
        Pen.Word(312, sheet.ShelfAt + 6, "bleed-off tee", "small", "start");
        Pen.Raw("</g>");
    }

    private void DrawChambers()
    {
        var first = true;
        foreach (var (chamber, from, to) in sheet.Placed.Chambers(rig.Body))
        {
            var room = new Piece.Block("void", from, BenchShapes.Half, to - from, BenchShapes.Half * 2);
            var bounds = chamber
                .Ports.Select(p => rig[p.Part])
                .Where(p => p.Kind is PartKind.Shutoff or PartKind.Check)
                .ToList();
            Put(bounds[0], 0, [room, new Piece.Cell(chamber.Id, room with { Css = "cell" }, HasLevel: !sheet.Stands)]);
            var leads = first || rig.At(new(bounds[0].Id, "out"))?.Id == chamber.Id;
            Put(
                leads ? bounds[0] : bounds[^1],
                0,
                [new Piece.Stream("flow", FormattableString.Invariant($"M{from + 8},0 L{to - 8},0"))]
            );
            first = false;
        }

        foreach (var side in new[] { BenchShapes.Half, -BenchShapes.Half })
            Pen.Line("wall", Pen.Points(FormattableString.Invariant($"M0,{side} L{sheet.Placed.Length},{side}"), 0));
        Pen.Line("arrow", Pen.Points("M10,-34 L48,-34 M38,-27 L48,-34 L38,-41", 0));
        Name(0, new(29, -62), "main", "small");
        Name(sheet.Placed.Length, new(-34, -62), "site", "small");
    }

    private void DrawPart(Part part)
    {
        var pieces = shapes.Of(part);
        if (part.Kind == PartKind.Site)
        {
            DrawTap(part, pieces);
            return;
        }

        if (pieces.IsEmpty)
            return;
        var along = sheet.Placed.Along[part.Id];
        if (part.Turns)
            Slider(Pen, part, sheet.X(along), BenchDrawing.CentreLine - MiddleOf(part));
        Put(part, along, pieces);
        if (part.Turns)
            Pen.Raw("</g>");
    }

    // How far out the middle is that a hand takes hold of.
    private static double MiddleOf(Part part) =>
        part.Kind switch
        {
            PartKind.Cock => 50,
            PartKind.Screw => 44,
            _ => 0,
        };

    private void DrawTap(Part part, ImmutableArray<Piece> pieces)
    {
        var along = sheet.Placed.Length - 22;
        Pen.Raw(
            "<g class=\"part\" data-part=\"site\" data-tap=\"\" tabindex=\"0\" role=\"switch\" "
                + "aria-checked=\"false\" aria-label=\"Tap downstream\">"
        );
        Pen.Block("target", sheet.X(along) - 24, BenchDrawing.CentreLine - 78, 48, 60);
        Put(part, along, [.. pieces.Where(p => p is not Piece.Fall)]);
        Pen.Raw("</g>");
        Put(part, along, [.. pieces.Where(p => p is Piece.Fall)]);
    }

    /// <summary>Begins a valve that a hand turns, with room for a finger.</summary>
    public static void Slider(Pen pen, Part part, double x, double y)
    {
        var shutoff = part.Kind == PartKind.Shutoff;
        pen.Raw(
            $"<g class=\"part\" data-part=\"{part.Id}\" tabindex=\"0\" role=\"slider\" "
                + $"aria-label=\"{Pen.Text(part.Label)}\" aria-valuemin=\"0\" aria-valuemax=\"100\" "
                + "aria-valuenow=\"0\">"
        );
        pen.Block("target", x - 31, y - (shutoff ? 31 : 30), 62, shutoff ? 78 : 60);
    }

    protected override bool Shows(Part part, Piece piece) => true;

    protected override string Streams(Part part) => $" data-flow=\"{part.Id}\"";

    protected override string Cell(Part part, double along, Piece.Cell cell)
    {
        var beyond = cell.Beyond ? $" data-beyond=\"{part.Id}\"" : "";
        var level = cell.HasLevel
            ? $" data-top=\"{N(BenchDrawing.CentreLine - cell.At.Outward)}\" data-tall=\"{N(cell.At.Tall)}\""
            : "";
        return $" data-cell=\"{cell.Chamber}\"{beyond}{level}";
    }

    protected override string Moves(Part part, Piece.Moving moving, double x, double y)
    {
        var about = $" data-x=\"{N(x)}\" data-y=\"{N(y)}\"{(part.Kind == PartKind.Cock ? " data-upright=\"1\"" : "")}";
        var way = sheet.IsMirrored ? -moving.Way : moving.Way;
        return moving.How switch
        {
            Motion.Bore => $"<g class=\"inner\" data-bore=\"{part.Id}\"{about}>",
            Motion.Handle => $"<g data-handle=\"{part.Id}\"{about}>",
            Motion.Screw => $"<g data-screw=\"{part.Id}\">",
            Motion.Tap => "<g data-tap-handle=\"\">",
            Motion.Coil => $"<g data-coil=\"{part.Id}\" data-x=\"{N(x + way)}\">",
            _ when part.Kind == PartKind.Check => $"<g data-disc=\"{part.Id}\" data-way=\"{N(way)}\">",
            _ => $"<g data-disc=\"{part.Id}\" data-way=\"{N(moving.Way)}\" data-down=\"1\">",
        };
    }

    // Water falls down, however the assembly lies: of a standing one it runs off beside the pipe.
    protected override void Falls(Part part, string path)
    {
        if (!Pen.IsTurned)
        {
            Pen.Raw(Spill(part, path));
            return;
        }

        var start = path[1..path.IndexOf(' ', StringComparison.Ordinal)].Split(',');
        var from = sheet.OnSheet(
            double.Parse(start[0], CultureInfo.InvariantCulture),
            double.Parse(start[1], CultureInfo.InvariantCulture)
        );
        var away = BenchDrawing.IsBeforePipe(from) ? -1 : 1;
        falls.Append(
            Spill(
                part,
                $"M{N(from.X)},{N(from.Y)} C{N(from.X + (away * 12))},{N(from.Y - 4)} "
                    + $"{N(from.X + (away * 24))},{N(from.Y + 8)} {N(from.X + (away * 26))},{N(from.Y + 40)} "
                    + $"L{N(from.X + (away * 28))},{N(sheet.Bottom - 6)}"
            )
        );
    }

    private static string Spill(Part part, string path) =>
        $"<g class=\"spill\" data-spill=\"{part.Id}\"><path class=\"jet\" d=\"{path}\"/><circle class=\"bead\" "
        + "r=\"3.5\"/></g>";
}
