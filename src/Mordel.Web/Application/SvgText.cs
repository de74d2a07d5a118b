using System.Globalization;
using System.Text;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Html;

namespace Mordel.Web.Application;

/// <summary>A drawing that is written piece by piece, its numbers as the format has them.</summary>
public sealed class SvgText
{
    private readonly StringBuilder text = new();

    /// <summary>Writes on.</summary>
    public void Add(FormattableString more) => text.Append(Invariant(more));

    /// <summary>Words as they may stand in an attribute or an element.</summary>
    public static string Words(string words) => HtmlEncoder.Default.Encode(words);

    /// <summary>A piece with the numbers of the format.</summary>
    public static string Invariant(FormattableString piece)
    {
        ArgumentNullException.ThrowIfNull(piece);
        return piece.ToString(CultureInfo.InvariantCulture);
    }

    /// <summary>All of it, closed.</summary>
    public HtmlString Html() => new(text + "</svg>");
}
