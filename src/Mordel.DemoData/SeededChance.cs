namespace Mordel.DemoData;

/// <summary>Chance from a seed, and ids from chance: the same seed gives the same town.</summary>
public sealed class SeededChance(int seed)
{
    private readonly Random random = new(seed);

    /// <summary>A whole number below a bound.</summary>
    public int Next(int below) => random.Next(below);

    /// <summary>A whole number from a bound to below another.</summary>
    public int Next(int from, int below) => random.Next(from, below);

    /// <summary>A fraction from 0 to below 1.</summary>
    public double Fraction() => random.NextDouble();

    /// <summary>One time in so many.</summary>
    public bool OneIn(int many) => random.Next(many) == 0;

    /// <summary>An id.</summary>
    public Guid NewId()
    {
        var bytes = new byte[16];
        random.NextBytes(bytes);
        return new(bytes);
    }
}
