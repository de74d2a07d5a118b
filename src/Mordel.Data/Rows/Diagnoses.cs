namespace Mordel.Data.Rows;

/// <summary>
/// A search for what is wrong with an assembly. What was observed is in <see cref="ObservationRow"/>, which only grows.
/// </summary>
public sealed class DiagnosisRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }

    /// <summary>The run it came from; null where it began with a call.</summary>
    public Guid? RunId { get; set; }

    /// <summary>The school of the run, by which its sights are to be read.</summary>
    public string? ProcedureId { get; set; }
    public DateTimeOffset OpenedAt { get; set; }
    public required string OpenedBy { get; set; }
    public List<ObservationRow> Observations { get; } = [];
}

/// <summary>From whom an observation came.</summary>
public static class ObservationWays
{
    /// <summary>Somebody of the house.</summary>
    public const string House = "house";

    /// <summary>The run it began with.</summary>
    public const string Run = "run";

    /// <summary>The repair that opened the body.</summary>
    public const string Repair = "repair";

    /// <summary>Whoever opened the owner's link.</summary>
    public const string Owner = "owner";
}

/// <summary>One thing that was observed, or the taking back of one. Never updated, never deleted.</summary>
public sealed class ObservationRow
{
    public Guid Id { get; set; }
    public Guid DiagnosisId { get; set; }

    /// <summary>Its place in the log, from 1.</summary>
    public int Number { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
    public required string Way { get; set; }

    /// <summary>What was observed, as <c>ObservationFormat</c> writes it; null where one is taken back.</summary>
    public string? Json { get; set; }

    /// <summary>The observation that is taken back.</summary>
    public Guid? TakesBack { get; set; }

    /// <summary>Part and finding, <c>cv1 debris</c>, where a body was opened; null for every other look.</summary>
    public string? Opened { get; set; }
}

/// <summary>From when on repairs count for the rates: the latest row says. Never updated, never deleted.</summary>
public sealed class RateResetRow
{
    public Guid Id { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }

    /// <summary>Repairs from then on count; null where all count again.</summary>
    public DateTimeOffset? From { get; set; }
}
