namespace Mordel.Data.Rows;

/// <summary>
/// Projection: how tests came out, counted for each month, type and value of one of
/// <see cref="Lists.StandingDimensions"/>.
/// </summary>
public sealed class StandingCountRow
{
    public required string Dimension { get; set; }
    public required string Type { get; set; }
    public required string Value { get; set; }

    /// <summary>Year and month, <c>202611</c>.</summary>
    public int Month { get; set; }

    /// <summary>The month of a day.</summary>
    public static int MonthOf(DateOnly day) => (day.Year * 100) + day.Month;

    /// <summary>Whether the test before it had failed.</summary>
    public bool Again { get; set; }
    public int Passed { get; set; }
    public int Failed { get; set; }

    /// <summary>Not brought to an end, or not possible.</summary>
    public int Unfinished { get; set; }
}

/// <summary>Projection: what tests showed of a kind of part at an age.</summary>
public sealed class PartYearRow
{
    public required string Type { get; set; }

    /// <summary>The part, <c>cv1</c>.</summary>
    public required string Part { get; set; }

    /// <summary>Whether the age counts from a failure before; else from the installation.</summary>
    public bool Mended { get; set; }
    public int Year { get; set; }
    public int Seen { get; set; }
    public int Failed { get; set; }
}

/// <summary>Projection: how many tests, or steps of tests, took so long.</summary>
public sealed class DurationRow
{
    public required string ProcedureId { get; set; }

    /// <summary>Who tested; empty for a step, of which it is not counted who made it.</summary>
    public Guid TesterId { get; set; }

    /// <summary>The step; empty for the test as a whole.</summary>
    public required string Step { get; set; }

    /// <summary>The class of its duration, by <see cref="Core.Standing.Durations"/>.</summary>
    public int Class { get; set; }
    public int Count { get; set; }
}

/// <summary>Projection: what a step of which the time is kept is called.</summary>
public sealed class DurationStepRow
{
    public required string ProcedureId { get; set; }
    public required string Step { get; set; }

    /// <summary>Its place on the sheet, from 0.</summary>
    public int Order { get; set; }
    public required string Title { get; set; }
}

/// <summary>When the standing was counted last, and from what. One row.</summary>
public sealed class StandingRow
{
    public int Id { get; set; } = 1;
    public DateTimeOffset At { get; set; }

    /// <summary>Tests that were signed here.</summary>
    public int Signed { get; set; }

    /// <summary>The last seal that was there.</summary>
    public long LastSeal { get; set; }

    /// <summary>Tests that were brought in from elsewhere.</summary>
    public int Brought { get; set; }

    /// <summary>Tests that stood open longer than <see cref="Core.Standing.Durations.Longest"/>.</summary>
    public int LeftOpen { get; set; }

    /// <summary>Of how many tests, the latest, steps were timed.</summary>
    public int Timed { get; set; }

    /// <summary>How long counting took, milliseconds.</summary>
    public int Took { get; set; }
}
