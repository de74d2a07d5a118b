using System.IO.Compression;
using System.Text;
using CsCheck;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Seals;
using Mordel.Documents.Reports;
using SkiaSharp;
using UglyToad.PdfPig;
using UglyToad.PdfPig.Tokens;

namespace Mordel.Web.Tests;

/// <summary>
/// A report on paper outlives its maker: it can be read in fifty years, by those who hear it too, and the record is
/// inside.
/// </summary>
[Collection("town")]
public sealed class PaperTests(Town town)
{
    private static readonly ReportPdf Setter = new();

    private async Task<SealedReport> Sealed()
    {
        var id = await town.InStore(s =>
            Task.FromResult(s.Runs.Where(r => r.SignedAt != null).OrderBy(r => r.Id).Select(r => r.Id).First())
        );
        return (await town.Report(id))!;
    }

    private static ReportPaper Paper(SealedReport report) =>
        new(report.Run!.Report, report.Record, [], [])
        {
            CheckAt = new("https://testers.invalid", ReportCode.Of(report.Record!)),
            RecordText = report.RecordText,
        };

    [Fact]
    public async Task A_report_says_that_it_keeps_the_archives_standard_and_has_what_that_asks_for()
    {
        await using var scope = town.Services.CreateAsyncScope();
        var papers = scope.ServiceProvider.GetRequiredService<SealedPapers>();
        var bytes = (await papers.Pdf(await Sealed(), CancellationToken.None))!;
        using var pdf = PdfDocument.Open(bytes);
        Assert.True(pdf.TryGetXmpMetadata(out var about));
        var said = Encoding.UTF8.GetString(about!.GetXmlBytes().ToArray());
        Assert.Contains("<pdfaid:part>3</pdfaid:part>", said, StringComparison.Ordinal);
        Assert.Contains("<pdfaid:conformance>A</pdfaid:conformance>", said, StringComparison.Ordinal);
        Assert.Contains(System.Security.SecurityElement.Escape(pdf.Information.Title!), said, StringComparison.Ordinal);
        var catalogue = pdf.Structure.Catalog.CatalogDictionary;
        Assert.True(((BooleanToken)((DictionaryToken)catalogue.Data["MarkInfo"]).Data["Marked"]).Data);
        Assert.All(new[] { "OutputIntents", "StructTreeRoot", "AF", "Lang", "Metadata" }, key =>
            Assert.Contains(key, catalogue.Data.Keys)
        );
        // The seal was added behind: the file's name is still said, as the standard asks.
        Assert.Contains("/ID [<", Encoding.Latin1.GetString(bytes).Split("trailer")[^1], StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_record_inside_is_the_one_whose_seal_is_printed_at_the_foot()
    {
        var report = await Sealed();
        using var pdf = PdfDocument.Open(Setter.Set(Paper(report)));
        Assert.True(pdf.Advanced.TryGetEmbeddedFiles(out var files));
        var inside = Encoding.UTF8.GetString(Assert.Single(files!).Memory.Span);
        Assert.Equal(report.Record, ContentHash.Compute(inside));
        Assert.Contains(
            report.Record!,
            string.Join(' ', pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text)),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Every_letter_belongs_to_a_part_that_is_read_out_or_is_for_the_eye_alone()
    {
        var report = await Sealed();
        var longer = Paper(report) with
        {
            Report = report.Run!.Report with { Remarks = string.Join(' ', Enumerable.Repeat("greased", 900)) },
        };
        using var pdf = PdfDocument.Open(Setter.Set(longer));
        Assert.True(pdf.NumberOfPages > 1);
        var structure = Encoding.Latin1.GetString(Setter.Set(longer));
        foreach (var page in pdf.GetPages())
        {
            var marked = page.GetMarkedContents();
            Assert.Equal(page.Letters.Count, marked.Sum(m => m.Letters.Count));
            // Each mark has its number, and only what stands at the foot has none.
            Assert.Equal(
                Enumerable.Range(0, marked.Count(m => !m.IsArtifact)),
                marked.Where(m => !m.IsArtifact).Select(m => m.MarkedContentIdentifier)
            );
            Assert.All(marked.Where(m => m.IsArtifact && m.Letters.Count > 0), m =>
                Assert.All(m.Letters, l => Assert.True(l.StartBaseLine.Y < 40))
            );
        }

        foreach (var part in new[] { "/S /H1", "/S /Table", "/S /TH", "/S /TD", "/S /Figure" })
            Assert.Contains(part, structure, StringComparison.Ordinal);
        Assert.All(structure.Split("endobj").Where(o => o.Contains("/S /Figure", StringComparison.Ordinal)), figure =>
            Assert.Contains("/Alt (", figure, StringComparison.Ordinal)
        );
        Assert.Contains($"/Alt (Signature of {report.Run.Report.Tester})", structure, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Whatever_is_remarked_stands_on_paper_letter_by_letter_and_what_has_no_letter_as_a_question_mark()
    {
        var report = await Sealed();
        var letters = Gen.OneOf(Gen.Char[' ', '~'], Gen.Char['À', 'ž'], Gen.Const('\u4E2D'), Gen.Const('\u2603'));
        letters
            .Array[1, 30]
            .Select(l => new string(l).Trim())
            .Where(l => l.Length > 0 && !l.Contains(' ', StringComparison.Ordinal))
            .Sample(
                word =>
                {
                    var paper = Paper(report) with { Report = report.Run!.Report with { Remarks = $"<< {word} >>" } };
                    using var pdf = PdfDocument.Open(Setter.Set(paper));
                    var text = string.Concat(pdf.GetPage(1).Letters.Select(l => l.Value));
                    var from = text.IndexOf("<<", StringComparison.Ordinal);
                    var stands = text[(from + 3)..text.IndexOf(" >>", from + 3, StringComparison.Ordinal)];
                    Assert.Equal(word.Length, stands.Length);
                    Assert.All(word.Zip(stands), pair => Assert.True(pair.First == pair.Second || pair.Second == '?'));
                    Assert.All(word.Zip(stands).Where(p => p.First is >= ' ' and <= '~'), pair =>
                        Assert.Equal(pair.First, pair.Second)
                    );
                },
                iter: 60
            );
    }

    [Fact]
    public async Task A_typeface_that_is_cut_draws_each_letter_that_is_shown_as_the_whole_one_does()
    {
        const string shown = "Äöüéèšž ½ 0–9 fi";
        var report = await Sealed();
        var paper = Paper(report) with { Report = report.Run!.Report with { Remarks = shown } };
        var pdf = Setter.Set(paper);
        var file = Encoding.Latin1.GetString(pdf);
        var from = file.IndexOf(
            "stream\n",
            file.IndexOf("/Length1 ", StringComparison.Ordinal),
            StringComparison.Ordinal
        );
        using var packed = new ZLibStream(
            new MemoryStream(pdf, from + 7, pdf.Length - from - 7),
            CompressionMode.Decompress
        );
        using var font = new MemoryStream();
        await packed.CopyToAsync(font);
        await using var original = typeof(ReportPdf).Assembly.GetManifestResourceStream(
            "AtkinsonHyperlegible_400Regular.ttf"
        )!;
        Assert.True(font.Length < original.Length, $"{font.Length} of {original.Length}");
        font.Position = 0;
        using var cut = SKTypeface.FromStream(font);
        using var whole = SKTypeface.FromStream(original);
        using var drawn = new SKFont(cut, 100);
        using var wanted = new SKFont(whole, 100);
        foreach (var letter in shown.Where(l => whole.GetGlyph(l) != 0))
        {
            using var path = drawn.GetGlyphPath(whole.GetGlyph(letter));
            using var right = wanted.GetGlyphPath(whole.GetGlyph(letter));
            Assert.Equal(right.ToSvgPathData(), path.ToSvgPathData());
            Assert.True(letter == ' ' || !path.IsEmpty, $"{letter} is drawn");
        }

        // What is not shown has no outline any more.
        using var gone = drawn.GetGlyphPath(whole.GetGlyph('Ø'));
        Assert.True(gone.IsEmpty);
    }

    [Fact]
    public async Task The_same_report_is_the_same_file_and_another_has_another_name()
    {
        var paper = Paper(await Sealed());
        Assert.Equal(Setter.Set(paper), Setter.Set(paper));
        var other = paper with { Report = paper.Report with { Remarks = "Another." } };
        Assert.NotEqual(Named(Setter.Set(paper)), Named(Setter.Set(other)));

        static string Named(byte[] pdf) => Encoding.Latin1.GetString(pdf).Split("/ID [<")[^1][..32];
    }

    [Fact]
    public async Task A_picture_that_is_none_is_refused_in_words()
    {
        var report = (await Sealed()).Run!.Report;
        var repair = new ReportRepair("", [], [], [new("abc", "The seat")]);
        var paper = new ReportPaper(report with { Repair = repair }, null, [], [])
        {
            Photos = new Dictionary<string, byte[]> { ["abc"] = "GIF89a, and more that is no picture"u8.ToArray() },
        };
        Assert.Contains(
            "no JPEG",
            Assert.Throws<InvalidDataException>(() => Setter.Set(paper)).Message,
            StringComparison.Ordinal
        );
    }
}
