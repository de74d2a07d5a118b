using System.Net;
using System.Text;
using System.Text.RegularExpressions;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Repairs;

namespace Mordel.Web.Tests;

/// <summary>The repair room in the invented town: jobs, pictures, costs, parts.</summary>
[Collection("second town")]
public class RepairRoomTests(Town town)
{
    private async Task<string> Begin(Visitor who)
    {
        var assembly = await town.InStore(s =>
            s.Assemblies.Where(a => a.Type == "RP" && !s.Repairs.Any(r => r.AssemblyId == a.Id && r.RetestId == null))
                .OrderBy(a => a.Tag)
                .Select(a => a.Id)
                .FirstAsync()
        );
        var answer = await who.PostForm($"/register/{assembly}", "/repairs", ("assembly", assembly.ToString()));
        Assert.Equal(HttpStatusCode.Redirect, answer.StatusCode);
        return answer.Headers.Location!.ToString();
    }

    private static Task<HttpResponseMessage> Enter(
        Visitor who,
        string job,
        params (string Name, string Value)[] fields
    ) => who.PostForm(job, job, fields);

    [Fact]
    public async Task A_repair_goes_on_step_by_step_and_what_lacks_is_said_in_place()
    {
        var ines = await town.As("ines");
        var job = await Begin(ines);
        Assert.Contains("Tell the occupant", await ines.Page(job), StringComparison.Ordinal);
        foreach (
            var wrong in new (string, string)[][]
            {
                [("kind", "agreed")],
                [("kind", "sung")],
                [("kind", "acted"), ("opening", "1"), ("part", "disc")],
                [("kind", "opened"), ("sheet", "screw-cap-poppet"), ("part", "cv1")],
                [("kind", "stopgap"), ("opening", "1"), ("part", "disc"), ("due", "soon")],
                [("kind", "used"), ("text", "kit"), ("count", "-3")],
            }
        )
        {
            var answer = await Enter(ines, job, wrong);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            Assert.Contains("role=\"alert\"", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }

        Assert.Equal(
            HttpStatusCode.Redirect,
            (await Enter(ines, job, ("kind", "agreed"), ("who", "Dag Ullen"))).StatusCode
        );
        var page = await ines.Page(job);
        Assert.Contains("Close SO2, then SO1", page, StringComparison.Ordinal);
        Assert.DoesNotContain("Open TC4, TC3, TC2, TC1", page, StringComparison.Ordinal);
        var log = await (await ines.Client.GetAsync($"/api{job}/log")).Content.ReadAsStringAsync();
        Assert.Contains("\"kind\":\"agreed\",\"who\":\"Dag Ullen\"", log, StringComparison.Ordinal);
        await ines.Page($"/repairs/{Guid.NewGuid()}", HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task The_desk_sees_a_repair_and_does_not_begin_its_test()
    {
        var wilma = await town.As("wilma");
        var job = await Begin(wilma);
        var answer = await wilma.PostForm(job, $"{job}?handler=Retest");
        Assert.NotEqual(HttpStatusCode.OK, answer.StatusCode);
        Assert.DoesNotContain("/runs/", answer.Headers.Location?.ToString() ?? "", StringComparison.Ordinal);
        var id = Guid.Parse(job.Split('/')[^1]);
        Assert.Null(await town.InStore(s => s.Repairs.Where(r => r.Id == id).Select(r => r.RetestId).SingleAsync()));
    }

    private static async Task<HttpResponseMessage> Send(Visitor who, string job, byte[] form, string boundary = "b")
    {
        var token = Visitor.TokenOf(await who.Page(job));
        using var request = new HttpRequestMessage(HttpMethod.Post, $"/api{job}/photos");
        request.Content = new ByteArrayContent(form);
        request.Content.Headers.TryAddWithoutValidation("Content-Type", $"multipart/form-data; boundary={boundary}");
        request.Headers.Add("X-Mordel-Token", token);
        return await who.Client.SendAsync(request);
    }

    private static byte[] Form(byte[] photo, string entry, string end = "\r\n--b--\r\n") =>
        [
            .. Encoding.UTF8.GetBytes(
                $"--b\r\nContent-Disposition: form-data; name=\"entry\"\r\n\r\n{entry}\r\n"
                    + "--b\r\nContent-Disposition: form-data; name=\"of\"\r\n\r\nCV1, seal disc\r\n"
                    + "--b\r\nContent-Disposition: form-data; name=\"photo\"; filename=\"x.jpg\"\r\n"
                    + "Content-Type: image/jpeg\r\n\r\n"
            ),
            .. photo,
            .. Encoding.UTF8.GetBytes(end),
        ];

    [Fact]
    public async Task A_picture_cut_off_on_its_way_leaves_nothing_and_taken_again_it_stands()
    {
        var ines = await town.As("ines");
        var job = await Begin(ines);
        var photo = DemoData.DrawnPhotos.Disc(Core.Diagnosis.OpenedFinding.Debris, 7);
        var (entry, whole) = (Guid.NewGuid().ToString(), Form(photo, Guid.NewGuid().ToString()));
        foreach (var cut in new[] { whole[..(whole.Length / 2)], whole[..120], [] })
        {
            var answer = await Send(ines, job, cut);
            Assert.Equal(HttpStatusCode.BadRequest, answer.StatusCode);
        }

        Assert.DoesNotContain("<img", await ines.Page(job), StringComparison.Ordinal);
        for (var twice = 0; twice < 2; twice++)
            Assert.Equal(HttpStatusCode.OK, (await Send(ines, job, Form(photo, entry))).StatusCode);
        var page = await ines.Page(job);
        var shown = Assert.Single(Regex.Matches(page, $"src=\"({job}/photos/[0-9a-f]+)"));
        var kept = await ines.Client.GetAsync(shown.Groups[1].Value);
        Assert.Equal("image/jpeg", kept.Content.Headers.ContentType!.MediaType);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await ines.Client.GetAsync($"{job}/photos/{new string('a', 64)}")).StatusCode
        );
        // Somebody who sees no customer sees no picture of one.
        var pia = await town.As("pia");
        Assert.NotEqual(HttpStatusCode.OK, (await pia.Client.GetAsync(shown.Groups[1].Value)).StatusCode);
    }

    [Fact]
    public async Task A_file_that_is_no_picture_is_refused_in_words()
    {
        var ines = await town.As("ines");
        var job = await Begin(ines);
        var answer = await Send(ines, job, Form("<svg onload='alert(1)'/>"u8.ToArray(), Guid.NewGuid().ToString()));
        Assert.Equal(HttpStatusCode.Conflict, answer.StatusCode);
        Assert.Contains("no picture", await answer.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var nameless = await Send(ines, job, Form([1, 2, 3], "not-an-id"));
        Assert.Equal(HttpStatusCode.BadRequest, nameless.StatusCode);
    }

    [Fact]
    public async Task What_it_costs_can_be_asked_with_any_figures_and_says_what_would_change_it()
    {
        var ines = await town.As("ines");
        var job = await Begin(ines);
        Assert.Contains("costs less", await ines.Page($"{job}/costs"), StringComparison.Ordinal);
        var dear = await ines.Page($"{job}/costs?kit=500000&assembly=900000&kitIsMade=true");
        Assert.Contains("<h2>Clean it.</h2>", dear, StringComparison.Ordinal);
        var unmade = await ines.Page($"{job}/costs?kitIsMade=false");
        Assert.DoesNotContain("<h3>Put a kit in</h3>", unmade, StringComparison.Ordinal);
        await ines.Page($"{job}/costs?labour=-1&years=999&cleanFails=7000&kit=x");
    }

    [Fact]
    public async Task A_list_of_parts_is_taken_in_whole_by_the_desk_or_every_wrong_line_is_named()
    {
        var wilma = await town.As("wilma");
        async Task<string> Import(string csv)
        {
            using var form = new MultipartFormDataContent
            {
                { new StringContent(Visitor.TokenOf(await wilma.Page("/parts"))), "__RequestVerificationToken" },
                { new StringContent(csv), "file", "parts.csv" },
            };
            var answer = await wilma.Client.PostAsync("/parts?handler=Import", form);
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            return await answer.Content.ReadAsStringAsync();
        }

        const string Head = "make,model,size,name,part,price,supplier number,lead days,least,in store\n";
        Assert.Contains("line 2: price", await Import($"{Head}A,B,,kit,cv1,dear,X,1,1,1\n"), StringComparison.Ordinal);
        var taken = await Import($"{Head}Aldwater Brass,Z-99,,kit,cv1,12.50,X-1,1,3,1\n");
        Assert.Contains("1 new", taken, StringComparison.Ordinal);
        Assert.Contains("low: 3 wanted, order 5", await wilma.Page("/parts"), StringComparison.Ordinal);
        var order = await (await wilma.Client.GetAsync("/parts?handler=Order")).Content.ReadAsStringAsync();
        Assert.Equal(
            "X-1,5,kit,Aldwater Brass,Z-99,,12.5,1",
            order.Split("\r\n").Single(l => l.Contains("Z-99", StringComparison.Ordinal))
        );
    }

    [Fact]
    public async Task The_towns_past_has_repairs_with_pictures_stopgaps_kits_used_and_a_test_after_each()
    {
        var repairs = await town.InStore(s =>
            s.Repairs.Include(r => r.Entries).Where(r => r.RetestId != null).ToListAsync()
        );
        Assert.NotEmpty(repairs);
        Assert.All(repairs, r => Assert.Equal(nameof(RepairStage.Retest), r.Stage));
        Assert.Contains(repairs, r => r.Entries.Any(e => e.Json.Contains("\"photo\"", StringComparison.Ordinal)));
        var stopgaps = await town.InStore(s => s.FollowUps.ToListAsync());
        Assert.Contains(stopgaps, f => f.How is not null);
        Assert.Contains(stopgaps, f => f.How is null);
        Assert.True(await town.InStore(s => s.PartMoves.AnyAsync(m => m.Count < 0)));
        Assert.True(await town.InStore(s => s.Assemblies.AnyAsync(a => a.ChanceToFail >= 25)));
        var open = stopgaps.First(f => f.How is null).AssemblyId;
        var tag = await town.InStore(s => s.Assemblies.Where(a => a.Id == open).Select(a => a.Tag).SingleAsync());
        var wilma = await town.As("wilma");
        Assert.Contains("stopgap until", await wilma.Page($"/register?q={tag}"), StringComparison.Ordinal);
        Assert.Contains("Stopgap.", await wilma.Page($"/register/{open}"), StringComparison.Ordinal);
        Assert.Contains(tag, await wilma.Page("/"), StringComparison.Ordinal);
        // The report of each such test carries what was done.
        var ines = await town.As("ines");
        var report = await ines.Page($"/reports/{repairs[0].RetestId}");
        Assert.Contains("Before the repair", report, StringComparison.Ordinal);
        Assert.Contains("After the repair", report, StringComparison.Ordinal);
    }
}
