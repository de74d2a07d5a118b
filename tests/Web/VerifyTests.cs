using System.Net;
using System.Net.Http.Headers;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Data.Rows;

namespace Mordel.Web.Tests;

/// <summary>
/// Anybody who has a report can ask whether it is genuine, and learns no more than what stands on it.
/// </summary>
[Collection("second town")]
public class VerifyTests(Town town)
{
    private Task<SealRow> Sealed(Func<IQueryable<RunRow>, IQueryable<RunRow>>? which = null) =>
        town.InStore(async s =>
        {
            var runs = s.Runs.Where(r => r.SignedAt != null);
            var run = await (which?.Invoke(runs) ?? runs).OrderBy(r => r.SignedAt).FirstAsync();
            return await s.Seals.AsNoTracking().SingleAsync(x => x.RunId == run.Id && x.AmendmentId == null);
        });

    private static string CodeOf(SealRow seal) => new ReportCode(seal.Code!).ToString();

    [Fact]
    public async Task Who_has_the_code_sees_that_the_report_is_genuine_and_what_stands_on_it()
    {
        var seal = await Sealed();
        var report = (await town.Report(seal.RunId))!;
        var page = await town.Nobody().Page($"/verify/{CodeOf(seal)}");
        Assert.Contains("<h1>Genuine", page, StringComparison.Ordinal);
        Assert.Contains(report.Run!.Report.Number, page, StringComparison.Ordinal);
        Assert.Contains(report.Run.Setup.Assembly.Serial, page, StringComparison.Ordinal);
        Assert.DoesNotContain(seal.RunId.ToString(), page, StringComparison.Ordinal);
        Assert.DoesNotContain(seal.AssemblyId.ToString(), page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_code_is_found_however_it_is_typed()
    {
        var code = CodeOf(await Sealed());
        var answer = await town.Nobody().Client.GetAsync($"/verify?code={code.ToLowerInvariant().Replace('-', '+')}");
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        Assert.Equal($"/verify/{code}", answer.Headers.Location?.OriginalString);
    }

    [Theory]
    [InlineData("/verify", HttpStatusCode.OK, "Type the code")]
    [InlineData("/verify/0000-0000-0000", HttpStatusCode.NotFound, "No report here has the code 0000-0000-0000")]
    [InlineData("/verify/hello", HttpStatusCode.BadRequest, "That is no code of a report")]
    [InlineData("/verify?code=%3Cb%3E", HttpStatusCode.BadRequest, "That is no code of a report")]
    public async Task What_is_no_code_is_answered_in_words(string address, HttpStatusCode status, string says) =>
        Assert.Contains(says, await town.Nobody().Page(address, status), StringComparison.Ordinal);

    [Fact]
    public async Task An_amended_report_and_one_that_a_later_test_followed_say_so()
    {
        var run = await (await town.Begin("ines")).Tested();
        await run.Sign();
        var seal = await town.InStore(s => s.Seals.AsNoTracking().SingleAsync(x => x.RunId == run.Id));
        var page = await town.Nobody().Page($"/verify/{CodeOf(seal)}");
        Assert.Contains("<h1>Genuine</h1>", page, StringComparison.Ordinal);
        Assert.Contains("No later test of this assembly", page, StringComparison.Ordinal);
        await run.Visitor.PostForm($"/reports/{run.Id}", $"/reports/{run.Id}", ("text", "It stands in the <cellar>."));
        page = await town.Nobody().Client.GetStringAsync($"/verify/{CodeOf(seal)}");
        Assert.Contains("Genuine, and amended", page, StringComparison.Ordinal);
        Assert.Contains("It stands in the &lt;cellar&gt;.", page, StringComparison.Ordinal);
        var earlier = await Sealed(runs =>
            runs.Where(r => runs.Any(later => later.AssemblyId == r.AssemblyId && later.SignedAt > r.SignedAt))
        );
        page = await town.Nobody().Page($"/verify/{CodeOf(earlier)}");
        Assert.Contains("was tested again on", page, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_is_checked_where_the_browser_cannot_and_a_changed_one_is_found()
    {
        var seal = await Sealed();
        var pdf = await (await town.As("wilma")).Client.GetByteArrayAsync($"/reports/{seal.RunId}/pdf");
        Assert.Contains("Genuine: the seal holds", await Handed(pdf), StringComparison.Ordinal);
        pdf[pdf.Length / 2] ^= 1;
        Assert.Contains("Do not rely on this file", await Handed(pdf), StringComparison.Ordinal);
        Assert.Contains("Choose the report", await Handed([], HttpStatusCode.BadRequest), StringComparison.Ordinal);
    }

    private async Task<string> Handed(byte[] bytes, HttpStatusCode expected = HttpStatusCode.OK)
    {
        var somebody = town.Nobody();
        var token = Visitor.TokenOf(await somebody.Page("/verify"));
        using var form = new MultipartFormDataContent { { new StringContent(token), "__RequestVerificationToken" } };
        using var file = new ByteArrayContent(bytes);
        file.Headers.ContentType = new MediaTypeHeaderValue("application/pdf");
        form.Add(file, "file", "report.pdf");
        var answer = await somebody.Client.PostAsync("/verify?handler=File", form);
        Assert.Equal(expected, answer.StatusCode);
        return await answer.Content.ReadAsStringAsync();
    }

    [Fact]
    public async Task The_paper_carries_the_code_as_text_that_can_be_searched()
    {
        var seal = await Sealed();
        var pdf = await (await town.As("wilma")).Client.GetByteArrayAsync($"/reports/{seal.RunId}/pdf");
        using var document = UglyToad.PdfPig.PdfDocument.Open(pdf);
        var text = string.Concat(document.GetPages().Select(p => p.Text));
        Assert.Contains(CodeOf(seal), text, StringComparison.Ordinal);
        Assert.Contains("/verify", text, StringComparison.Ordinal);
    }
}
