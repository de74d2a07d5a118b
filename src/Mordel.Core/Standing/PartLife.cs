namespace Mordel.Core.Standing;

/// <summary>What a test showed of one part.</summary>
/// <param name="Day">The day.</param>
/// <param name="Failed">Whether it was found bad.</param>
public readonly record struct PartTest(DateOnly Day, bool Failed);

/// <summary>That a part was looked at when it was about so many years old.</summary>
/// <param name="Mended">Counted from the day it was found bad before; else from the assembly's installation.</param>
/// <param name="Year">Its age, in years, rounded; from 0.</param>
/// <param name="Failed">Whether it was found bad in that year.</param>
public readonly record struct PartYear(bool Mended, int Year, bool Failed);

/// <summary>
/// The lives of one part of an assembly: from new to the first failure, and from each failure to the next.
/// </summary>
public static class PartLife
{
    private const double DaysOfYear = 365.25;

    /// <summary>
    /// What its tests say of each year of its lives. A part that was found bad is taken to have been mended that day;
    /// tests of one year of age count once, so that who is tested twice a year does not look twice as strong.
    /// </summary>
    /// <param name="installed">The day the assembly was installed.</param>
    /// <param name="tests">
    /// What was found of the part, by day; a test before the installation counts for nothing.
    /// </param>
    public static IEnumerable<PartYear> Of(DateOnly installed, IEnumerable<PartTest> tests)
    {
        ArgumentNullException.ThrowIfNull(tests);
        var (from, mended, year) = (installed, false, -1);
        foreach (var test in tests)
        {
            if (test.Day < from)
                continue;
            var age = (int)Math.Round((test.Day.DayNumber - from.DayNumber) / DaysOfYear);
            if (year >= 0 && (age != year || test.Failed))
            {
                // A failure takes the place of what the same year showed before.
                if (age != year)
                    yield return new(mended, year, false);
                year = -1;
            }

            if (test.Failed)
            {
                yield return new(mended, age, true);
                (from, mended) = (test.Day, true);
            }
            else
            {
                year = age;
            }
        }

        if (year >= 0)
            yield return new(mended, year, false);
    }
}
