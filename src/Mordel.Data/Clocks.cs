namespace Mordel.Data;

/// <summary>The day and the moment, as people here count them.</summary>
public static class Clocks
{
    /// <summary>Today, in the installation's own time zone.</summary>
    public static DateOnly Today(this TimeProvider clock)
    {
        ArgumentNullException.ThrowIfNull(clock);
        return clock.DayOf(clock.GetUtcNow());
    }

    /// <summary>The day of a moment, in the installation's own time zone.</summary>
    public static DateOnly DayOf(this TimeProvider clock, DateTimeOffset at)
    {
        ArgumentNullException.ThrowIfNull(clock);
        return DateOnly.FromDateTime(TimeZoneInfo.ConvertTime(at, clock.LocalTimeZone).DateTime);
    }

    /// <summary>The moment at which a day begins, in the installation's own time zone.</summary>
    public static DateTimeOffset StartOf(this TimeProvider clock, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(clock);
        var midnight = day.ToDateTime(TimeOnly.MinValue);
        return new(midnight, clock.LocalTimeZone.GetUtcOffset(midnight));
    }

    /// <summary>How long it is until a time of the day comes next, in the installation's own time zone.</summary>
    public static TimeSpan Until(this TimeProvider clock, TimeOnly time)
    {
        ArgumentNullException.ThrowIfNull(clock);
        var now = clock.GetLocalNow().DateTime;
        var next = now.Date.Add(time.ToTimeSpan());
        return (next > now ? next : next.AddDays(1)) - now;
    }

    /// <summary>Now, to the millisecond: as it is kept, so that what is kept equals what was meant.</summary>
    public static DateTimeOffset Now(this TimeProvider clock)
    {
        ArgumentNullException.ThrowIfNull(clock);
        return clock.GetUtcNow().ToMillisecond();
    }

    /// <summary>An instant without what is finer than a millisecond, in UTC.</summary>
    public static DateTimeOffset ToMillisecond(this DateTimeOffset at) =>
        new(at.UtcTicks - (at.UtcTicks % TimeSpan.TicksPerMillisecond), TimeSpan.Zero);

    /// <summary>
    /// When something was entered, by the clock of the device, to the millisecond; by the server's where that says
    /// nothing or something that cannot be.
    /// </summary>
    public static DateTimeOffset Entered(this TimeProvider clock, DateTimeOffset? device)
    {
        ArgumentNullException.ThrowIfNull(clock);
        return device is { UtcDateTime.Year: > 1990 and < 2200 } said ? said.ToMillisecond() : clock.Now();
    }
}
