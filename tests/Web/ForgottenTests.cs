using System.Collections.Concurrent;
using System.Net;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.TestHost;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Outside;
using Mordel.Web.Application;

namespace Mordel.Web.Tests;

/// <summary>A password that was forgotten, where there is mail.</summary>
public sealed partial class ForgottenTests : IAsyncDisposable
{
    private readonly Mailbox mailbox = new();
    private readonly WithMail host;

    public ForgottenTests() => host = new(mailbox);

    public ValueTask DisposeAsync() => host.DisposeAsync();

    private sealed class Mailbox : IMail
    {
        public ConcurrentQueue<OutgoingMail> Letters { get; } = new();

        public Task<Delivery> Send(OutgoingMail letter, CancellationToken cancel)
        {
            Letters.Enqueue(letter);
            return Task.FromResult<Delivery>(new Delivery.Accepted("taken"));
        }
    }

    private sealed class WithMail(IMail mail) : Host(demo: false)
    {
        protected override void ConfigureWebHost(IWebHostBuilder builder)
        {
            base.ConfigureWebHost(builder);
            builder.ConfigureTestServices(s => s.AddSingleton(mail));
        }
    }

    private Visitor Someone() => new(host.CreateClient(new() { AllowAutoRedirect = false }), null);

    [Fact]
    public async Task Who_has_forgotten_it_gets_one_letter_and_a_stranger_learns_nothing_by_asking()
    {
        var owner = Someone();
        await owner.PostForm(
            "/first-account",
            "/first-account",
            ("code", host.Services.GetRequiredService<FirstAccountCode>().Code),
            ("fullName", "Hester Fenn"),
            ("userName", "hester"),
            ("password", "Six lanterns 4 Kelp")
        );
        var id = await host.InStore(s => s.Users.Select(u => u.Id).SingleAsync());
        var at = $"/kits-and-people/{id}";
        var wrong = await owner.PostForm(at, $"{at}?handler=Mail", ("mail", "not an address"));
        Assert.Contains("That is no mail address", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);

        var stranger = Someone();
        async Task<string> Ask(string name)
        {
            var answer = await stranger.PostForm("/forgotten", "/forgotten", ("userName", name));
            Assert.Equal(HttpStatusCode.OK, answer.StatusCode);
            return await answer.Content.ReadAsStringAsync();
        }

        Assert.Contains("Password forgotten?", await stranger.Page("/sign-in"), StringComparison.Ordinal);
        // Nobody knows an address yet.
        var known = await Ask("hester");
        Assert.Equal(known, await Ask("nobody at all"));
        Assert.Contains("If somebody signs in by that name", known, StringComparison.Ordinal);
        await owner.PostForm(at, $"{at}?handler=Mail", ("mail", "hester@fenn.example"));
        await Ask("hester");
        await Ask("hester");
        await Ask("nobody at all");
        for (var i = 0; i < 200 && mailbox.Letters.IsEmpty; i++)
            await Task.Delay(50);
        await Task.Delay(500);
        var letter = Assert.Single(mailbox.Letters);
        Assert.Equal("hester@fenn.example", letter.To);
        var link = Link().Match(letter.Text).Value;
        Assert.Contains("hester", await stranger.Page(link), StringComparison.Ordinal);
        await stranger.PostForm(link, link, ("wanted", "Nine gulls 2 Barrow"), ("again", "Nine gulls 2 Barrow"));
        Assert.Equal("/sign-in", (await owner.Client.GetAsync("/account")).Headers.Location!.AbsolutePath);
        // Neither the address nor the link stands in the log.
        var log = await host.InStore(s => s.Audit.Select(a => a.Says).ToListAsync());
        Assert.DoesNotContain(log, says => says.Contains("fenn.example", StringComparison.Ordinal));
        Assert.DoesNotContain(log, says => says.Contains(link[^40..], StringComparison.Ordinal));
    }

    [System.Text.RegularExpressions.GeneratedRegex("/new-password/[0-9a-f]+")]
    private static partial System.Text.RegularExpressions.Regex Link();

    [Fact]
    public async Task Without_mail_there_is_no_such_page_and_the_door_says_who_helps()
    {
        await using var without = new Host(demo: false);
        var stranger = new Visitor(without.CreateClient(new() { AllowAutoRedirect = false }), null);
        await stranger.Page("/forgotten", HttpStatusCode.NotFound);
        await stranger.PostForm(
            "/first-account",
            "/first-account",
            ("code", without.Services.GetRequiredService<FirstAccountCode>().Code),
            ("fullName", "Hester Fenn"),
            ("userName", "hester"),
            ("password", "Six lanterns 4 Kelp")
        );
        var other = new Visitor(without.CreateClient(new() { AllowAutoRedirect = false }), null);
        Assert.Contains(
            "The owner of this installation gives a link",
            await other.Page("/sign-in"),
            StringComparison.Ordinal
        );
    }
}
