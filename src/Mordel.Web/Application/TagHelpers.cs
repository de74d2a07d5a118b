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
        output.TagName = "figure";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", "rig-figure");
        output.Content.SetHtmlContent(
            RigDrawing.InService(
                Of is null ? Bodies.Find(AssemblyTypes.Usual) : SetupWriter.Facts(Of).Parts,
                Of is null ? FlowDirection.LeftToRight : Enum.Parse<FlowDirection>(Of.Flow),
                Touchable,
                Title
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
        var mark = OutcomeMarks.Of(Of);
        output.TagName = "span";
        output.TagMode = TagMode.StartTagAndEndTag;
        output.Attributes.SetAttribute("class", $"outcome outcome-{Of}");
        output.Content.SetHtmlContent(
            $"<svg viewBox=\"0 0 22 22\" aria-hidden=\"true\"><path d=\"{mark.Path}\"/></svg>"
                + HtmlEncoder.Default.Encode(Word ?? mark.Word)
        );
    }
}
