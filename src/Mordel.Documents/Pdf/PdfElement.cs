namespace Mordel.Documents.Pdf;

/// <summary>
/// What a part of a page is to somebody who hears it (ISO 32000-1, 14.8): heading, paragraph, table, picture.
/// </summary>
/// <param name="Kind">A standard kind: <c>H1</c>, <c>P</c>, <c>Table</c>, <c>TR</c>, <c>TH</c>, <c>TD</c>,
/// <c>Figure</c>.</param>
/// <param name="Shows">What a picture shows, in words; null for text.</param>
internal sealed record PdfElement(string Kind, string? Shows = null)
{
    /// <summary>The number of its object.</summary>
    public int Number { get; set; }

    /// <summary>What it holds, in the order in which it is read: elements, or marks on pages.</summary>
    public List<(PdfElement? Element, PdfPage? Page, int Mark)> Holds { get; } = [];
}
