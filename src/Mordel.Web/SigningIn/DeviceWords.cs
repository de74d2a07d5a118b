namespace Mordel.Web.SigningIn;

/// <summary>The browser and its system in two words, for whoever looks where they are signed in.</summary>
public static class DeviceWords
{
    // The first that fits: each browser also names those it wants to be taken for.
    private static readonly (string Sign, string Name)[] Browsers =
    [
        ("Edg", "Edge"),
        ("OPR/", "Opera"),
        ("Firefox/", "Firefox"),
        ("Chrome/", "Chromium"),
        ("CriOS/", "Chromium"),
        ("Safari/", "Safari"),
    ];

    private static readonly (string Sign, string Name)[] Systems =
    [
        ("Android", "Android"),
        ("iPhone", "iPhone"),
        ("iPad", "iPad"),
        ("Windows", "Windows"),
        ("Mac OS", "macOS"),
        ("CrOS", "ChromeOS"),
        ("Linux", "Linux"),
    ];

    /// <summary>What a browser says of itself, in words; a sentence where it says nothing known.</summary>
    public static string Of(string userAgent)
    {
        ArgumentNullException.ThrowIfNull(userAgent);
        var (browser, system) = (Find(Browsers, userAgent), Find(Systems, userAgent));
        return (browser, system) switch
        {
            (null, null) => "an unknown browser",
            (null, { } on) => $"a browser on {on}",
            ({ } one, null) => one,
            var (one, on) => $"{one} on {on}",
        };
    }

    private static string? Find((string Sign, string Name)[] all, string text) =>
        all.FirstOrDefault(a => text.Contains(a.Sign, StringComparison.Ordinal)).Name;
}
