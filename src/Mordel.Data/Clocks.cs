namespace Mordel.Data;

/// <summary>The day, as people here count it.</summary>
public static class Clocks
{
    /// <summary>Today, in the installation's own time zone.</summary>
    public static DateOnly Today(this TimeProvider clock)
    {
        ArgumentNullException.ThrowIfNull(clock);
        return DateOnly.FromDateTime(clock.GetLocalNow().DateTime);
    }
}
