namespace Mordel.Simulators;

/// <summary>How something outside behaves.</summary>
public enum OutsideMood
{
    /// <summary>It takes what it is given.</summary>
    Works,

    /// <summary>It cannot be reached.</summary>
    Down,

    /// <summary>It looks at what it is given and refuses it.</summary>
    Refuses,

    /// <summary>It takes what it is given, and its answer is lost on the way.</summary>
    LosesAnswers,

    /// <summary>It takes what it is given, and lets one wait for the answer.</summary>
    Slow,

    /// <summary>It answers something that cannot be read.</summary>
    Garbles,
}

/// <summary>
/// How the simulated outside behaves just now: mail and the authorities' services follow it. It can be set on the
/// screen, so that one can see what an outbox does when the world does not answer.
/// </summary>
public sealed class SimulatedOutside
{
    /// <summary>How it behaves.</summary>
    public OutsideMood Mood { get; set; }

    /// <summary>How long one waits where it is slow.</summary>
    public TimeSpan Slowness { get; set; } = TimeSpan.FromSeconds(6);
}
