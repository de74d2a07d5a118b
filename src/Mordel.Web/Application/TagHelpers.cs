using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Razor.TagHelpers;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Rigs;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.Web.Application;

/// <summary>Draws an assembly in service, as it lies: <c>&lt;rig-figure of="assembly" title="…" /&gt;</c>.</summary>
[HtmlTargetElement("rig-figure", TagStructure = TagStructure.WithoutEndTag)]
public sealed class RigFigureTagHelper : TagHelper
{
    /// <summary>The assembly; a double check when there is none to show.</summary>
    public AssemblyRow? Of { get; set; }
    public required string Title { get; set; }

    /// <summary>Whether its parts can be touched.</summary>
    public bool Touchable { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var state = new Rig(
            Of is null ? Bodies.Find(AssemblyTypes.Usual) : SetupWriter.Facts(Of).Parts,
            Kit.FiveValve
        ).InService();
        output.TagName = "figure";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "rig-figure");
        output.Content.SetHtmlContent(
            RigDrawing.Draw(
                new(
                    state,
                    WaterSketch.Nothing.After(state),
                    Of is null ? FlowDirection.LeftToRight : Enum.Parse<FlowDirection>(Of.Flow),
                    [],
                    ShowKit: false,
                    Touchable,
                    Title
                )
            )
        );
    }
}

/// <summary>An outcome by shape and word: <c>&lt;outcome-mark of="pass" /&gt;</c>.</summary>
[HtmlTargetElement("outcome-mark", TagStructure = TagStructure.WithoutEndTag)]
public sealed class OutcomeMarkTagHelper : TagHelper
{
    public required string Of { get; set; }

    /// <summary>Another word beside the shape; null for the outcome's own.</summary>
    public string? Word { get; set; }

    public override void Process(TagHelperContext context, TagHelperOutput output)
    {
        var (word, path) = Of switch
        {
            "pass" => ("Pass", "M4 11L9 16L18 5"),
            "fail" => ("Fail", "M5 5L17 17M17 5L5 17"),
            "incomplete" => ("Incomplete", "M4 11H8M10 11H12M14 11H18"),
            "not-testable" => ("Not testable", "M4 11H18"),
            "missing" => ("Missing", "M4 11H8M14 11H18"),
            "recorded" => ("Recorded", "M11 6V16"),
            "seal-broken" => ("Seal broken", "M4 7L9 4L13 10L18 7M4 15L9 12L13 18L18 15"),
            "running" => ("Open run", "M6 4L17 11L6 18Z"),
            _ => ("To do", "M11 11V11.1"),
        };
        output.TagName = "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", $"outcome outcome-{Of}");
        output.Content.SetHtmlContent(
            $"<svg viewBox=\"0 0 22 22\" aria-hidden=\"true\"><path d=\"{path}\"/></svg>"
                + HtmlEncoder.Default.Encode(Word ?? word)
        );
    }
}
