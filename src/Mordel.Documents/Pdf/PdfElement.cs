namespace Mordel.Documents.Pdf;

/// <summary>
/// What a part of a page is to somebody who hears it (ISO 32000-1, 14.8): heading, paragraph, table, picture.
/// </summary>
/// <param name="kind">A standard kind: <c>H1</c>, <c>P</c>, <c>Table</c>, <c>TR</c>, <c>TH</c>, <c>TD</c>,
/// <c>Figure</c>.</param>
/// <param name="shows">What a picture shows, in words; null for text.</param>
internal sealed class PdfElement(string kind, string? shows = null)
{
    /// <summary>The kind.</summary>
    public string Kind => kind;

    /// <summary>What a picture shows, in words; null for text.</summary>
    public string? Shows => shows;

    /// <summary>The number of its object.</summary>
    public int Number { get; set; }

    /// <summary>What it holds, in the order in which it is read: elements, or marks on pages.</summary>
    public List<(PdfElement? Element, PdfPage? Page, int Mark)> Holds { get; } = [];
}
