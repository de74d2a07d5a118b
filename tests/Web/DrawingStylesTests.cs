using System.Text.RegularExpressions;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Rigs;

namespace Mordel.Web.Tests;

/// <summary>What an assembly's picture is drawn with is styled on every page that shows one.</summary>
public partial class DrawingStylesTests
{
    // Names that only say where something is.
    private static readonly string[] Unstyled = ["part", "lies", "stands", "water"];

    private static string Shell => File.ReadAllText(Repository.At("src", "Mordel.Web", "wwwroot", "css", "shell.css"));

    public static TheoryData<string, string> Everything
    {
        get
        {
            var data = new TheoryData<string, string>();
            foreach (var body in Bodies.All)
            foreach (var with in BodyFeatures.Names.Append(""))
                data.Add(body.Name, with);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Everything))]
    public void A_picture_without_a_kit_needs_no_style_but_the_shells(string name, string with)
    {
        var body = Bodies.All.First(b => b.Name == name);
        var features = BodyFeatures.Named(with.Length == 0 ? [] : [with])!.Value;
        var state = new Rig(Bodies.Find(body.Type, name, features), Kit.FiveValve).InService();
        var svg = RigDrawing.Draw(
            new(state, WaterSketch.Nothing.After(state), FlowDirection.LeftToRight, [], ShowKit: false, false, name)
        );
        var used = Class().Matches(svg).SelectMany(m => m.Groups[1].Value.Split(' ')).Distinct().Except(Unstyled);
        var shell = Shell;
        Assert.NotEmpty(used);
        Assert.All(used, css => Assert.Matches($@"\.{css}\b", shell));
    }

    [GeneratedRegex("class=\"([^\"]+)\"")]
    private static partial Regex Class();
}
