using Mordel.Core.Collections;
using Mordel.Core.Rules;
using Mordel.Core.Runs;

namespace Mordel.Core.Reports;

/// <summary>A label with its text.</summary>
/// <param name="Label">What it is.</param>
/// <param name="Text">What is said of it.</param>
public sealed record ReportLine(string Label, string Text);

/// <summary>One item of a report, as printed.</summary>
/// <param name="Name">The item.</param>
/// <param name="Value">The answer; "not taken" when there is none.</param>
/// <param name="Limit">The least allowed; a dash where there is none.</param>
/// <param name="Margin">Signed distance to the limit; a dash where there is none.</param>
/// <param name="Result"><c>pass</c>, <c>fail</c>, <c>missing</c> or <c>recorded</c>.</param>
/// <param name="Why">One sentence.</param>
public sealed record ReportItem(string Name, string Value, string Limit, string Margin, string Result, string Why);

/// <summary>The repair that a test follows, as printed: before, work; after is the test itself.</summary>
/// <param name="After">Which test it came from, in a sentence; empty where it came from none.</param>
/// <param name="Initial">What was judged before the repair.</param>
/// <param name="Lines">What was found and done, parts, stopgaps, by whom and when.</param>
/// <param name="Photos">Pictures: the hash of each, and what it shows.</param>
public sealed record ReportRepair(
    string After,
    EquatableArray<ReportItem> Initial,
    EquatableArray<ReportLine> Lines,
    EquatableArray<RepairPhoto> Photos
);

/// <summary>
/// Everything a report says, ready to be set, each fact as it is printed (handbook chapter 6): one object for page,
/// PDF, JSON and API. It is kept with the seal, so that what was attested stays as it was, whatever is corrected later.
/// </summary>
public sealed record TestReport
{
    /// <summary>Place, assembly, day and outcome in one line.</summary>
    public required string Title { get; init; }

    /// <summary>The report's number.</summary>
    public required string Number { get; init; }

    /// <summary>The number as a name of a file: a slash is a folder to some.</summary>
    public string FileName => Number.Replace('/', '-');

    /// <summary><c>pass</c>, <c>fail</c>, <c>incomplete</c> or <c>not-testable</c>.</summary>
    public required string Outcome { get; init; }

    /// <summary>The outcome in a sentence.</summary>
    public required string Reason { get; init; }

    /// <summary>Owner, address, place, what it serves, hazard, protection, authority.</summary>
    public required EquatableArray<ReportLine> Place { get; init; }

    /// <summary>Type, make, model, size, serial, tag.</summary>
    public required EquatableArray<ReportLine> Assembly { get; init; }

    /// <summary>Procedure, profile, times, line pressure.</summary>
    public required EquatableArray<ReportLine> Test { get; init; }

    /// <summary>
    /// What was entered about the visit: permission, inspection, positions as found and as left; what was not says so.
    /// </summary>
    public required EquatableArray<ReportLine> Visit { get; init; }

    /// <summary>What nobody entered, by name; empty when nothing lacks.</summary>
    public required EquatableArray<string> NotEntered { get; init; }

    /// <summary>What was judged.</summary>
    public required EquatableArray<ReportItem> Items { get; init; }

    /// <summary>What was odd about the times: clocks, arrivals, a pace that hands and water cannot keep.</summary>
    public required EquatableArray<string> Times { get; init; }

    /// <summary>Sets before a repair, repeated and corrected readings.</summary>
    public required EquatableArray<string> Before { get; init; }

    /// <summary>What a careful tester weighs.</summary>
    public required EquatableArray<string> Warnings { get; init; }

    /// <summary>Findings and notes.</summary>
    public required EquatableArray<string> Findings { get; init; }

    /// <summary>Repairs and parts.</summary>
    public required string Repairs { get; init; }

    /// <summary>The repair that this test follows; null where it follows none.</summary>
    public ReportRepair? Repair { get; init; }

    /// <summary>The tester's remarks; empty when there are none.</summary>
    public required string Remarks { get; init; }

    /// <summary>Kit make, model, serial, calibration.</summary>
    public required string Kit { get; init; }

    /// <summary>The tester's name as signed.</summary>
    public required string Tester { get; init; }

    /// <summary>The certificate that was signed with.</summary>
    public required string Certificate { get; init; }

    /// <summary>When it was signed.</summary>
    public required string SignedAt { get; init; }

    /// <summary>When the next test is due by this outcome.</summary>
    public required string NextDue { get; init; }

    /// <summary>The drawn signature as path data in a box of 600 by 200; null when the name was typed.</summary>
    public string? Ink { get; init; }

    /// <summary>
    /// Where the needle stood with both ports open to air before the test, in the gauge's unit; null where nobody said.
    /// It is for whoever looks at the kit; what it means for the test stands among what is to be weighed.
    /// </summary>
    public decimal? KitZero { get; init; }

    /// <summary>What the authority calls the report and its outcomes; null where it is as usual.</summary>
    public FormWords? Form { get; init; }

    /// <summary>An outcome, or the result of an item, as this report calls it: <c>Not testable</c>.</summary>
    public string Word(string id)
    {
        ArgumentException.ThrowIfNullOrEmpty(id);
        return Form?.For(id) ?? string.Concat(char.ToUpperInvariant(id[0]), id[1..].Replace('-', ' '));
    }

    /// <summary>Whether it comes from made-up data.</summary>
    public bool Simulated { get; init; }

    /// <summary>What every report says at its foot.</summary>
    public const string Deference =
        "The local plumbing code, the water authority and the certifying body's procedure govern. "
        + "Only certified testers test; only those licensed for it repair.";
}
