using System.Collections.Immutable;
using System.Net;
using System.Text;
using Mordel.Authorities;
using Mordel.Core.Outside;
using Mordel.Simulators;
using Mordel.Web.Application;
using Mordel.Web.Hosting;

namespace Mordel.Web.Tests;

/// <summary>The way to an authority's service over a real wire, whatever the service does.</summary>
public sealed class AuthorityServiceTests : IAsyncLifetime, IAsyncDisposable
{
    private const string Board = "simulated://board.invalid";
    private readonly string folder = Directory.CreateTempSubdirectory("mordel-authority-").FullName;
    private readonly SimulatedClock clock = new();
    private readonly SimulatedAuthorities authorities = new();
    private readonly HttpClient client = HttpIntake.Client();

    public async Task InitializeAsync() => await authorities.Start(Board, "Board of <Waters>", folder, clock);

    public async Task DisposeAsync()
    {
        client.Dispose();
        await authorities.DisposeAsync();
        Directory.Delete(folder, recursive: true);
    }

    ValueTask IAsyncDisposable.DisposeAsync() => new(DisposeAsync());

    private HttpIntake Intake => new(client, authorities);

    private AuthorityDesk Desk => authorities.Running[Board].Desk;

    private Task<Delivery> Submit(string key = "report/1", string text = "%PDF-1.7", string address = Board) =>
        Intake.Submit(
            new(
                key,
                "Board of <Waters>",
                address,
                "T-1/ä",
                new("T-1.pdf", "application/pdf", [.. Encoding.UTF8.GetBytes(text)])
            ),
            default
        );

    [Fact]
    public async Task The_same_report_handed_in_again_gives_the_same_receipt()
    {
        var first = Assert.IsType<Delivery.Accepted>(await Submit());
        Assert.Equal(first, await Submit());
        Assert.NotEqual(first, await Submit("report/2"));
    }

    [Theory]
    [InlineData(AuthorityMood.Refuses, "No such meter.")]
    [InlineData(AuthorityMood.RefusesThenTakes, "No such meter.")]
    public async Task A_refusal_gives_the_authority_s_reason(AuthorityMood mood, string says)
    {
        Desk.Behave(mood, says);
        var declined = Assert.IsType<Delivery.Declined>(await Submit());
        Assert.Contains(says, declined.Why, StringComparison.Ordinal);
    }

    [Fact]
    public async Task What_cannot_be_read_is_refused() =>
        Assert.Contains("no PDF", Assert.IsType<Delivery.Declined>(await Submit(text: "hello")).Why);

    [Fact]
    public async Task One_that_is_down_is_tried_later_and_asks_for_time()
    {
        Desk.Behave(AuthorityMood.Down, null);
        var later = Assert.IsType<Delivery.Later>(await Submit());
        Assert.Equal(TimeSpan.FromMinutes(10), later.After);
        clock.Offset += AuthorityDesk.DownFor + TimeSpan.FromSeconds(1);
        Assert.IsType<Delivery.Accepted>(await Submit());
    }

    [Theory]
    [InlineData(AuthorityMood.HangsUp, "may have taken it")]
    [InlineData(AuthorityMood.Garbles, "unreadable")]
    public async Task An_answer_that_is_lost_or_unreadable_is_tried_again(AuthorityMood mood, string says)
    {
        Desk.Behave(mood, null);
        Assert.Contains(says, Assert.IsType<Delivery.Later>(await Submit()).Why, StringComparison.Ordinal);
        Desk.Behave(AuthorityMood.Takes, null);
        Assert.IsType<Delivery.Accepted>(await Submit());
    }

    [Theory]
    [InlineData("http://board.invalid", "no address")]
    [InlineData("nonsense", "no address")]
    [InlineData("simulated://elsewhere.invalid", "no address")]
    public async Task What_is_no_address_of_a_service_is_refused_here(string address, string says) =>
        Assert.Contains(
            says,
            Assert.IsType<Delivery.Declined>(await Submit(address: address)).Why,
            StringComparison.Ordinal
        );

