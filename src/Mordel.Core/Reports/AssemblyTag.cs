using Mordel.Core.Verdicts;

namespace Mordel.Core.Reports;

/// <summary>What the tag on an assembly says (handbook chapter 6): date, result, tester, next due.</summary>
public sealed record AssemblyTag
{
    /// <summary>The firm's own number of the assembly.</summary>
    public required string Tag { get; init; }

    /// <summary>The type.</summary>
    public required string Type { get; init; }

    /// <summary>Nominal size with its unit.</summary>
    public required string Size { get; init; }

    /// <summary>The number stamped on it.</summary>
    public required string Serial { get; init; }

    /// <summary>The outcome of the last test, an id; null where it was not tested yet.</summary>
    public string? Outcome { get; init; }

    /// <summary>The day of the last test.</summary>
    public DateOnly? TestedOn { get; init; }

    /// <summary>Who tested; empty where that is not known here.</summary>
    public string Tester { get; init; } = "";

    /// <summary>By when the next test is due; null where none is owed.</summary>
    public DateOnly? NextDue { get; init; }

    /// <summary>The firm and its telephone.</summary>
    public required string Firm { get; init; }

    /// <summary>Where the square on it leads; null where there is none.</summary>
    public string? Link { get; init; }

    /// <summary>The result in a word.</summary>
    public string Result =>
        Outcome is null ? "Not tested yet"
        : OutcomeNames.Named(Outcome) is { } known ? known.Word()
        : "See the firm";
}
