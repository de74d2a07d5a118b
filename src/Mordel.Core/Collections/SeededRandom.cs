namespace Mordel.Core.Collections;

/// <summary>
/// A lot that falls the same on every machine and for good, which the platform's own does not promise (SplitMix64).
/// </summary>
internal sealed class SeededRandom
{
    private ulong state;

    /// <summary>A lot.</summary>
    /// <param name="seed">Its number.</param>
    /// <param name="about">What is drawn: another text gives another lot.</param>
    /// <param name="kind">By which rules.</param>
    public SeededRandom(int seed, string about, int kind)
    {
        state = (ulong)(uint)seed * 0x9E3779B97F4A7C15UL;
        foreach (var letter in about)
            state = (state ^ letter) * 1099511628211UL;
        state += (ulong)kind;
    }

    /// <summary>A whole number from 0 to below the bound.</summary>
    public int Next(int below) => (int)(Bits() % (ulong)below);

    /// <summary>A number between two.</summary>
    public double Between(double low, double high) => low + ((high - low) * (Bits() >> 11) / (1UL << 53));

    /// <summary>A number between two, in tenths.</summary>
    public double Tenth(double low, double high) => Math.Round(Between(low, high), 1);

    private ulong Bits()
    {
        state += 0x9E3779B97F4A7C15UL;
        var z = state;
        z = (z ^ (z >> 30)) * 0xBF58476D1CE4E5B9UL;
        z = (z ^ (z >> 27)) * 0x94D049BB133111EBUL;
        return z ^ (z >> 31);
    }
}
