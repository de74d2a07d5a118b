using System.Collections.Immutable;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

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
/// Draws a rig as it stands as SVG: pipe and chambers in flow order, a bar for a closed valve and a gap for an open
/// one, hoses by letter and line. Colours and strokes come from style classes; the drawing holds none.
/// </summary>
public static class RigDrawing
{
    /// <summary>The drawing as an SVG element.</summary>
    public static string Draw(RigScene scene)
    {
        ArgumentNullException.ThrowIfNull(scene);
        return new RunRenderer(scene).Draw();
    }

    /// <summary>An assembly in service, as it lies, without a kit.</summary>
    /// <param name="body">The body.</param>
    /// <param name="flow">How it lies.</param>
    /// <param name="isTouchable">Whether its parts can be touched.</param>
    /// <param name="title">What the drawing is.</param>
    public static string InService(AssemblyBody body, FlowDirection flow, bool isTouchable, string title)
    {
        var state = new Rig(body, Kit.FiveValve).InService();
        return Draw(new(state, WaterSketch.Nothing.After(state), flow, [], ShowKit: false, isTouchable, title));
    }
}
