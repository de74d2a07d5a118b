namespace Mordel.Core.Procedures;

/// <summary>What hands and eyes wait for.</summary>
public enum CueKind
{
    /// <summary>The needle stands still, and what runs runs evenly.</summary>
    Still,

    /// <summary>The first drop at the relief port.</summary>
    FirstDrip,

    /// <summary>The air inlet opens.</summary>
    Pop,

    /// <summary>The needle has come down to a number.</summary>
    NeedleAt,

    /// <summary>The water slows, or the needle drops while it runs on.</summary>
    SlowsOrFalls,

    /// <summary>The water only drips.</summary>
    OnlyDrips,

    /// <summary>The needle has passed by on its way while nobody turned anything.</summary>
    FallsByItself,
}

/// <summary>
/// What ends a turning or a watching. The instruction says it in words; whoever performs the procedure on the water
/// needs it exactly.
/// </summary>
/// <param name="Kind">What is waited for.</param>
/// <param name="Psid">The number, where it is one.</param>
public readonly record struct Cue(CueKind Kind, decimal Psid = 0m)
{
    /// <summary>The needle has come down to a number of psid.</summary>
    public static Cue NeedleAt(decimal psid) => new(CueKind.NeedleAt, psid);

    /// <summary>The first drop at the relief port.</summary>
    public static Cue FirstDrip => new(CueKind.FirstDrip);

    /// <summary>The air inlet opens.</summary>
    public static Cue Pop => new(CueKind.Pop);

    /// <summary>The water slows, or the needle drops while it runs on.</summary>
    public static Cue SlowsOrFalls => new(CueKind.SlowsOrFalls);

    /// <summary>The water only drips.</summary>
    public static Cue OnlyDrips => new(CueKind.OnlyDrips);

    /// <summary>The needle has passed by on its way while nobody turned anything.</summary>
    public static Cue FallsByItself => new(CueKind.FallsByItself);
}
