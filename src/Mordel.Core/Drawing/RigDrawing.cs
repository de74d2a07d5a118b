using System.Collections.Immutable;
using System.Net;
using System.Text;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>What is to be drawn.</summary>
/// <param name="State">The rig as it stands.</param>
/// <param name="Water">Where the water is.</param>
/// <param name="Flow">How the assembly lies.</param>
/// <param name="Now">The instructions of the step at hand: the parts to turn, in order, are marked with their
/// number.</param>
/// <param name="ShowKit">Whether kit and hoses are drawn.</param>
/// <param name="Touchable">Whether parts can be touched.</param>
/// <param name="Title">What the drawing is, for those who cannot see it.</param>
public sealed record RigScene(
    RigState State,
    WaterSketch Water,
    FlowDirection Flow,
    ImmutableArray<Instruction> Now,
    bool ShowKit,
    bool Touchable,
    string Title
);

/// <summary>
/// Draws a rig as SVG from its model: pipe and chambers in flow order, a bar for a closed valve and a gap for an open
/// one, hoses by letter and line. Colours and strokes come from style classes; the drawing holds none.
/// </summary>
public sealed class RigDrawing
{
    private const double Slot = 66,
        End = 46,
        Half = 17,
        CockTop = 78;
    private readonly RigScene scene;
    private readonly Frame frame;
    private readonly Dictionary<PartId, double> along = [];
    private readonly Dictionary<PartId, List<int>> marks = [];
    private readonly StringBuilder svg = new();

