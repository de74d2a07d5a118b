using System.Net;
using System.Net.Http.Json;
using System.Text;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Data.Accounts;
using Mordel.Data.Audit;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.Tests;

/// <summary>Coming in, going out, and what somebody who is not to come in gets: nothing.</summary>
public sealed partial class SignInTests : IAsyncLifetime, IAsyncDisposable
{
    private const string Phrase = "Six lanterns 4 Kelp",
        Other = "Nine gulls 2 Barrow";

    private readonly Host host = new(demo: false);

    private Visitor Someone(bool keepsCookies = true) =>
        new(host.CreateClient(new() { AllowAutoRedirect = false, HandleCookies = keepsCookies }), null);

    public async Task InitializeAsync()
    {
        var owner = Someone();
        var code = host.Services.GetRequiredService<FirstAccountCode>().Code;
        await owner.PostForm(
            "/first-account",
            "/first-account",
            ("code", code),
            ("fullName", "Hester Fenn"),
            ("userName", "hester"),
            ("password", Phrase)
        );
    }

    public ValueTask DisposeAsync() => host.DisposeAsync();

    Task IAsyncLifetime.DisposeAsync() => host.DisposeAsync().AsTask();

    private static Task<HttpResponseMessage> SignIn(Visitor who, string name, string password) =>
        who.PostForm("/sign-in", "/sign-in", ("userName", name), ("password", password));

    private async Task<Visitor> In(string name, string password = Phrase)
    {
        var who = Someone();
        var answer = await SignIn(who, name, password);
        Assert.Equal("/", answer.Headers.Location?.ToString());
        who.Cookies = [.. answer.Headers.GetValues("Set-Cookie").Select(c => c.Split(';')[0])];
        return who;
    }

    private static async Task<bool> IsIn(Visitor who) =>
        (await who.Client.GetAsync("/account")).StatusCode == HttpStatusCode.OK;

    private Task<Account> Account(string name) => host.InStore(s => s.Users.SingleAsync(u => u.UserName == name));

    private async Task<Guid> Somebody(string name, string role = Roles.Tester)
    {
        var owner = await In("hester");
        var answer = await owner.PostForm(
            "/kits-and-people",
            "/kits-and-people?handler=Person",
            ("fullName", $"{name} Ferrin"),
            ("userName", name),
            ("role", role),
            ("password", "Four gannets 9 Weir")
        );
        Assert.Equal("/kits-and-people", answer.Headers.Location?.ToString());
        // Whoever added them knows the password: they change it first, to one that the tests know too.
        const string First = "Four gannets 9 Weir";
        var who = await In(name, First);
        Assert.Equal("/password", (await who.Client.GetAsync("/")).Headers.Location?.ToString());
        await who.PostForm("/password", "/password", ("current", First), ("wanted", Phrase), ("again", Phrase));
        await who.PostForm("/account", "/sign-out");
        return (await Account(name)).Id;
    }

    [Fact]
    public async Task Whoever_signs_out_is_out_also_with_a_copy_of_the_cookie()
    {
        var who = await In("hester");
        var thief = Someone(keepsCookies: false);
        thief.Client.DefaultRequestHeaders.Add("Cookie", string.Join("; ", who.Cookies));
        Assert.True(await IsIn(thief));
        await who.PostForm("/account", "/sign-out");
        Assert.False(await IsIn(who));
        Assert.False(await IsIn(thief));
        Assert.Equal(HttpStatusCode.Unauthorized, (await thief.Client.GetAsync("/api/runs")).StatusCode);
    }

    [Fact]
    public async Task A_password_that_was_hashed_with_fewer_rounds_is_hashed_anew_when_it_is_shown()
    {
        static int Rounds(string hash) =>
            System.Buffers.Binary.BinaryPrimitives.ReadInt32BigEndian(Convert.FromBase64String(hash).AsSpan(5));
        var old = new PasswordHasher<Account>().HashPassword(null!, Phrase);
        Assert.Equal(100_000, Rounds(old));
        host.HashAsShipped();
        await host.InStore(s => s.Users.ExecuteUpdateAsync(u => u.SetProperty(a => a.PasswordHash, old)));
        await In("hester");
        Assert.Equal(210_000, Rounds((await Account("hester")).PasswordHash!));
    }

