using Mordel.Core.Reports;

namespace Mordel.Documents.Reports;

/// <summary>Sets the repair that a test follows: what was read before, what was found and done, pictures.</summary>
internal static class RepairSection
{
    private const double Label = 66,
        Wide = 160,
        Tall = 120,
        Gap = 9.5;

    /// <summary>Sets it.</summary>
    public static void Set(
        PdfSheet sheet,
        ReportRepair repair,
        TestReport report,
        IReadOnlyDictionary<string, byte[]> photos
    )
    {
        if (repair.After.Length > 0)
            sheet.Paragraph(repair.After, 10.5, true, PdfSheet.Ink);
        sheet.Space(3);
        if (!repair.Initial.IsEmpty)
            ReportPdf.Items(sheet, "Before", repair.Initial, report);
        foreach (var line in repair.Lines)
            ReportPdf.Pair(sheet, line.Label, line.Text, Label);
        Pictures(sheet, repair, photos);
        sheet.Space(2);
        sheet.Rule(0.6);
    }

    private static void Pictures(PdfSheet sheet, ReportRepair repair, IReadOnlyDictionary<string, byte[]> photos)
    {
        foreach (var row in repair.Photos.Chunk(3))
        {
            sheet.Need(Tall + 26);
            sheet.Space(6);
            for (var i = 0; i < row.Length; i++)
            {
                var x = PdfSheet.Left + (i * (Wide + Gap));
                if (photos.TryGetValue(row[i].Sha256, out var jpeg))
                    sheet.Picture(jpeg, x, sheet.Y, Wide, Tall, row[i].Of);
                else
                    sheet.TextAt("The picture is lost.", x, sheet.Y, 9, true, PdfSheet.Ink);
                sheet.TextAt(Cut(row[i].Of), x, sheet.Y + Tall + 4, 8.5, false, PdfSheet.Ink);
            }

            sheet.Space(Tall + 18);
        }
    }

    private static string Cut(string text) => text.Length <= 38 ? text : $"{text[..37]}…";
}
