using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>The drawing of a rig that stands still.</summary>
internal sealed class RunRenderer : RigRenderer
{
    private const double Slot = 66,
        End = 46;
    private readonly RigScene scene;
    private readonly Frame frame;
    private readonly Placement placed;
    private readonly Dictionary<PartId, List<int>> marks = [];

    public RunRenderer(RigScene scene)
    {
        this.scene = scene;
        placed = Placement.Even(Rig.Body, (End * 2) + (Slot * Placement.InLine(Rig.Body).Length), End);
        frame = new(scene.Flow, placed.Length);
        Pen = new(frame.At, frame);
        for (var i = 0; i < scene.Now.Length; i++)
            foreach (var part in scene.Now[i].Touches)
                (marks.TryGetValue(part, out var list) ? list : marks[part] = []).Add(i + 1);
    }

    private Rig Rig => scene.State.Rig;

    protected override Pen Pen { get; }

    protected override FlowDirection Flow => scene.Flow;

    protected override bool IsMirrored => Flow == FlowDirection.RightToLeft;

    protected override double Baseline => 8;

    public string Draw()
    {
        var top = scene.ShowKit ? 0 : 286;
        var box = frame.Lies
            ? $"0 {N(top)} {N(frame.Width)} {N(frame.Height - top)}"
            : $"-30 0 {N(frame.Width - top + 30)} {N(frame.Height)}";
        Pen.Raw(
            $"<svg class=\"rig {(frame.Lies ? "lies" : "stands")}\" viewBox=\"{box}\" "
                + $"role=\"{(scene.Touchable ? "group" : "img")}\" aria-label=\"{Pen.Text(scene.Title)}\">"
        );
        DrawChambers();
        DrawEnds();
        foreach (var part in Rig.Body.Parts)
            if (RunShapes.Of(part) is { IsEmpty: false } pieces)
                Group(part, () => Put(part, placed.Along[part.Id], pieces));
        if (scene.ShowKit)
            new KitDrawing(Pen, frame, scene, placed.Along, marks, Group).Draw();
        return Pen.Raw("</svg>").ToString();
    }

    private void DrawChambers()
    {
        foreach (var (chamber, from, to) in placed.Chambers(Rig.Body))
        {
            Pen.Line(
                $"water {Css(scene.Water.In(chamber.Id))}",
                $"M{frame.P(from, -RunShapes.Half)} L{frame.P(to, -RunShapes.Half)} "
                    + $"L{frame.P(to, RunShapes.Half)} L{frame.P(from, RunShapes.Half)} Z"
            );
            if (Runs(chamber))
                Pen.Line("flowing", $"M{frame.P(from + 6, 0)} L{frame.P(to - 6, 0)}");
        }

        foreach (var side in new[] { -RunShapes.Half, RunShapes.Half })
            Pen.Line("wall", $"M{frame.P(0, side)} L{frame.P(frame.Length, side)}");
    }

    private bool Runs(Chamber chamber) =>
        chamber.Ports.Count(p => scene.Water.Running.Contains(p.Part)) >= 2
        || chamber.Ports.Any(p => p.Part == Parts.Supply)
            && chamber.Ports.Any(p => scene.Water.Running.Contains(p.Part));

    private void DrawEnds()
    {
        Pen.Line("arrow", Pen.Points("M8,-48 L46,-48 M36,-41 L46,-48 L36,-55", 0));
        // A bypass line runs where the names of the two ends stand else.
        var bypassed = Rig.Body.Features.BypassLine;
        var (main, site) = (bypassed, frame.Lies) switch
        {
            (true, true) => (new TextSpot(6, 30, "start"), new TextSpot(-6, 30, "end")),
            (true, false) => (new TextSpot(22, 44), new TextSpot(-22, 44)),
            (false, true) => (new TextSpot(12, -76, "start"), new TextSpot(-12, -76, "end")),
            (false, false) => (new TextSpot(22, -74), new TextSpot(-18, -74)),
        };
        Name(0, main, "main", "small");
        Name(frame.Length, site, "site", "small");
        if (bypassed)
            DrawBypassLine();
    }

    // A fire line's bypass runs around the assembly and carries an assembly of its own.
    private void DrawBypassLine()
    {
        Pen.Line(
            "manifold thin",
            $"M{frame.P(14, -RunShapes.Half)} L{frame.P(14, -76)} L{frame.P(frame.Length - 14, -76)} "
                + $"L{frame.P(frame.Length - 14, -RunShapes.Half)}"
        );
        var (x, y) = frame.At(frame.Length / 2, -76);
        Pen.Raw($"<rect class=\"body\" x=\"{N(x - 34)}\" y=\"{N(y - 11)}\" width=\"68\" height=\"22\" rx=\"4\"/>");
        Pen.Word(x, y + 6, "bypass", "small");
    }

    protected override bool Shows(Part part, Piece piece) =>
        piece is Piece.Stream && !scene.Water.Running.Contains(part.Id)
            ? false
            : piece.When switch
            {
                Visible.Open => IsOpen(part),
                Visible.Closed => !IsOpen(part),
                Visible.Running => scene.Water.Running.Contains(part.Id),
                Visible.Dry => !scene.Water.Running.Contains(part.Id),
                _ => true,
            };

    private bool IsOpen(Part part) => part.Kind == PartKind.Inlet ? IsInletOpen(part) : scene.State[part.Id].IsOpen;

    private bool IsInletOpen(Part part)
    {
        static bool Slack(Filling filling) => filling is Filling.Open or Filling.Air;
        // With a vent screw the supply side of the check holds the inlet shut as well.
        var held =
            Rig.Body.Parts.Any(p => p.Kind == PartKind.Screw)
            && !Slack(scene.Water.In(Rig.At(new(Parts.Cv1, "in"))!.Id));
        return Slack(scene.Water.In(Rig.At(new(part.Id, "in"))!.Id)) && !held;
    }

    // A cock's outlet holds what its chamber holds while it is open; closed, what was caught in what is fitted to it.
    protected override string Water(Part part, string port)
    {
        var chamber = scene.Water.In(Rig.At(new(part.Id, "in"))!.Id);
        return port == "in" || scene.State[part.Id].IsOpen ? Css(chamber)
            : scene.State.On(part.Id) is null ? Css(Filling.Air)
            : Css(scene.Water.In($"{part.Id}.out"));
    }

    // A part that is to be turned now carries the number of its instruction.
    protected override void Numbers(Part part, double x, double y)
    {
        if (marks.TryGetValue(part.Id, out var numbers))
            Pen.Mark(numbers, x, y);
    }

    private void Group(Part part, Action draw)
    {
        var now = marks.ContainsKey(part.Id) ? " now" : "";
        var how =
            !part.Turns ? ""
            : scene.State[part.Id].IsOpen ? ", open"
            : ", closed";
        var spoken = Pen.Text(Spoken(part) + how);
        var touch = scene.Touchable ? $" tabindex=\"0\" role=\"button\" aria-label=\"{spoken}\"" : "";
        Pen.Raw($"<g class=\"part{now}\" data-part=\"{part.Id}\"{touch}>");
        if (scene.Touchable)
            Pen.Raw($"<title>{spoken}</title>");
        draw();
        Pen.Raw("</g>");
    }

    private static string Spoken(Part part) =>
        part.Kind switch
        {
            PartKind.Relief => "relief valve",
            PartKind.Inlet => "air inlet",
            _ => part.Label,
        };

    internal static string Css(Filling filling) =>
        filling switch
        {
            Filling.Live => "w-live",
            Filling.Held => "w-held",
            Filling.Open => "w-open",
            _ => "w-air",
        };
}
