using System.Globalization;
using Mordel.Core.Reports;
using Mordel.Documents.Pdf;

namespace Mordel.Documents.Reports;

/// <summary>Sets tags for printing: as labels on sheets of A4, or each on a page of its own for a label
/// printer.</summary>
public static class TagPdf
{
    /// <summary>Labels across and down a sheet of A4, each 70 by 42.3 millimetres.</summary>
    public const int Across = 3,
        Down = 7,
        OnASheet = Across * Down;

    private const double SheetWidth = 595.28,
        SheetHeight = 841.89,
        Width = SheetWidth / Across,
        Height = SheetHeight / Down,
        Margin = 12,
        Square = 62;

    /// <summary>Sheets of labels.</summary>
    /// <param name="tags">What they say.</param>
    /// <param name="used">How many labels of the first sheet are gone already, 0 to <see cref="OnASheet"/> − 1.</param>
    public static byte[] Sheets(IReadOnlyList<AssemblyTag> tags, int used)
    {
        ArgumentNullException.ThrowIfNull(tags);
        ArgumentOutOfRangeException.ThrowIfNegative(used);
        ArgumentOutOfRangeException.ThrowIfGreaterThanOrEqual(used, OnASheet);
        var document = Document();
        var sheet = new PdfSheet(document, "", (SheetWidth, SheetHeight));
        for (var i = 0; i < tags.Count; i++)
        {
            var at = (used + i) % OnASheet;
            if (i > 0 && at == 0)
                sheet.NextPage();
            Label(sheet, tags[i], at % Across * Width, at / Across * Height);
        }

        return document.Build();
    }

    /// <summary>A page for each.</summary>
    public static byte[] Labels(IReadOnlyList<AssemblyTag> tags)
    {
        ArgumentNullException.ThrowIfNull(tags);
        var document = Document();
        var sheet = new PdfSheet(document, "", (Width, Height));
        for (var i = 0; i < tags.Count; i++)
        {
            if (i > 0)
                sheet.NextPage();
            Label(sheet, tags[i], 0, 0);
        }

        return document.Build();
    }

    private static PdfDocument Document() => new() { Title = "Tags" };

    private static void Label(PdfSheet sheet, AssemblyTag tag, double x, double y)
    {
        var (left, width) = (x + Margin, Width - (2 * Margin));
        var beside = tag.Link is null ? width : width - Square - 4;
        Line(tag.Result, 15, true, 0, beside);
        if (tag.TestedOn is { } on)
            Line(Day(on), 12, true, 18, beside);
        if (tag.NextDue is { } due)
            Line($"Next test by {Day(due)}", 8.5, true, 37, beside);
        if (tag.Tester.Length > 0)
            Line(tag.Tester, 8.5, false, 49, beside);
        Line($"{tag.Tag} · {tag.Type} {tag.Size}", 8.5, false, 68, width);
        Line($"Serial {tag.Serial}", 8.5, false, 79, width);
        Line(tag.Firm, 7.5, false, 90, width);
        if (tag.Link is { } link)
            sheet.Code(QrPattern.Of(link), x + Width - Margin - Square + 4, y + Margin - 6, Square, link);

        // What is too long for a label is cut where it ends.
        void Line(string text, double size, bool bold, double below, double room) =>
            sheet.TextAt(PdfSheet.Cut(text, size, bold, room), left, y + Margin + below, size, bold, PdfSheet.Ink);
    }

    private static string Day(DateOnly day) => day.ToString("d MMM yyyy", CultureInfo.InvariantCulture);
}
