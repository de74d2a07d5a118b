using System.Collections.Immutable;

namespace Mordel.Core.Standing;

/// <summary>How many of some parts still hold at an age.</summary>
/// <param name="Year">The age in years.</param>
/// <param name="Seen">How many were tested at about that age.</param>
/// <param name="Failed">How many of them were found bad.</param>
/// <param name="Holds">The share that has held up to and with that age, 0 to 1.</param>
/// <param name="Low">The lower end of what that share may be, 95 in 100.</param>
/// <param name="High">The upper end.</param>
public sealed record LifePoint(int Year, int Seen, int Failed, double Holds, double Low, double High);

/// <summary>
/// How long parts hold, from tests that only now and then look: the actuarial life table. Who comes in late, because
/// the assembly was old when it was first tested here, counts from then on; who was not tested any more counts until
/// then.
/// </summary>
/// <remarks>
/// The share that holds is the product of what held in each year (E. L. Kaplan and P. Meier, 1958); its variance is
/// M. Greenwood's (1926), taken on log(−log) so that the range stays between 0 and 1. While nothing has failed yet, and
/// when all of a year have, the range is that of <see cref="Share"/>.
/// </remarks>
public static class LifeTable
{
    /// <summary>The table, by age; years in which nothing was seen are left out.</summary>
    /// <param name="years">How many were seen and failed, by age.</param>
    public static ImmutableArray<LifePoint> Of(IEnumerable<(int Year, int Seen, int Failed)> years)
    {
        ArgumentNullException.ThrowIfNull(years);
        var points = ImmutableArray.CreateBuilder<LifePoint>();
        var (holds, sum) = (1.0, 0.0);
        foreach (var (year, seen, failed) in years.Where(y => y.Seen > 0).OrderBy(y => y.Year))
        {
            var before = holds;
            holds *= 1 - ((double)failed / seen);
            if (failed < seen)
                sum += failed / ((double)seen * (seen - failed));
            points.Add(new(year, seen, failed, holds, Low(), High()));

            double Low() =>
                holds <= 0 ? 0
                : holds >= 1 ? new Share(seen, seen).Low
                : Math.Pow(holds, Math.Exp(Share.Z * Wide()));
            double High() =>
                holds <= 0 ? before * new Share(0, seen).High
                : holds >= 1 ? 1
                : Math.Pow(holds, Math.Exp(-Share.Z * Wide()));
            double Wide() => Math.Sqrt(sum) / Math.Abs(Math.Log(holds));
        }

        return points.ToImmutable();
    }

    /// <summary>
    /// The age by which a share of them has failed; null while they hold longer than anybody has seen.
    /// </summary>
    /// <param name="points">The table.</param>
    /// <param name="failed">The share, 0 to 1.</param>
    public static int? YearsUntil(IEnumerable<LifePoint> points, double failed)
    {
        ArgumentNullException.ThrowIfNull(points);
        return points.FirstOrDefault(p => p.Holds <= 1 - failed)?.Year;
    }
}
