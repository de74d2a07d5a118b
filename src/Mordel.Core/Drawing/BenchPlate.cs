using Mordel.Core.Rigs;
using static Mordel.Core.Drawing.Frame;

namespace Mordel.Core.Drawing;

/// <summary>
/// The kit's valves at the bench, and the rail along which the gauge is held. The gauge itself stands beside the
/// drawing, large enough to be read.
/// </summary>
/// <param name="pen">What it is written with.</param>
/// <param name="rig">The rig.</param>
/// <param name="sheet">The sheet.</param>
/// <param name="falls">Water that falls out of a part.</param>
internal sealed class BenchPlate(Pen pen, Rig rig, BenchDrawing sheet, Action<Part, string> falls)
{
    /// <summary>Where the hoses leave it.</summary>
    public const double Bottom = 158;

    private const double Controls = 112,
        Bleeds = 48;

    /// <summary>Where the kit's three sides stand beside its middle.</summary>
    public static readonly double[] Sides = [-100, 0, 100];

    public void Draw()
    {
        var centre = sheet.KitAt;
        pen.Raw(
            $"<rect class=\"plate\" x=\"{N(centre - 150)}\" y=\"6\" width=\"356\" height=\"{N(Bottom - 6)}\" "
                + $"rx=\"8\"/>"
        );
        var controls = rig.Has(Parts.BypassControl);
        if (controls)
            pen.Line("manifold", $"M{N(centre + Sides[0])},{N(Controls)} L{N(centre + Sides[2])},{N(Controls)}");
        var bleeds = controls ? Bleeds : Controls;
        (PartId Id, double X, double Y)[] knobs =
        [
            (Parts.HighControl, Sides[0], Controls),
            (Parts.LowControl, Sides[1], Controls),
            (Parts.BypassControl, Sides[2], Controls),
            (Parts.HighBleed, Sides[0], bleeds),
            (Parts.LowBleed, Sides[1], bleeds),
        ];
        for (var i = 0; i < (controls ? 3 : 2); i++)
            pen.Line(
                "manifold thin",
                $"M{N(centre + Sides[i])},{N(rig.Kit.HasBleeds && i < 2 ? Bleeds : Controls)} "
                    + $"L{N(centre + Sides[i])},{N(Bottom)}"
            );
        foreach (var (id, x, y) in knobs.Where(k => rig.Has(k.Id)))
            Knob(rig[id], centre + x, y);
    }

    private void Knob(Part part, double x, double y)
    {
        var bleed = part.Kind == PartKind.Bleed;
        BenchRenderer.Slider(pen, part, x, y);
        pen.Raw($"<g data-knob=\"{part.Id}\" data-x=\"{N(x)}\" data-y=\"{N(y)}\">");
        pen.Ring("knob", x, y, bleed ? 18 : 21);
        pen.Line("mark-line", $"M{N(x)},{N(y)} L{N(x)},{N(y - (bleed ? 15 : 18))}");
        pen.Raw("</g>");
        pen.Word(
            x + (bleed ? 24 : 27),
            y + (bleed ? 0 : 26),
            bleed ? "bleed" : part.Label.Split(' ')[0],
            "small",
            "start"
        );
        if (bleed)
            falls(
                part,
                $"M{N(x + 18)},{N(y + 4)} C{N(x + 34)},{N(y + 8)} {N(x + 34)},{N(y + 24)} {N(x + 34)},{N(y + 52)}"
            );
        pen.Raw("</g>");
    }

    /// <summary>
    /// The gauge's height, true to scale, with a line across to what it is level with. Beside a standing assembly the
    /// rail goes along with the cock in use.
    /// </summary>
    public void DrawRail()
    {
        var (stands, reach) = (sheet.Stands, sheet.Reach);
        double At(double inches) => stands ? -(inches - 1) * BenchDrawing.PerInch : BenchDrawing.Level(inches);
        var (x, top, bottom, middle) = (sheet.RailAt, At(reach.High), At(reach.Low), At(0));
        pen.Raw("<g data-rail=\"\">");
        pen.Line("rail", $"M{N(x)},{N(top)} L{N(x)},{N(bottom)}");
        for (var i = (int)reach.Low; i <= reach.High; i += 2)
            pen.Line("tick", $"M{N(x - (i % 12 == 0 ? 12 : 6))},{N(At(i))} L{N(x)},{N(At(i))}");
        pen.Word(x, top - (stands ? 50 : 26), "gauge", "small");
        pen.Word(x, top - (stands ? 32 : 8), "height", "small");
        pen.Raw(
            $"<g class=\"part\" data-part=\"height\" data-height=\"\" tabindex=\"0\" role=\"slider\" "
                + $"aria-orientation=\"vertical\" aria-label=\"Gauge height, inches above "
                + $"{(stands ? "an inch below the cock in use" : "the body's centre")}\" "
                + $"aria-valuemin=\"{N(reach.Low)}\" aria-valuemax=\"{N(reach.High)}\">"
        );
        pen.Line("level", $"M4,{N(middle)} L{N(x - 26)},{N(middle)}");
        pen.Block("target", x - 40, middle - 30, 80, 60);
        pen.Ring("grip", x, middle, 24);
        pen.Line("needle", $"M{N(x - 8)},{N(middle + 8)} L{N(x + 11)},{N(middle - 11)}");
        pen.Raw("</g></g>");
    }
}