    [Fact]
    public async Task Everybody_sees_where_they_are_signed_in_and_ends_what_was_lost()
    {
        var (desk, phone, stranger) = (await In("hester"), await In("hester"), await Somebody("moa"));
        var moa = await In("moa");
        var mine = await host.InStore(s =>
            s.Sessions.Where(x => x.Account!.UserName == "hester" && x.EndedAt == null).OrderBy(x => x.At).ToListAsync()
        );
        Assert.Contains("this one", await desk.Page("/account"), StringComparison.Ordinal);
        // Another's cannot be ended by guessing its number.
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await moa.PostForm("/account", "/account?handler=End", ("id", $"{mine[^1].Id}"))).StatusCode
        );
        Assert.True(await IsIn(phone));
        await desk.PostForm("/account", "/account?handler=EndOthers");
        Assert.False(await IsIn(phone));
        Assert.True(await IsIn(desk) && await IsIn(moa));
        var session = await host.InStore(s =>
            s.Sessions.SingleAsync(x => x.AccountId == stranger && x.EndedAt == null)
        );
        Assert.Contains("moa Ferrin", await desk.Page("/installation/sign-ins"), StringComparison.Ordinal);
        Assert.NotEqual(HttpStatusCode.OK, (await moa.Client.GetAsync("/installation/sign-ins")).StatusCode);
        await desk.PostForm("/installation/sign-ins", "/installation/sign-ins?handler=End", ("id", $"{session.Id}"));
        Assert.False(await IsIn(moa));
        var ended = await host.InStore(s =>
            s.Audit.Where(a => a.What == AuditKinds.SignedOut && a.Says != "").OrderBy(a => a.Number).ToListAsync()
        );
        Assert.Equal(["on 3 other devices", "on an unknown browser, by the owner"], ended.Select(a => a.Says));
        Assert.Equal($"{stranger}", ended[^1].On);
    }

    [Fact]
    public async Task A_password_that_somebody_else_gave_is_changed_before_anything_is_done()
    {
        var (moa, owner) = (await Somebody("moa"), await In("hester"));
        var old = await In("moa");
        await owner.PostForm(
            $"/kits-and-people/{moa}",
            $"/kits-and-people/{moa}?handler=Password",
            ("wanted", "Eleven oars 3 Quay")
        );
        Assert.False(await IsIn(old));
        var who = await In("moa", "Eleven oars 3 Quay");
        foreach (var room in (string[])["/", "/register", "/account", "/programs"])
            Assert.Equal("/password", (await who.Client.GetAsync(room)).Headers.Location?.ToString());
        Assert.Equal(HttpStatusCode.Forbidden, (await who.Client.GetAsync("/api/runs")).StatusCode);
        Assert.Contains("Somebody else gave you this password", await who.Page("/password"), StringComparison.Ordinal);
        await who.PostForm(
            "/password",
            "/password",
            ("current", "Eleven oars 3 Quay"),
            ("wanted", Other),
            ("again", Other)
        );
        Assert.True(await IsIn(who));
    }

    [Fact]
    public async Task A_link_of_the_owner_sets_a_password_once()
    {
        var (moa, owner) = (await Somebody("moa"), await In("hester"));
        var answer = await owner.PostForm($"/kits-and-people/{moa}", $"/kits-and-people/{moa}?handler=Link");
        var link = LinkOf().Match(await answer.Content.ReadAsStringAsync()).Groups[1].Value;
        var who = Someone();
        Assert.Contains(
            "You sign in as moa",
            (await who.Page(link)).Replace("<strong>", "").Replace("</strong>", ""),
            StringComparison.Ordinal
        );
        var wrong = await who.PostForm(link, link, ("wanted", "passwordpassword"), ("again", "passwordpassword"));
        Assert.Contains("everybody takes", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Equal(
            "/sign-in",
            (await who.PostForm(link, link, ("wanted", Other), ("again", Other))).Headers.Location?.ToString()
        );
        await who.Page(link, HttpStatusCode.NotFound);
        await In("moa", Other);
        var office = await Somebody("wilma", Roles.Office);
        var wilma = await In("wilma");
        Assert.NotEqual(
            HttpStatusCode.OK,
            (await wilma.PostForm($"/kits-and-people/{office}", $"/kits-and-people/{moa}?handler=Link")).StatusCode
        );
    }

    [System.Text.RegularExpressions.GeneratedRegex("data-link>http://localhost(/new-password/[^<]+)<")]
    private static partial System.Text.RegularExpressions.Regex LinkOf();

    [Fact]
    public async Task Whoever_is_dismissed_is_out_at_once_and_answered_like_a_stranger()
    {
        var (moa, owner) = (await Somebody("moa"), await In("hester"));
        var who = await In("moa");
        await owner.PostForm($"/kits-and-people/{moa}", $"/kits-and-people/{moa}?handler=Dismiss");
        Assert.False(await IsIn(who));
        var again = await SignIn(Someone(), "moa", Phrase);
        Assert.Contains("do not fit together", await again.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        Assert.Contains(
            "does not come in any more",
            await owner.Page($"/kits-and-people/{moa}"),
            StringComparison.Ordinal
        );
        await owner.PostForm($"/kits-and-people/{moa}", $"/kits-and-people/{moa}?handler=Forget");
        Assert.NotNull((await host.InStore(s => s.Users.SingleAsync(u => u.Id == moa))).ForgottenAt);
    }

    [Fact]
    public async Task A_stranger_who_tries_the_owners_name_keeps_them_out_nowhere_they_were_before()
    {
        var home = await In("hester");
        await home.PostForm("/account", "/sign-out");
        var stranger = Someone();
        for (var i = 0; i < 20; i++)
            await SignIn(stranger, "hester", $"guess number {i}");
        // On a strange device the name rests now, even for the right password; at home it does not.
        Assert.Contains(
            "do not fit together",
            await (await SignIn(stranger, "hester", Phrase)).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        Assert.Equal("/", (await SignIn(home, "hester", Phrase)).Headers.Location?.ToString());
        // And whoever tries writes no more into the log than the tries that counted.
        var written = await host.InStore(s =>
            s.Audit.CountAsync(a => a.What == AuditKinds.SignInFailed || a.What == AuditKinds.LockedOut)
        );
        Assert.Equal(SignInTries.MostOfAName, written);
        Assert.Equal(1, await host.InStore(s => s.Audit.CountAsync(a => a.What == AuditKinds.LockedOut)));
    }

    // As a program for one-time codes does it (RFC 6238: SHA-1, half a minute, six digits).
    private static string CodeOf(string key)
    {
        const string Letters = "ABCDEFGHIJKLMNOPQRSTUVWXYZ234567";
        var bits = string.Concat(key.Select(c => Convert.ToString(Letters.IndexOf(c), 2).PadLeft(5, '0')));
        var secret = Enumerable
            .Range(0, bits.Length / 8)
            .Select(i => Convert.ToByte(bits.Substring(8 * i, 8), 2))
            .ToArray();
        var step = BitConverter.GetBytes(DateTimeOffset.UtcNow.ToUnixTimeSeconds() / 30).Reverse().ToArray();
#pragma warning disable CA5350 // It is what the devices reckon with.
        var hash = System.Security.Cryptography.HMACSHA1.HashData(secret, step);
#pragma warning restore CA5350
        var at = hash[^1] & 15;
        var number = ((hash[at] & 127) << 24) | (hash[at + 1] << 16) | (hash[at + 2] << 8) | hash[at + 3];
        return $"{number % 1_000_000:000000}";
    }

    [Fact]
    public async Task Who_wants_codes_is_asked_for_one_and_those_put_by_open_once()
    {
        var who = await In("hester");
        var page = await (await who.PostForm("/account", "/account?handler=BeginCodes")).Content.ReadAsStringAsync();
        var key = KeyOf().Match(page).Groups[1].Value.Replace(" ", "", StringComparison.Ordinal);
        Assert.Equal(32, key.Length);
        var wrong = await who.PostForm("/account", "/account?handler=Codes", ("code", "000000"));
        Assert.Contains("not the code", await wrong.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        var right = await who.PostForm("/account", "/account?handler=Codes", ("code", CodeOf(key)));
        var putBy = PutBy().Matches(await right.Content.ReadAsStringAsync()).Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(8, putBy.Count);
        Assert.True(await IsIn(who));

        var other = Someone();
        Assert.Equal("/sign-in/code", (await SignIn(other, "hester", Phrase)).Headers.Location?.ToString());
        Assert.False(await IsIn(other));
        Assert.Contains(
            "That is not the code",
            await (
                await other.PostForm("/sign-in/code", "/sign-in/code", ("code", "123456"))
            ).Content.ReadAsStringAsync(),
            StringComparison.Ordinal
        );
        await other.PostForm("/sign-in/code", "/sign-in/code", ("code", putBy[0]));
        Assert.True(await IsIn(other));
        var third = Someone();
        await SignIn(third, "hester", Phrase);
        await third.PostForm("/sign-in/code", "/sign-in/code", ("code", putBy[0]));
        Assert.False(await IsIn(third));
        await third.PostForm("/sign-in/code", "/sign-in/code", ("code", CodeOf(key)));
        Assert.True(await IsIn(third));
        // Nobody comes to the code without the password.
        Assert.Equal("/sign-in", (await Someone().Client.GetAsync("/sign-in/code")).Headers.Location?.ToString());
    }

    [System.Text.RegularExpressions.GeneratedRegex("class=\"secret num\">([A-Z2-7 ]+)<")]
    private static partial System.Text.RegularExpressions.Regex KeyOf();

    [System.Text.RegularExpressions.GeneratedRegex("<li>([A-Z0-9]{5}-[A-Z0-9]{5})</li>")]
    private static partial System.Text.RegularExpressions.Regex PutBy();

    [Theory]
    [InlineData("/sign-in?handler=Passkey", "opens nothing here")]
    [InlineData("/account?handler=Passkey", "No passkey came of it")]
    [InlineData("/show-again?handler=Passkey", "That is not it")]
    public async Task Whatever_is_sent_as_a_passkey_opens_nothing_and_breaks_nothing(string to, string says)
    {
        var who = await In("hester");
        foreach (
            var answer in (string[])
                [
                    "",
                    "{}",
                    "[]",
                    "null",
                    "{\"id\":\"x\",\"rawId\":\"x\",\"type\":\"public-key\",\"response\":{}}",
                    "{",
                    new('x', 30_000),
                ]
        )
        {
            var reply = await who.PostForm("/account", to, ("answer", answer), ("name", "phone"));
            Assert.Equal(HttpStatusCode.OK, reply.StatusCode);
            Assert.Contains(says, await reply.Content.ReadAsStringAsync(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public async Task What_is_kept_about_somebody_they_take_with_them_and_no_secret_is_in_it()
    {
        var who = await In("hester");
        var about = await who.Client.GetStringAsync("/account?handler=About");
        Assert.Contains("mordel.person/1", about, StringComparison.Ordinal);
        Assert.Contains("Hester Fenn", about, StringComparison.Ordinal);
        var account = await Account("hester");
        Assert.DoesNotContain(account.PasswordHash!, about, StringComparison.Ordinal);
        Assert.DoesNotContain(account.SecurityStamp!, about, StringComparison.Ordinal);
        Assert.Equal(
            HttpStatusCode.NotFound,
            (await who.Client.GetAsync($"/kits-and-people/{Guid.NewGuid()}?handler=About")).StatusCode
        );
    }

    [Fact]
    public async Task Nothing_that_belongs_to_somebody_is_kept_on_the_way()
    {
        var who = await In("hester");
        foreach (
            var url in (string[])["/", "/register", "/api/runs", "/account", "/installation/audit.csv", "/sign-in"]
        )
            Assert.Contains(
                "no-store",
                (await who.Client.GetAsync(url)).Headers.CacheControl?.ToString() ?? "",
                StringComparison.Ordinal
            );
        var cookie = (await SignIn(Someone(), "hester", Phrase))
            .Headers.GetValues("Set-Cookie")
            .First(c => c.StartsWith("mordel=", StringComparison.Ordinal));
        Assert.Contains("httponly", cookie, StringComparison.OrdinalIgnoreCase);
        Assert.Contains("samesite=lax", cookie, StringComparison.OrdinalIgnoreCase);
    }
}