    [Fact]
    public async Task A_service_that_is_not_there_is_tried_later() =>
        Assert.Contains(
            "cannot be reached",
            Assert.IsType<Delivery.Later>(await Submit(address: "http://127.0.0.1:9")).Why,
            StringComparison.Ordinal
        );

    [Fact]
    public async Task A_service_that_asks_who_calls_takes_reports_only_with_its_key()
    {
        const string asking = "simulated://asking.invalid";
        await authorities.Start(asking, "Board of Doors", Path.Combine(folder, "asking"), clock, "sesame");
        async Task<Delivery> With(string? secret) =>
            await Intake.Submit(
                new("report/9", "Board of Doors", asking, "T-9", new("T-9.pdf", "application/pdf", [.. "%PDF-1.7"u8]))
                {
                    Secret = secret,
                },
                default
            );
        Assert.Equal(
            "Board of Doors does not know who calls: A key is wanted. Set its key in Rules.",
            Assert.IsType<Delivery.Declined>(await With(null)).Why
        );
        Assert.EndsWith(
            "Set the right key in Rules.",
            Assert.IsType<Delivery.Declined>(await With("simsim")).Why,
            StringComparison.Ordinal
        );
        authorities.Running[asking].Desk.Behave(AuthorityMood.TakesThenRefuses, null);
        Assert.IsType<Delivery.Accepted>(await With("sesame"));
        clock.Offset += AuthorityDesk.LooksAgainAfter;
        Assert.Empty(await Intake.Rulings(asking, null, 0, default));
        Assert.Single(await Intake.Rulings(asking, "sesame", 0, default));
    }

    [Fact]
    public async Task Second_thoughts_are_asked_for_behind_the_last_one_known()
    {
        Desk.Behave(AuthorityMood.TakesThenRefuses, null);
        await Submit();
        Assert.Empty(await Intake.Rulings(Board, null, 0, default));
        clock.Offset += AuthorityDesk.LooksAgainAfter;
        var ruling = Assert.Single(await Intake.Rulings(Board, null, 0, default));
        Assert.Equal(("report/1", false), (ruling.Key, ruling.Taken));
        Assert.Empty(await Intake.Rulings(Board, null, ruling.Number, default));
        Assert.Equal(ImmutableArray<IntakeRuling>.Empty, await Intake.Rulings("nonsense", null, 0, default));
    }

    [Fact]
    public async Task Its_page_says_that_it_is_simulated_and_shows_what_came()
    {
        await Submit();
        var address = authorities.At(Board)!;
        var page = await client.GetStringAsync(address);
        Assert.Contains("Simulated.", page, StringComparison.Ordinal);
        Assert.Contains("Board of &lt;Waters&gt;: one report", page, StringComparison.Ordinal);
        using var form = new FormUrlEncodedContent([new("mood", "Refuses"), new("why", "The <meter>")]);
        Assert.Equal(HttpStatusCode.Redirect, (await client.PostAsync(new Uri(address, "mood"), form)).StatusCode);
        Assert.Contains("The &lt;meter&gt;", await client.GetStringAsync(address), StringComparison.Ordinal);
        using var wrong = new FormUrlEncodedContent([new("mood", "99")]);
        Assert.Equal(HttpStatusCode.BadRequest, (await client.PostAsync(new Uri(address, "mood"), wrong)).StatusCode);
    }

    [Fact]
    public async Task Another_site_cannot_tell_it_how_to_behave()
    {
        using var request = new HttpRequestMessage(HttpMethod.Post, new Uri(authorities.At(Board)!, "mood"))
        {
            Content = new FormUrlEncodedContent([new("mood", "Refuses")]),
        };
        request.Headers.Add("Sec-Fetch-Site", "cross-site");
        Assert.Equal(HttpStatusCode.Forbidden, (await client.SendAsync(request)).StatusCode);
        Assert.Equal(AuthorityMood.Takes, Desk.Mood);
    }
}
