namespace Mordel.Core.Standing;

/// <summary>
/// How long something took, in classes that each are a seventh longer than the one before: so few that millions of
/// times can be kept as counts, and fine enough to plan by.
/// </summary>
public static class Durations
{
    private const double Step = 1.15;

    /// <summary>The longest that counts: what takes longer was left lying, seconds.</summary>
    public const double Longest = 4 * 3600;

    /// <summary>The class of a duration; null for one that is negative or longer than <see cref="Longest"/>.</summary>
    /// <param name="seconds">Seconds; less than one counts as one.</param>
    public static int? ClassOf(double seconds) =>
        seconds is >= 0 and <= Longest ? (int)Math.Floor(Math.Log(Math.Max(1, seconds)) / Math.Log(Step)) : null;

    /// <summary>The duration below which a share of them lies, in seconds; null of none.</summary>
    /// <param name="counts">How many there are of each class.</param>
    /// <param name="share">The share, 0 to 1.</param>
    public static double? Below(IEnumerable<(int Class, int Count)> counts, double share)
    {
        ArgumentNullException.ThrowIfNull(counts);
        var all = counts.Where(c => c.Count > 0).OrderBy(c => c.Class).ToList();
        var left = share * all.Sum(c => (double)c.Count);
        foreach (var (one, count) in all)
        {
            if (left <= count)
                return Math.Pow(Step, one + (left / count));
            left -= count;
        }

        return all.Count == 0 ? null : Math.Pow(Step, all[^1].Class + 1);
    }
}
