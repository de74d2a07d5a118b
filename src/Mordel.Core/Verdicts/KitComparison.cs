using System.Globalization;
using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>What two gauges showed on one rig at the same moment, each in its own unit.</summary>
/// <param name="One">The one.</param>
/// <param name="Other">The other.</param>
public readonly record struct KitPair(decimal One, decimal Other);

/// <summary>
/// Two kits beside each other on one rig (handbook chapter 6). It says how far they are apart, never which of them is
/// right: that is what a calibration is for.
/// </summary>
public static class KitComparison
{
    /// <summary>The most pairs of one comparison.</summary>
    public const int Most = 5;

    private const int Digits = 3;

    /// <summary>By how much the one reads higher than the other, on the average of all pairs.</summary>
    /// <param name="pairs">At least one.</param>
    /// <param name="one">The unit of the one; the answer is in it.</param>
    /// <param name="other">The unit of the other.</param>
    /// <exception cref="ArgumentException">There is no pair.</exception>
    public static Differential Apart(IReadOnlyCollection<KitPair> pairs, DifferentialUnit one, DifferentialUnit other)
    {
        ArgumentNullException.ThrowIfNull(pairs);
        if (pairs.Count == 0)
            throw new ArgumentException("Nothing was read.", nameof(pairs));
        return new(
            decimal.Round(
                pairs.Average(p => p.One - new Differential(p.Other, other).In(one)),
                Digits,
                MidpointRounding.AwayFromZero
            ),
            one
        );
    }

    /// <summary>Whether two gauges that are each as good as they say can be so far apart.</summary>
    /// <param name="apart">How far.</param>
    /// <param name="one">How good the one is, either side.</param>
    /// <param name="other">How good the other is.</param>
    public static bool Agree(Differential apart, Differential one, Differential other) =>
        Math.Abs(apart.Amount) <= one.In(apart.Unit) + other.In(apart.Unit);

    /// <summary>Pairs as they are kept: <c>7.2 7.4;5.0 5.1</c>.</summary>
    public static string Write(IEnumerable<KitPair> pairs)
    {
        ArgumentNullException.ThrowIfNull(pairs);
        return string.Join(';', pairs.Select(p => string.Create(CultureInfo.InvariantCulture, $"{p.One} {p.Other}")));
    }

    /// <summary>Pairs as they were kept.</summary>
    /// <exception cref="FormatException">They were not kept so.</exception>
    public static IReadOnlyList<KitPair> Read(string kept)
    {
        ArgumentNullException.ThrowIfNull(kept);
        return
        [
            .. kept.Split(';')
                .Select(p => p.Split(' '))
                .Select(p => new KitPair(
                    decimal.Parse(p[0], CultureInfo.InvariantCulture),
                    decimal.Parse(p[1], CultureInfo.InvariantCulture)
                )),
        ];
    }
}
