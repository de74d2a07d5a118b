namespace Mordel.Documents.Reports;

/// <summary>One measured item on a report.</summary>
public sealed record ReportItem(string Name, string Value, string Limit, string Margin, string Result);

/// <summary>A label with its text.</summary>
public sealed record ReportLine(string Label, string Text);

/// <summary>Everything a report says, ready to be set: the same for page and PDF (list of contents: handbook chapter 6).</summary>
public sealed record ReportModel
{
    public required string Title { get; init; }
    public required string Number { get; init; }
    public required string Outcome { get; init; }
    public required string OutcomeId { get; init; }
    public required string Reason { get; init; }

    /// <summary>Owner, address, place, what it serves, hazard, protection.</summary>
    public required IReadOnlyList<ReportLine> Where { get; init; }

    /// <summary>Type, make, model, size, serial, installation check.</summary>
    public required IReadOnlyList<ReportLine> Assembly { get; init; }

    /// <summary>Procedure, profile, times, line pressure, positions as found and as left.</summary>
    public required IReadOnlyList<ReportLine> Test { get; init; }

    public required IReadOnlyList<ReportItem> Items { get; init; }

    /// <summary>Readings before a repair or a repetition, and corrected first values.</summary>
    public required IReadOnlyList<string> Before { get; init; }
    public required IReadOnlyList<string> Warnings { get; init; }
    public required string Repairs { get; init; }
    public required string Remarks { get; init; }
    public required IReadOnlyList<string> Findings { get; init; }

    /// <summary>Kit make, model, serial, calibration.</summary>
    public required string Kit { get; init; }
    public required string Tester { get; init; }
    public required string Certificate { get; init; }
    public required string SignedAt { get; init; }

    /// <summary>The drawn signature as path data in a box of 600 by 200, or null when the name was typed.</summary>
    public string? Ink { get; init; }
    public required string Hash { get; init; }
    public required IReadOnlyList<string> Amendments { get; init; }

    /// <summary>Set when the report comes from made-up data.</summary>
    public bool Simulated { get; init; }

    /// <summary>What every report says at its foot.</summary>
    public const string Deference = "The local plumbing code, the water authority and the certifying body's procedure govern. Only certified testers test; only those licensed for it repair.";
}
