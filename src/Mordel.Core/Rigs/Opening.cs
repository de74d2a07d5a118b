namespace Mordel.Core.Rigs;

/// <summary>How far a valve stands open, from 0 (closed) to 1 (fully open).</summary>
public readonly record struct Opening
{
    /// <summary>A fraction from 0 to 1.</summary>
    /// <exception cref="ArgumentOutOfRangeException">Outside 0 to 1.</exception>
    public Opening(decimal fraction)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(fraction, 0m);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(fraction, 1m);
        Fraction = fraction;
    }

    /// <summary>0 closed, 1 fully open.</summary>
    public decimal Fraction { get; }

    /// <summary>Shut.</summary>
    public static Opening Closed => new(0m);

    /// <summary>A quarter of a turn of a needle valve.</summary>
    public static Opening QuarterTurn => new(0.1m);

    /// <summary>Halfway.</summary>
    public static Opening Half => new(0.5m);

    /// <summary>Fully open.</summary>
    public static Opening Full => new(1m);

    /// <summary>Whether anything can pass.</summary>
    public bool IsOpen => Fraction > 0m;
}
