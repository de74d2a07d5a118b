namespace Mordel.Core.Notices;

/// <summary>The hours that are told to an owner: the work lies in them, with some room.</summary>
/// <param name="Day">The day.</param>
/// <param name="From">From when the water may be off.</param>
/// <param name="Until">Until when.</param>
public sealed record VisitPromise(DateOnly Day, TimeOnly From, TimeOnly Until)
{
    // Room on either side of the planned work, and the step to which hours are rounded, in minutes.
    private const int Room = 30,
        Step = 15,
        LastMinute = (24 * 60) - 1;

    /// <summary>
    /// What can be told of a visit: half an hour on either side of the planned work, in quarters, within the hours in
    /// which the water may be off; all of these hours where no hour is planned.
    /// </summary>
    public static VisitPromise Of(DateOnly day, TimeOnly from, TimeOnly until, TimeOnly? planned, int minutes)
    {
        if (planned is not { } at)
            return new(day, from, until);
        var (begin, end) = (Minute(at) - Room, Minute(at) + minutes + Room);
        var promise = new VisitPromise(
            day,
            Later(from, At(begin / Step * Step)),
            Earlier(until, At((end + Step - 1) / Step * Step))
        );
        return promise.Holds(day, at, minutes) ? promise : new(day, from, until);
    }

    /// <summary>Whether work at that time keeps it.</summary>
    public bool Holds(DateOnly day, TimeOnly begin, int minutes) =>
        day == Day && begin >= From && Minute(begin) + minutes <= Minute(Until);

    private static int Minute(TimeOnly at) => (at.Hour * 60) + at.Minute;

    private static TimeOnly At(int minute) =>
        TimeOnly.FromTimeSpan(TimeSpan.FromMinutes(Math.Clamp(minute, 0, LastMinute)));

    private static TimeOnly Later(TimeOnly a, TimeOnly b) => a > b ? a : b;

    private static TimeOnly Earlier(TimeOnly a, TimeOnly b) => a < b ? a : b;
}
