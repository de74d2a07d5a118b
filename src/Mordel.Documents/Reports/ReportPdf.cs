using System.Globalization;
using Mordel.Core.Reports;
using Mordel.Documents.Pdf;

namespace Mordel.Documents.Reports;

/// <summary>
/// Sets a report as PDF on as many pages of A4 as it needs: embedded fonts, searchable text, title and language set.
/// The same report gives the same bytes.
/// </summary>
public sealed class ReportPdf : IPaperSetter
{
    private const double LabelWidth = 66,
        SectionLabelWidth = 92,
        SignatureHeight = 144,
        CodeSide = 66;

    /// <inheritdoc/>
    public byte[] Set(ReportPaper paper)
    {
        ArgumentNullException.ThrowIfNull(paper);
        var document = new PdfDocument
        {
            Title = paper.Report.Title,
            Author = paper.Report.Tester,
            Subject = $"Backflow prevention assembly test report {paper.Report.Number}",
            Attached = paper.RecordText is { } text
                ? ($"{paper.Report.FileName}.json", "The record that was signed, with every reading and step", text)
                : null,
        };
        var sheet = new PdfSheet(document, $"Report {paper.Report.Number}");
        Verdict(sheet, paper);
        var report = paper.Report;
        sheet.Rule(1.2);
        Columns(sheet, report.Place, report.Assembly);
        sheet.Rule(0.6);
        foreach (var line in report.Test.Concat(report.Visit))
            Pair(sheet, line.Label, line.Text, LabelWidth);
        sheet.Space(2);
        sheet.Rule(0.6);
        if (report.Repair is { } repair)
            RepairSection.Set(sheet, repair, report, paper.Photos);
        Items(sheet, report.Repair is null ? "Item" : "After", report.Items, report);
        Section(sheet, "Readings before", report.Before);
        Section(sheet, "To weigh", report.Warnings);
        Section(sheet, "Times", report.Times);
        Section(sheet, "Findings", report.Findings);
        if (report.Repair is null)
            Section(sheet, "Repairs and parts", [report.Repairs]);
        Section(sheet, "Remarks", [report.Remarks.Length == 0 ? "None." : report.Remarks]);
        Section(sheet, "Declared", [report.Form?.Declaration ?? ""]);
        Signature(sheet, paper);
        sheet.NumberPages();
        return document.Build();
    }

    // What stands largest: the outcome, or that the seal is broken; beside it what was amended and what nobody entered.
    private static void Verdict(PdfSheet sheet, ReportPaper paper)
    {
        var report = paper.Report;
        using (sheet.In("H1"))
            sheet.Text(
                report.Form?.Title ?? "Backflow prevention assembly test report",
                PdfSheet.Left,
                9.5,
                false,
                PdfSheet.Soft
            );
        sheet.Text(report.Number, PdfSheet.Right, 9.5, false, PdfSheet.Soft, toTheRight: true);
        sheet.Space(16);
        var word = report.Word(report.Outcome);
        sheet.Text(paper.Broken.IsEmpty ? word : "Seal broken", PdfSheet.Left, 30, true, PdfSheet.Ink);
        if (report.Simulated)
            sheet.Text("Simulated data: an invented town", PdfSheet.Right, 9.5, true, PdfSheet.Soft, toTheRight: true);
        sheet.Space(38);
        if (!paper.Broken.IsEmpty)
        {
            sheet.Paragraph(
                "SEAL BROKEN. This is not what was signed, or it cannot be told whether it is: do not rely on it.",
                13,
                true,
                PdfSheet.Ink
            );
            foreach (var why in paper.Broken)
                sheet.Paragraph(why, 10, false, PdfSheet.Ink);
            sheet.Paragraph($"What stands below says: {word}. {report.Reason}", 10, false, PdfSheet.Ink);
        }
        else
        {
            sheet.Paragraph(report.Reason, 10.5, false, PdfSheet.Ink);
        }

        foreach (var amendment in paper.Amendments)
            Pair(sheet, "Amended", $"{amendment.Printed}: {amendment.Text}", LabelWidth, strong: true);
        if (!report.NotEntered.IsEmpty)
            Pair(sheet, "Not entered", $"{string.Join("; ", report.NotEntered)}.", LabelWidth);
        sheet.Space(4);
    }

    /// <summary>Items with limit, margin and result, a line each.</summary>
    internal static void Items(PdfSheet sheet, string head, IEnumerable<ReportItem> items, TestReport report)
    {
        double[] at = [PdfSheet.Left, 210, 290, 400, 480];
        string[] heads = [head, "Reading", "Least allowed", "Margin", "Result"];
        sheet.Need(40);
        using (sheet.In("Table"))
        {
            using (sheet.In("TR"))
                for (var i = 0; i < heads.Length; i++)
                    Cell("TH", heads[i], i, 8.5, false, PdfSheet.Soft);
            sheet.Space(14);
            foreach (var item in items)
            {
                sheet.Need(16);
                using (sheet.In("TR"))
                {
                    Cell("TD", item.Name, 0, 10.5, false, PdfSheet.Ink);
                    Cell("TD", item.Value, 1, 10.5, true, PdfSheet.Ink);
                    Cell("TD", item.Limit, 2, 10, false, PdfSheet.Ink);
                    Cell("TD", item.Margin, 3, 10, false, PdfSheet.Ink);
                    Cell("TD", report.Word(item.Result), 4, 10.5, true, PdfSheet.Ink);
                }

                sheet.Space(16);
            }
        }

        void Cell(string kind, string text, int column, double size, bool bold, (byte R, byte G, byte B) colour)
        {
            using (sheet.In(kind))
                sheet.Text(text, at[column], size, bold, colour);
        }

        sheet.Space(2);
        sheet.Rule(0.6);
    }

