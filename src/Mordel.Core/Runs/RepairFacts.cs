using Mordel.Core.Collections;

namespace Mordel.Core.Runs;

/// <summary>
/// The repair that a test follows, as its log stood when the test began: the test's report carries before, work and
/// after (handbook chapters 5 and 6).
/// </summary>
public sealed record RepairFacts
{
    /// <summary>The repair.</summary>
    public required Guid Repair { get; init; }

    /// <summary>When it was begun.</summary>
    public required DateTimeOffset BegunAt { get; init; }

    /// <summary>When the body was closed and under pressure again.</summary>
    public required DateTimeOffset ClosedAt { get; init; }

    /// <summary>Who did it.</summary>
    public required string By { get; init; }

    /// <summary>Who allowed that the water was shut off; null where nobody entered it.</summary>
    public string? Permission { get; init; }

    /// <summary>The test that failed; null where it was begun without one.</summary>
    public FailedTest? Failed { get; init; }

    /// <summary>What was found, a part each.</summary>
    public required EquatableArray<string> Found { get; init; }

    /// <summary>What was done, a part each.</summary>
    public required EquatableArray<string> Done { get; init; }

    /// <summary>Parts used.</summary>
    public required EquatableArray<string> Used { get; init; }

    /// <summary>What holds for a while only, with its day.</summary>
    public required EquatableArray<string> Stopgaps { get; init; }

    /// <summary>Notes.</summary>
    public required EquatableArray<string> Notes { get; init; }

    /// <summary>Pictures.</summary>
    public required EquatableArray<RepairPhoto> Photos { get; init; }
}

/// <summary>A test that did not pass.</summary>
/// <param name="Number">Its report's number.</param>
/// <param name="At">When it was signed.</param>
/// <param name="Outcome">Its outcome.</param>
/// <param name="Initial">What was judged then.</param>
public sealed record FailedTest(
    string Number,
    DateTimeOffset At,
    string Outcome,
    EquatableArray<InitialReading> Initial
);

/// <summary>An item of the test before, as its report has it.</summary>
/// <param name="Item">The item.</param>
/// <param name="Value">The answer.</param>
/// <param name="Limit">The least allowed; a dash where there is none.</param>
/// <param name="Result"><c>pass</c>, <c>fail</c>, <c>missing</c> or <c>recorded</c>.</param>
public sealed record InitialReading(string Item, string Value, string Limit, string Result);

/// <summary>A picture of a repair.</summary>
/// <param name="Sha256">What is in it, as a hash in hexadecimal.</param>
/// <param name="Of">What it shows.</param>
public sealed record RepairPhoto(string Sha256, string Of);
