using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>Draws the kit, its hoses, and the fittings on the cocks. Only <see cref="RunRenderer"/> uses it.</summary>
internal sealed class KitDrawing(
    Pen pen,
    Frame frame,
    RigScene scene,
    IReadOnlyDictionary<PartId, double> along,
    Dictionary<PartId, List<int>> marks,
    Action<Part, Action> group
)
{
    private const double CockTop = 78,
        TubeTop = 150,
        TeeTop = 112;
    private readonly double centre = frame.Length / 2;

    private static readonly Dictionary<PartId, (double Offset, string Letter, string Css)> Hoses = new()
    {
        [Parts.HighHose] = (-112, "H", "hose-h"),
        // The bypass hose goes farthest down the flow: drawn last, it crosses no other.
        [Parts.LowHose] = (0, "L", "hose-l"),
        [Parts.BypassHose] = (112, "B", "hose-b"),
    };

    /// <summary>The letter that a hose bears.</summary>
    public static string Letter(PartId hose) => Hoses[hose].Letter;

    public void Draw()
    {
        Fittings();
        foreach (var hose in Hoses.Keys.Where(scene.State.Rig.Has))
            Hose(hose);
        Panel();
    }

    private void Fittings()
    {
        if (scene.State.Connections.TryGetValue(Parts.BleedOff, out var teeOn))
            group(scene.State.Rig[Parts.BleedOff], () => Tee(teeOn));
        if (scene.State.Connections.TryGetValue(Parts.SightTube, out var tubeOn))
            group(scene.State.Rig[Parts.SightTube], () => Tube(tubeOn));
    }

    private void Tee(PartId cock)
    {
        var (s, open) = (along[cock], scene.State[Parts.BleedOff].IsOpen);
        var water = RunRenderer.Css(scene.Water.In($"{cock}.out"));
        pen.Raw(
            $"<path class=\"water {water}\" d=\"M{frame.P(s - 8, CockTop)} L{frame.P(s - 8, TeeTop)} "
                + $"L{frame.P(s + 8, TeeTop)} L{frame.P(s + 8, CockTop)} Z\"/>"
        );
        pen.Raw(
            $"<path class=\"wall thin\" d=\"M{frame.P(s - 8, CockTop)} L{frame.P(s - 8, TeeTop)} "
                + $"M{frame.P(s + 8, CockTop)} L{frame.P(s + 8, TeeTop)} M{frame.P(s - 8, 95)} "
                + $"L{frame.P(s - 26, 95)}\"/>"
        );
        pen.Raw(
            open
                ? $"<path class=\"drop\" d=\"M{frame.P(s - 30, 92)} L{frame.P(s - 34, 74)}\"/>"
                : $"<path class=\"bar thin\" d=\"M{frame.P(s - 26, 87)} L{frame.P(s - 26, 103)}\"/>"
        );
        Mark(Parts.BleedOff, s - 46, 104);
    }

    private void Tube(PartId cock)
    {
        var s = along[cock];
        var water = scene.Water.In($"{cock}.out") is Filling.Air ? "w-air" : "w-open";
        if (frame.Lies)
        {
            pen.Raw(
                $"<path class=\"water {water}\" d=\"M{frame.P(s - 6, CockTop)} L{frame.P(s - 6, TubeTop - 4)} "
                    + $"L{frame.P(s + 6, TubeTop - 4)} L{frame.P(s + 6, CockTop)} Z\"/>"
            );
            pen.Raw(
                $"<path class=\"wall thin\" d=\"M{frame.P(s - 6, CockTop)} L{frame.P(s - 6, TubeTop)} "
                    + $"M{frame.P(s + 6, CockTop)} L{frame.P(s + 6, TubeTop)}\"/>"
            );
            if (scene.Water.Running.Contains(Parts.SightTube))
                pen.Raw($"<path class=\"drop\" d=\"M{frame.P(s + 8, TubeTop)} L{frame.P(s + 15, TubeTop - 22)}\"/>");
            Mark(Parts.SightTube, s - 26, TubeTop - 16);
            return;
        }

        // Standing assemblies carry the cocks at the side: the tube turns upward.
        var (x, y) = frame.At(s, CockTop);
        pen.Raw(
            $"<path class=\"water {water}\" d=\"M{N(x)},{N(y - 6)} L{N(x + 20)},{N(y - 6)} "
                + $"L{N(x + 20)},{N(y - 60)} L{N(x + 32)},{N(y - 60)} L{N(x + 32)},{N(y + 6)} L{N(x)},{N(y + 6)} Z\"/>"
        );
        pen.Raw(
            $"<path class=\"wall thin\" d=\"M{N(x)},{N(y - 6)} L{N(x + 20)},{N(y - 6)} L{N(x + 20)},{N(y - 66)} "
                + $"M{N(x)},{N(y + 6)} L{N(x + 32)},{N(y + 6)} L{N(x + 32)},{N(y - 66)}\"/>"
        );
        Mark(Parts.SightTube, frame.Flow == FlowDirection.Upward ? s + 44 : s - 44, CockTop + 54);
    }

    private void Mark(PartId part, double s, double outward)
    {
        if (!marks.TryGetValue(part, out var numbers))
            return;
        var (x, y) = frame.At(s, outward);
        pen.Mark(numbers, x, y);
    }

    private (double X, double Y) KitAt(double offset, double outward) =>
        frame.Lies
            ? (
                frame.At(centre, 0).X + (frame.Flow == FlowDirection.RightToLeft ? -offset : offset),
                frame.At(0, outward).Y
            )
            : (frame.At(0, outward).X, frame.At(centre, 0).Y + (frame.Flow == FlowDirection.Upward ? -offset : offset));

    private void Hose(PartId hose)
    {
        var (offset, letter, css) = Hoses[hose];
        var (x, y) = KitAt(offset, 218);
        var connected = scene.State.Connections.TryGetValue(hose, out var to);
        double ex,
            ey;
        if (connected)
        {
            var cock = scene.State.Rig[to].Kind == PartKind.BleedOff ? scene.State.Connections[to] : to;
            (ex, ey) = frame.At(along[cock], scene.State.Rig[to].Kind == PartKind.BleedOff ? TeeTop : CockTop);
        }
        else
        {
            (ex, ey) = KitAt(offset * 1.2, 182);
        }

        var pull = connected ? 34 : 10;
        var path = frame.Lies
            ? $"M{N(x)},{N(y)} C{N(x)},{N(y + pull)} {N(ex)},{N(ey - pull)} {N(ex)},{N(ey)}"
            : $"M{N(x)},{N(y)} C{N(x - pull)},{N(y)} {N(ex + pull)},{N(ey)} {N(ex)},{N(ey)}";
        var side = scene.State.Rig.At(new(hose, "kit"))!.Id;
        group(scene.State.Rig[hose], () =>
        {
            pen.Raw(
                $"<path class=\"hose-wall {css}-wall\" d=\"{path}\"/><path class=\"hose {css} "
                    + $"{RunRenderer.Css(connected ? scene.Water.In(side) : Filling.Air)}\" d=\"{path}\"/>"
            );
            var (bx, by) = connected ? ((x + ex) / 2, (y + ey) / 2) : (ex, ey);
            pen.Raw(
                $"<circle class=\"hose-tag\" cx=\"{N(bx)}\" cy=\"{N(by)}\" r=\"16\"/><text class=\"hose-letter\" "
                    + $"x=\"{N(bx)}\" y=\"{N(by + 6.5)}\" text-anchor=\"middle\">{letter}</text>"
            );
            if (marks.TryGetValue(hose, out var numbers))
                pen.Mark(numbers, bx + 36, by);
        });
    }

    private void Panel()
    {
        var (gx, gy) = KitAt(66, 322);
        group(scene.State.Rig[Parts.Gauge], () =>
        {
            pen.Raw($"<circle class=\"dial\" cx=\"{N(gx)}\" cy=\"{N(gy)}\" r=\"54\"/>");
            for (var i = 0; i <= 6; i++)
                Ray(gx, gy, 44, 51, -135 + 45 * i, "tick");
            // Pegged on the main with the low port in air, at rest on air; in between the drawing does not know, and
            // shows no hand.
            var high = scene.Water.In("high-side");
            if (high is Filling.Live && !scene.State.Connections.ContainsKey(Parts.LowHose))
                Ray(gx, gy, -8, 40, 142, "needle");
            else if (high is Filling.Air)
                Ray(gx, gy, -8, 40, -135, "needle");
            if (marks.TryGetValue(Parts.Gauge, out var numbers))
                pen.Mark(numbers, gx + 74, gy + 8);
        });
        var controls = scene.State.Rig.Has(Parts.BypassControl);
        var (ax, ay) = KitAt(-126, 240);
        var (bx, by) = KitAt(126, 240);
        if (controls)
            pen.Raw($"<path class=\"manifold\" d=\"M{N(ax)},{N(ay)} L{N(bx)},{N(by)}\"/>");
        foreach (
            var (id, offset) in new[]
            {
                (Parts.HighControl, -112d),
                (Parts.LowControl, 0d),
                (Parts.BypassControl, 112d),
            }.Where(x => controls)
        )
            group(scene.State.Rig[id], () => Knob(id, offset, 240));
        if (!scene.State.Rig.Kit.HasBleeds)
            return;
        // Each bleed stands beside its side, clear of the dial.
        foreach (var (id, offset) in new[] { (Parts.HighBleed, -112d), (Parts.LowBleed, 0d) })
            group(scene.State.Rig[id], () => Knob(id, offset - 48, 292, offset));
    }

    private void Knob(PartId id, double offset, double outward, double from = 0)
    {
        var (x, y) = KitAt(offset, outward);
        var bleed = scene.State.Rig[id].Kind == PartKind.Bleed;
        if (bleed)
        {
            var (fx, fy) = KitAt(from, scene.State.Rig.Has(Parts.BypassControl) ? 258 : 218);
            pen.Raw($"<path class=\"manifold thin\" d=\"M{N(fx)},{N(fy)} L{N(x)},{N(y)}\"/>");
        }

        pen.Raw($"<circle class=\"knob\" cx=\"{N(x)}\" cy=\"{N(y)}\" r=\"{(bleed ? 15 : 18)}\"/>");
        pen.Raw(
            scene.State[id].IsOpen
                ? $"<path class=\"gap\" d=\"M{N(x - 9)},{N(y)} L{N(x + 9)},{N(y)}\"/>"
                : $"<path class=\"bar thin\" d=\"M{N(x - 9)},{N(y - 9)} L{N(x + 9)},{N(y + 9)}\"/>"
        );
        if (marks.TryGetValue(id, out var numbers))
            pen.Mark(numbers, x, y + (bleed ? -32 : 36));
    }

    private void Ray(double x, double y, double from, double to, double degrees, string css)
    {
        var a = (degrees - 90) * Math.PI / 180;
        pen.Raw(
            $"<path class=\"{css}\" d=\"M{N(x + from * Math.Cos(a))},{N(y + from * Math.Sin(a))} "
                + $"L{N(x + to * Math.Cos(a))},{N(y + to * Math.Sin(a))}\"/>"
        );
    }
}
