namespace Mordel.Authorities;

/// <summary>How a simulated authority's service behaves.</summary>
public enum AuthorityMood
{
    /// <summary>It takes what it can read.</summary>
    Takes,

    /// <summary>It takes it, and lets one wait for the answer.</summary>
    Slow,

    /// <summary>It is down for an hour.</summary>
    Down,

    /// <summary>It refuses what it gets, with a reason.</summary>
    Refuses,

    /// <summary>It takes it and hangs up without an answer.</summary>
    HangsUp,

    /// <summary>It answers something that nobody can read.</summary>
    Garbles,

    /// <summary>It takes it, and says so again, and again.</summary>
    RepeatsItself,

    /// <summary>It takes it, and refuses it at a second look.</summary>
    TakesThenRefuses,

    /// <summary>It refuses it, and takes it at a second look.</summary>
    RefusesThenTakes,
}

/// <summary>The moods in words.</summary>
public static class AuthorityMoods
{
    /// <summary>Each with what it says on the page.</summary>
    public static IReadOnlyList<(AuthorityMood Mood, string Says)> All { get; } =
    [
        (AuthorityMood.Takes, "takes what it can read"),
        (AuthorityMood.Slow, "takes it, and lets one wait for the answer"),
        (AuthorityMood.Down, "is down for an hour"),
        (AuthorityMood.Refuses, "refuses, with the reason below"),
        (AuthorityMood.HangsUp, "takes it and hangs up without an answer"),
        (AuthorityMood.Garbles, "answers something that nobody can read"),
        (AuthorityMood.RepeatsItself, "takes it, and says so three times"),
        (AuthorityMood.TakesThenRefuses, "takes it, and refuses it at a second look"),
        (AuthorityMood.RefusesThenTakes, "refuses it, and takes it at a second look"),
    ];
}
