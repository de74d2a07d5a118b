using System.Net;
using Mordel.Data.Startup;
using Mordel.Web.Application;
using Mordel.Web.Hosting;
using Mordel.Web.SigningIn;

namespace Mordel.Web.Tests;

/// <summary>Under which names it answers, whom it believes, who may read the figures.</summary>
public class FrontDoorTests
{
    private const string Own = "localhost 127.0.0.1 [::1]";

    [Theory]
    [InlineData(null, null, "http://127.0.0.1:5170", Own)]
    [InlineData(null, null, null, Own)]
    [InlineData("https://tests.example", null, "http://127.0.0.1:5170", $"{Own} tests.example")]
    [InlineData(
        "https://tests.example:8443/",
        "a.example, b.example",
        null,
        $"{Own} a.example b.example tests.example"
    )]
    [InlineData(null, "a.example", "http://0.0.0.0:80", $"{Own} a.example")]
    [InlineData(null, null, "http://0.0.0.0:80", "*")]
    public void It_answers_under_its_own_names_alone(string? address, string? hosts, string? urls, string names) =>
        Assert.Equal(names, string.Join(' ', FrontDoor.Names(new() { Address = address, Hosts = hosts }, urls)));

    [Fact]
    public void What_is_no_address_and_no_network_is_refused_in_words()
    {
        Assert.Equal(
            [IPAddress.Loopback, IPAddress.IPv6Loopback],
            FrontDoor.Proxies(new() { Proxies = "127.0.0.1 ::1" })
        );
        Assert.Contains(
            "tests.example is no network address",
            Assert.Throws<StartRefusedException>(() => FrontDoor.Proxies(new() { Proxies = "tests.example" })).Message,
            StringComparison.Ordinal
        );
        Assert.Empty(Watching.Networks(new()));
        Assert.Empty(Watching.Networks(new() { MetricsFrom = "none" }));
        var networks = Watching.Networks(new() { MetricsFrom = "10.0.0.0/8, 192.168.1.7 ::1" });
        Assert.True(networks[0].Contains(IPAddress.Parse("10.9.8.7")) && !networks[0].Contains(IPAddress.Loopback));
        Assert.True(
            networks[1].Contains(IPAddress.Parse("192.168.1.7"))
                && !networks[1].Contains(IPAddress.Parse("192.168.1.8"))
        );
        Assert.Throws<StartRefusedException>(() => Watching.Networks(new() { MetricsFrom = "everybody" }));
    }

    [Theory]
    [InlineData("https://tests.example", true)]
    [InlineData("HTTPS://tests.example", true)]
    [InlineData("http://tests.example", false)]
    [InlineData(null, false)]
    public void Cookies_are_for_tls_alone_where_people_come_by_it(string? address, bool byTls) =>
        Assert.Equal(byTls, new MordelOptions { Address = address }.IsReachedByTls);

    [Theory]
    [InlineData("Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0", "Firefox on Linux")]
    [InlineData(
        "Mozilla/5.0 (Linux; Android 15) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/140.0 Mobile Safari/537.36",
        "Chromium on Android"
    )]
    [InlineData(
        "Mozilla/5.0 (iPhone; CPU iPhone OS 18_0 like Mac OS X) AppleWebKit/605.1.15 Version/18.0 Mobile Safari/604.1",
        "Safari on iPhone"
    )]
    [InlineData("Mozilla/5.0 (Windows NT 10.0) Chrome/140.0 Safari/537.36 Edg/140.0", "Edge on Windows")]
    [InlineData("something (Linux)", "a browser on Linux")]
    [InlineData("", "an unknown browser")]
    public void A_device_is_named_in_two_words(string userAgent, string words) =>
        Assert.Equal(words, DeviceWords.Of(userAgent));
}