    private RigDrawing(RigScene scene)
    {
        this.scene = scene;
        var flow = scene.State.Rig.Body.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site)).ToList();
        for (var i = 0; i < flow.Count; i++)
            along[flow[i].Id] = End + Slot * (i + 0.5);
        frame = new(scene.Flow, End * 2 + Slot * flow.Count);
        for (var i = 0; i < scene.Now.Length; i++)
            foreach (var part in scene.Now[i].Touches)
                (marks.TryGetValue(part, out var list) ? list : marks[part] = []).Add(i + 1);
    }

    private Rig Rig => scene.State.Rig;

    /// <summary>The drawing as an SVG element.</summary>
    public static string Draw(RigScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return new RigDrawing(scene).Draw();
    }

    private string Draw()
    {
        var top = scene.ShowKit ? 0 : 286;
        var box = frame.Lies
            ? $"0 {N(top)} {N(frame.Width)} {N(frame.Height - top)}"
            : $"-30 0 {N(frame.Width - top + 30)} {N(frame.Height)}";
        svg.Append(
            $"<svg class=\"rig {(frame.Lies ? "lies" : "stands")}\" viewBox=\"{box}\" "
                + $"role=\"{(scene.Touchable ? "group" : "img")}\" aria-label=\"{Text(scene.Title)}\">"
        );
        DrawChambers();
        DrawArrow();
        DrawBypassLine();
        foreach (var part in Rig.Body.Parts)
        {
            switch (part.Kind)
            {
                case PartKind.Shutoff:
                    Group(part, DrawShutoff);
                    break;
                case PartKind.Check:
                    Group(part, DrawCheck);
                    break;
                case PartKind.Cock:
                    Group(part, DrawCock);
                    break;
                case PartKind.Relief:
                    Group(part, DrawRelief);
                    break;
                case PartKind.Inlet:
                    Group(part, DrawInlet);
                    break;
                case PartKind.Screw:
                    Group(part, DrawScrew);
                    break;
                case PartKind.Strainer:
                    Group(part, DrawStrainer);
                    break;
            }
        }

        if (scene.ShowKit)
            new KitDrawing(svg, frame, scene, along, marks, Group, Mark).Draw();
        return svg.Append("</svg>").ToString();
    }

    private void DrawChambers()
    {
        var cuts = Rig
            .Body.Parts.Where(p => p.Kind is PartKind.Shutoff or PartKind.Check)
            .Select(p => along[p.Id])
            .ToList();
        double[] edges = [0, .. cuts, frame.Length];
        for (var i = 0; i + 1 < edges.Length; i++)
        {
            var chamber = Rig.Body.Chambers[i];
            svg.Append(
                $"<path class=\"water {Water(chamber.Id)}\" d=\"M{frame.P(edges[i], -Half)} "
                    + $"L{frame.P(edges[i + 1], -Half)} L{frame.P(edges[i + 1], Half)} L{frame.P(edges[i], Half)} Z\"/>"
            );
            if (Runs(chamber))
                svg.Append(
                    $"<path class=\"flowing\" d=\"M{frame.P(edges[i] + 6, 0)} L{frame.P(edges[i + 1] - 6, 0)}\"/>"
                );
        }

        foreach (var side in new[] { -Half, Half })
            svg.Append($"<path class=\"wall\" d=\"M{frame.P(0, side)} L{frame.P(frame.Length, side)}\"/>");
    }

    private bool Runs(Chamber chamber) =>
        chamber.Ports.Count(p => scene.Water.Running.Contains(p.Part)) >= 2
        || chamber.Ports.Any(p => p.Part == Parts.Supply)
            && chamber.Ports.Any(p => scene.Water.Running.Contains(p.Part));

    private void DrawArrow()
    {
        svg.Append(
            $"<path class=\"arrow\" d=\"M{frame.P(8, -48)} L{frame.P(46, -48)} M{frame.P(36, -41)} "
                + $"L{frame.P(46, -48)} L{frame.P(36, -55)}\"/>"
        );
        Label(frame.Lies ? 12 : 22, frame.Lies ? -76 : -74, "main", "small", frame.Lies ? "start" : "middle");
        Label(
            frame.Length - (frame.Lies ? 12 : 18),
            frame.Lies ? -76 : -74,
            "site",
            "small",
            frame.Lies ? "end" : "middle"
        );
    }

    private void DrawShutoff(Part part)
    {
        var (s, open) = (along[part.Id], scene.State[part.Id].IsOpen);
        var (x, y) = frame.At(s, 0);
        svg.Append($"<circle class=\"body\" cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"25\"/>");
        if (open)
            svg.Append(
                $"<path class=\"water {Water(Rig.At(new(part.Id, "in"))!.Id)}\" d=\"M{frame.P(s - 24, -9)} "
                    + $"L{frame.P(s + 24, -9)} L{frame.P(s + 24, 9)} L{frame.P(s - 24, 9)} Z\"/><path class=\"wall "
                    + $"thin\" d=\"M{frame.P(s - 23, -9)} L{frame.P(s + 23, -9)} M{frame.P(s - 23, 9)} "
                    + $"L{frame.P(s + 23, 9)}\"/>"
            );
        else
            svg.Append($"<path class=\"bar\" d=\"M{frame.P(s, -22)} L{frame.P(s, 22)}\"/>");
        // The handle lies along the pipe when open and across it when closed.
        svg.Append(
            open
                ? $"<path class=\"handle\" d=\"M{frame.P(s, 25)} L{frame.P(s, 34)} L{frame.P(s + 26, 34)}\"/>"
                : $"<path class=\"handle\" d=\"M{frame.P(s, 25)} L{frame.P(s, 54)}\"/>"
        );
        Label(s, -48, part.Label, "name");
        if (frame.Lies)
            Mark(part.Id, s + 46, -48);
        else
            Mark(part.Id, s, 74);
    }

    private void DrawCheck(Part part)
    {
        var s = along[part.Id];
        svg.Append(
            $"<path class=\"seat\" d=\"M{frame.P(s - 8, -Half)} L{frame.P(s - 8, -7)} M{frame.P(s - 8, 7)} "
                + $"L{frame.P(s - 8, Half)}\"/>"
        );
        svg.Append($"<path class=\"disc\" d=\"M{frame.P(s - 3, -11)} L{frame.P(s - 3, 11)}\"/>");
        svg.Append(
            $"<path class=\"spring\" d=\"M{frame.P(s - 3, 0)} L{frame.P(s + 3, 7)} L{frame.P(s + 9, -7)} "
                + $"L{frame.P(s + 15, 7)} L{frame.P(s + 21, -7)} L{frame.P(s + 25, 0)}\"/>"
        );
        svg.Append($"<path class=\"stop\" d=\"M{frame.P(s + 26, -Half)} L{frame.P(s + 26, Half)}\"/>");
        Label(s + 6, -48, part.Label, "name");
    }

    private void DrawCock(Part part)
    {
        var (s, open) = (along[part.Id], scene.State[part.Id].IsOpen);
        var chamber = Rig.At(new(part.Id, "in"))!.Id;
        var beyond =
            scene.State.On(part.Id) is null ? (open ? Water(chamber) : "w-air")
            : open ? Water(chamber)
            : Css(scene.Water.In($"{part.Id}.out"));
        Neck(s, Half, 44, Water(chamber));
        Neck(s, 44, CockTop, beyond);
        svg.Append(
            open
                ? $"<path class=\"handle\" d=\"M{frame.P(s - 11, 34)} L{frame.P(s - 11, 56)}\"/>"
                : $"<path class=\"bar\" d=\"M{frame.P(s - 13, 44)} L{frame.P(s + 13, 44)}\"/><path "
                    + $"class=\"handle\" d=\"M{frame.P(s - 22, 44)} L{frame.P(s - 13, 44)}\"/>"
        );
        if (open && scene.Water.Running.Contains(part.Id))
            svg.Append($"<path class=\"flowing\" d=\"M{frame.P(s, Half)} L{frame.P(s, CockTop)}\"/>");
        var upright = frame.Lies
            ? (s + 14, 62d, "start")
            : (frame.Flow == FlowDirection.Upward ? s - 22 : s + 22, 46d, "middle");
        Label(upright.Item1, upright.Item2, part.Label, "name", upright.Item3);
        if (frame.Lies)
            Mark(part.Id, s - 30, 68);
        else
            Mark(part.Id, frame.Flow == FlowDirection.Upward ? s + 26 : s - 26, 62);
    }

    // The relief hangs under the zone; its port is open below.
    private void DrawRelief(Part part)
    {
        var (s, runs) = (along[part.Id], scene.Water.Running.Contains(part.Id));
        svg.Append(
            $"<path class=\"water {Water(Rig.At(new(part.Id, "in"))!.Id)}\" d=\"M{frame.P(s - 12, -Half)} "
                + $"L{frame.P(s - 12, -34)} L{frame.P(s + 12, -34)} L{frame.P(s + 12, -Half)} Z\"/>"
        );
        svg.Append(
            $"<path class=\"wall thin\" d=\"M{frame.P(s - 12, -Half)} L{frame.P(s - 12, -40)} "
                + $"L{frame.P(s - 20, -58)} M{frame.P(s + 12, -Half)} L{frame.P(s + 12, -40)} "
                + $"L{frame.P(s + 20, -58)}\"/>"
        );
        svg.Append(
            runs
                ? $"<path class=\"gap\" d=\"M{frame.P(s - 12, -38)} L{frame.P(s - 4, -44)} M{frame.P(s + 12, -38)} "
                    + $"L{frame.P(s + 4, -44)}\"/><path class=\"drop\" d=\"M{frame.P(s, -48)} L{frame.P(s, -82)}\"/>"
                : $"<path class=\"bar\" d=\"M{frame.P(s - 14, -38)} L{frame.P(s + 14, -38)}\"/>"
        );
        Label(frame.Lies ? s - 22 : s, frame.Lies ? -50 : -74, part.Label, "name", frame.Lies ? "end" : "middle");
    }

    // The air inlet sits on top of the body under its canopy.
    private void DrawInlet(Part part)
    {
        var (s, space) = (along[part.Id], Rig.At(new(part.Id, "in"))!.Id);
        static bool Slack(Filling filling) => filling is Filling.Open or Filling.Air;
        // With a vent screw the supply side of the check holds the inlet shut as well.
        var held =
            Rig.Body.Parts.Any(p => p.Kind == PartKind.Screw)
            && !Slack(scene.Water.In(Rig.At(new(Parts.Cv1, "in"))!.Id));
        var open = Slack(scene.Water.In(space)) && !held;
        svg.Append(
            $"<path class=\"water {Water(space)}\" d=\"M{frame.P(s - 20, Half)} L{frame.P(s - 20, 40)} "
                + $"L{frame.P(s + 20, 40)} L{frame.P(s + 20, Half)} Z\"/>"
        );
        svg.Append(
            $"<path class=\"wall thin\" d=\"M{frame.P(s - 20, Half)} L{frame.P(s - 20, 46)} L{frame.P(s - 10, 46)} "
                + $"M{frame.P(s + 20, Half)} L{frame.P(s + 20, 46)} L{frame.P(s + 10, 46)}\"/>"
        );
        var disc = open ? 34 : 43;
        svg.Append(
            $"<path class=\"disc\" d=\"M{frame.P(s - 13, disc)} L{frame.P(s + 13, disc)}\"/><path class=\"wall "
                + $"thin\" d=\"M{frame.P(s - 30, 54)} L{frame.P(s - 18, 68)} L{frame.P(s + 18, 68)} "
                + $"L{frame.P(s + 30, 54)}\"/>"
        );
        Label(s, frame.Lies ? 88 : 92, part.Label, "name");
        Mark(part.Id, s + 40, 88);
    }

    private void DrawScrew(Part part)
    {
        var (s, open) = (along[part.Id], scene.State[part.Id].IsOpen);
        Neck(s, Half, 38, Water(Rig.At(new(part.Id, "in"))!.Id));
        svg.Append(
            open
                ? $"<path class=\"handle\" d=\"M{frame.P(s - 12, 58)} L{frame.P(s + 12, 58)}\"/><path "
                    + $"class=\"drop\" d=\"M{frame.P(s + 10, 40)} L{frame.P(s + 18, 24)}\"/>"
                : $"<path class=\"bar\" d=\"M{frame.P(s - 12, 40)} L{frame.P(s + 12, 40)}\"/><path "
                    + $"class=\"handle\" d=\"M{frame.P(s - 7, 46)} L{frame.P(s + 7, 46)}\"/>"
        );
        Label(s, frame.Lies ? 74 : 92, frame.Lies ? part.Label : "screw", "small");
        Mark(part.Id, s + 34, 52);
    }

    private void DrawStrainer(Part part)
    {
        var s = along[part.Id];
        svg.Append(
            $"<path class=\"wall thin\" d=\"M{frame.P(s - 6, -Half)} L{frame.P(s + 12, -44)} "
                + $"L{frame.P(s + 26, -34)} L{frame.P(s + 12, -Half)}\"/><path class=\"spring\" "
                + $"d=\"M{frame.P(s + 2, -20)} L{frame.P(s + 18, -40)}\"/>"
        );
        Label(
            frame.Lies ? s + 4 : s + (frame.Flow == FlowDirection.Upward ? -18 : 34),
            frame.Lies ? -66 : -62,
            "strainer",
            "small"
        );
    }

    // A fire line's bypass runs around the assembly and carries an assembly of its own.
    private void DrawBypassLine()
    {
        if (!Rig.Body.Features.BypassLine)
            return;
        svg.Append(
            $"<path class=\"manifold thin\" d=\"M{frame.P(14, -Half)} L{frame.P(14, -80)} "
                + $"L{frame.P(frame.Length - 14, -80)} L{frame.P(frame.Length - 14, -Half)}\"/>"
        );
        var (x, y) = frame.At(frame.Length / 2, -80);
        svg.Append(
            $"<rect class=\"body\" x=\"{N(x - 34)}\" y=\"{N(y - 12)}\" width=\"68\" height=\"24\" rx=\"4\"/><text "
                + $"class=\"small\" x=\"{N(x)}\" y=\"{N(y + 6)}\" text-anchor=\"middle\">bypass</text>"
        );
    }

    private void Neck(double s, double from, double to, string water) =>
        svg.Append(
            $"<path class=\"water {water}\" d=\"M{frame.P(s - 7, from)} L{frame.P(s - 7, to)} "
                + $"L{frame.P(s + 7, to)} L{frame.P(s + 7, from)} Z\"/>"
                + $"<path class=\"wall thin\" d=\"M{frame.P(s - 7, from)} L{frame.P(s - 7, to)} "
                + $"M{frame.P(s + 7, from)} L{frame.P(s + 7, to)}\"/>"
        );

    // A part that is to be turned now carries the number of its instruction.
    private void Mark(PartId part, double s, double outward)
    {
        if (!marks.TryGetValue(part, out var numbers))
            return;
        var (x, y) = frame.At(s, outward);
        MarkAt(svg, numbers, x, y);
    }

    internal static void MarkAt(StringBuilder svg, List<int> numbers, double x, double y)
    {
        var text = string.Join("·", numbers);
        var wide = 15 + 6 * (text.Length - 1);
        svg.Append(
            $"<rect class=\"mark\" x=\"{N(x - wide)}\" y=\"{N(y - 15)}\" width=\"{N(wide * 2)}\" height=\"30\" "
                + $"rx=\"15\"/><text class=\"mark-text\" x=\"{N(x)}\" y=\"{N(y + 7)}\" "
                + $"text-anchor=\"middle\">{text}</text>"
        );
    }

    private void Label(double s, double outward, string text, string css, string anchor = "middle")
    {
        var (x, y) = frame.At(s, outward);
        if (frame.Flow == FlowDirection.RightToLeft)
            anchor = anchor switch
            {
                "start" => "end",
                "end" => "start",
                _ => anchor,
            };
        svg.Append($"<text class=\"{css}\" x=\"{N(x)}\" y=\"{N(y + 8)}\" text-anchor=\"{anchor}\">{Text(text)}</text>");
    }

    private void Group(Part part, Action<Part> draw)
    {
        var now = marks.ContainsKey(part.Id) ? " now" : "";
        var how =
            !part.Turns ? ""
            : scene.State[part.Id].IsOpen ? ", open"
            : ", closed";
        var touch = scene.Touchable ? $" tabindex=\"0\" role=\"button\" aria-label=\"{Text(Spoken(part) + how)}\"" : "";
        svg.Append($"<g class=\"part{now}\" data-part=\"{part.Id}\"{touch}>");
        if (scene.Touchable)
            svg.Append($"<title>{Text(Spoken(part) + how)}</title>");
        draw(part);
        svg.Append("</g>");
    }

    private static string Spoken(Part part) =>
        part.Kind switch
        {
            PartKind.Relief => "relief valve",
            PartKind.Inlet => "air inlet",
            _ => part.Label,
        };

    private string Water(string space) => Css(scene.Water.In(space));

    internal static string Css(Filling filling) =>
        filling switch
        {
            Filling.Live => "w-live",
            Filling.Held => "w-held",
            Filling.Open => "w-open",
            _ => "w-air",
        };

    private static string Text(string text) => WebUtility.HtmlEncode(text);
}