    private static void Signature(PdfSheet sheet, ReportPaper paper)
    {
        var report = paper.Report;
        sheet.ToTheFoot(SignatureHeight);
        sheet.Rule(1.2);
        var top = sheet.Y;
        foreach (
            var (label, text) in new[]
            {
                ("Kit", report.Kit),
                ("Tester", $"{report.Tester}, certificate {report.Certificate}"),
                ("Signed", report.SignedAt),
                ("Next due", report.NextDue),
            }
        )
            Pair(sheet, label, text, LabelWidth, width: 226);
        if (report.Ink is { } ink)
            sheet.Strokes(Strokes(ink, 348, top + 6, 120, 42), $"Signature of {report.Tester}");
        else
            sheet.TextAt($"{report.Tester} (typed)", 348, top + 14, 12, true, PdfSheet.Ink);
        if (paper.CheckAt is { } check)
            sheet.Code(QrPattern.Of(check.Link), PdfSheet.Right - CodeSide + 6, top - 4, CodeSide, check.Link);
        sheet.Y = Math.Max(sheet.Y, top + 60);
        if (paper.CheckAt is { } at)
        {
            sheet.Space(3);
            sheet.Text($"Is this report genuine? {at.Page}, code {at.Code}", PdfSheet.Left, 8.5, true, PdfSheet.Ink);
            sheet.Space(13);
        }

        sheet.Text($"Seal {paper.Record ?? "cannot be told"}", PdfSheet.Left, 7, false, PdfSheet.Soft);
        sheet.Space(11);
        sheet.Paragraph(TestReport.Deference, 7.5, false, PdfSheet.Soft);
    }

    // A stroke of the pen begins with M and goes on with L, in a field of 600 by 200.
    private static IEnumerable<IReadOnlyList<(double X, double Y)>> Strokes(
        string ink,
        double x,
        double y,
        double width,
        double height
    )
    {
        const StringSplitOptions clean = StringSplitOptions.RemoveEmptyEntries | StringSplitOptions.TrimEntries;
        foreach (var stroke in ink.Replace(',', ' ').Split('M', clean))
            yield return
            [
                .. stroke
                    .Split('L', clean)
                    .Select(pair => pair.Split(' ', clean))
                    .Where(pair => pair.Length == 2)
                    .Select(pair => (X: Read(pair[0]), Y: Read(pair[1])))
                    .Where(at => at is { X: not null, Y: not null })
                    .Select(at =>
                        (
                            x + (Math.Clamp(at.X!.Value, 0, 600) * width / 600),
                            y + (Math.Clamp(at.Y!.Value, 0, 200) * height / 200)
                        )
                    ),
            ];

        static double? Read(string number) =>
            double.TryParse(number, CultureInfo.InvariantCulture, out var read) && double.IsFinite(read) ? read : null;
    }

    // The two columns stand side by side where they have room; each in its own length.
    private static void Columns(PdfSheet sheet, IEnumerable<ReportLine> left, IEnumerable<ReportLine> right)
    {
        var (one, two) = (left.ToList(), right.ToList());
        sheet.Need(
            Math.Max(one.Sum(l => PdfSheet.Height(l.Text, 9.5, 180)), two.Sum(l => PdfSheet.Height(l.Text, 9.5, 170)))
        );
        var (page, top) = (sheet.Page, sheet.Y);
        foreach (var line in one)
            Pair(sheet, line.Label, line.Text, LabelWidth, width: 180);
        var end = sheet.Y;
        if (sheet.Page == page)
            sheet.Y = top;
        foreach (var line in two)
            Pair(sheet, line.Label, line.Text, LabelWidth, PdfSheet.Left + 262, 170);
        sheet.Y = sheet.Page == page ? Math.Max(sheet.Y, end) : sheet.Y;
        sheet.Space(2);
    }

    internal static void Pair(
        PdfSheet sheet,
        string label,
        string text,
        double labelWidth,
        double x = PdfSheet.Left,
        double width = 0,
        bool strong = false
    )
    {
        sheet.Need(12.5);
        using var part = sheet.In("P");
        sheet.Text(label, x, 8.5, strong, strong ? PdfSheet.Ink : PdfSheet.Soft);
        sheet.Paragraph(
            text,
            9.5,
            strong,
            PdfSheet.Ink,
            x + labelWidth,
            width > 0 ? width : PdfSheet.Right - x - labelWidth
        );
    }

    private static void Section(PdfSheet sheet, string title, IEnumerable<string> texts)
    {
        var said = texts.Where(t => t.Length > 0).ToList();
        if (said.Count == 0)
            return;
        Pair(sheet, title, string.Join(" ", said), SectionLabelWidth);
        sheet.Space(3);
    }
}
