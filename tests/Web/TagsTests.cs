using System.Net;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Data.Rows;
using Mordel.Documents.Reports;

namespace Mordel.Web.Tests;

/// <summary>
/// Tags hang on assemblies for years: they say what they must, and their square leads to no more than that.
/// </summary>
[Collection("second town")]
public class TagsTests(Town town)
{
    private Task<AssemblyRow> Tested() =>
        town.InStore(s =>
            s.Assemblies.AsNoTracking()
                .Include(a => a.Place!.Owner)
                .OrderBy(a => a.Tag)
                .FirstAsync(a => a.LastTestOn != null && a.State == AssemblyStates.InService)
        );

    private static async Task<string> Text(HttpResponseMessage answer)
    {
        Assert.Equal("application/pdf", answer.Content.Headers.ContentType?.MediaType);
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(await answer.Content.ReadAsByteArrayAsync());
        return string.Join(' ', pdf.GetPages().SelectMany(p => p.GetWords()).Select(w => w.Text));
    }

    [Fact]
    public async Task A_tester_prints_the_tag_of_an_assembly_and_it_says_result_day_tester_and_next_due()
    {
        var assembly = await Tested();
        var ines = await town.As("ines");
        var page = await ines.Page($"/register/tags?id={assembly.Id}");
        Assert.Contains($"The tag of {assembly.Tag}", page, StringComparison.Ordinal);
        var printed = await Text(
            await ines.PostForm("/register/tags", "/register/tags", ("ids", $"{assembly.Id}"), ("on", "labels"))
        );
        Assert.Contains(assembly.Serial, printed, StringComparison.Ordinal);
        Assert.Contains($"{assembly.LastTestOn:d MMM yyyy}", printed, StringComparison.Ordinal);
        Assert.Contains($"Next test by {assembly.NextDue:d MMM yyyy}", printed, StringComparison.Ordinal);
    }

    [Fact]
    public async Task The_square_of_a_tag_leads_to_what_it_says_the_same_whenever_it_is_printed_again()
    {
        var assembly = await Tested();
        var wilma = await town.As("wilma");
        for (var i = 0; i < 2; i++)
            await wilma.PostForm("/register/tags", "/register/tags", ("ids", $"{assembly.Id}"), ("used", "20"));
        var link = await town.InStore(s =>
            s.Links.SingleAsync(l => l.Purpose == LinkPurposes.Tag && l.OfId == assembly.Id)
        );
        var secret = await town.With<string, Mordel.Data.Links.KeepLinks>(k => Task.FromResult(k.SecretOf(link)!));
        var page = await town.Nobody().Page($"/tag/{secret}");
        Assert.Contains(assembly.Serial, page, StringComparison.Ordinal);
        Assert.DoesNotContain(assembly.Place!.Owner!.Name, page, StringComparison.Ordinal);
        Assert.DoesNotContain(assembly.Place.Address, page, StringComparison.Ordinal);
        Assert.DoesNotContain($"{assembly.Id}", page, StringComparison.Ordinal);
        Assert.Contains($"/register/{assembly.Id}", await wilma.Page($"/tag/{secret}"), StringComparison.Ordinal);
        await town.Nobody().Page($"/tag/{new string('0', secret.Length)}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_list_becomes_sheets_of_labels_and_nonsense_is_answered_in_words()
    {
        var wilma = await town.As("wilma");
        Assert.Contains(" tags</h1>", await wilma.Page("/register/tags?type=DC"), StringComparison.Ordinal);
        Assert.Contains(
            "No tag to print",
            await wilma.Page("/register/tags?q=nowhere+at+all"),
            StringComparison.Ordinal
        );
        var none = await wilma.PostForm("/register/tags", "/register/tags", ("on", "sheets"));
        Assert.Contains("Choose an assembly", await none.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var ids = await town.InStore(s => s.Assemblies.Select(a => a.Id).Take(30).ToListAsync());
        (string, string)[] fields = [.. ids.Select(i => ("ids", $"{i}"))];
        var answer = await wilma.PostForm("/register/tags", "/register/tags", [.. fields, ("used", "15")]);
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(await answer.Content.ReadAsByteArrayAsync());
        Assert.Equal(3, pdf.NumberOfPages);
        var wrong = await wilma.PostForm("/register/tags", "/register/tags", [.. fields, ("used", "21")]);
        Assert.Contains("0 to 20 labels", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
    }

    [Fact]
    public void The_square_on_paper_is_the_code_of_its_link_as_it_stands()
    {
        const string Link = "https://tests.invalid/tag/0123456789abcdef0123456789abcdef0123456789abcdef";
        var tag = new AssemblyTag
        {
            Tag = "F-1",
            Type = "DC",
            Size = "1 in",
            Serial = "A-1",
            Firm = "A firm with a name that is far too long to stand on any label of this size",
            Link = Link,
        };
        using var pdf = UglyToad.PdfPig.PdfDocument.Open(TagPdf.Labels([tag]));
        var page = pdf.GetPage(1);
        var bars = page
            .Paths.Where(p => p.IsFilled)
            .SelectMany(p => p.Select(bar => bar.GetBoundingRectangle()!.Value))
            .ToList();
        var pattern = QrPattern.Of(Link);
        var module = bars.Min(b => b.Height);
        var (left, top) = (bars.Min(b => b.Left), bars.Max(b => b.Top));
        var (x0, y0) = (pattern.Stripes.Min(s => s.X), pattern.Stripes.Min(s => s.Y));
        Assert.Equal(
            pattern.Stripes.Select(s => (s.X - x0, s.Y - y0, s.Length)).Order(),
            bars.Select(b =>
                    (
                        (int)Math.Round((b.Left - left) / module),
                        (int)Math.Round((top - b.Top) / module),
                        (int)Math.Round(b.Width / module)
                    )
                )
                .Order()
        );
        Assert.All(page.Letters, l => Assert.InRange(l.EndBaseLine.X, 0, page.Width));
    }
}
