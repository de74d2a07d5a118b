using System.Collections.Immutable;
using System.Text.Json.Nodes;
using Mordel.Core.Reports;

namespace Mordel.Core.Views;

/// <summary>
/// A verdict with its reasons, and what is asked before it is signed: what a device shows while there is no signal.
/// </summary>
public sealed record VerdictView
{
    /// <summary>How many entries the log has that was judged.</summary>
    public required int Entries { get; init; }

    /// <summary><c>pass</c>, <c>fail</c>, <c>incomplete</c> or <c>not-testable</c>.</summary>
    public required string Overall { get; init; }

    /// <summary>The same in a word.</summary>
    public required string Word { get; init; }

    /// <summary>Why, in a sentence.</summary>
    public required string Reason { get; init; }

    /// <summary>Item by item.</summary>
    public required ImmutableArray<ReportItem> Items { get; init; }

    /// <summary>What a careful tester would weigh once more.</summary>
    public required ImmutableArray<string> Warnings { get; init; }

    /// <summary>What else is to be said of the readings.</summary>
    public required ImmutableArray<string> Notes { get; init; }

    /// <summary>What is written on the tag; null while the run is not at its end.</summary>
    public string? Tag { get; init; }

    /// <summary>By what it was judged.</summary>
    public required string Rule { get; init; }

    /// <summary>Why it cannot be signed; empty when it can, as far as the device knows.</summary>
    public required ImmutableArray<string> Obstacles { get; init; }

    /// <summary>Readings that came sooner than hands and water can be.</summary>
    public required ImmutableArray<string> Hasty { get; init; }

    /// <summary>What nobody has entered and can be entered here.</summary>
    public required ImmutableArray<FieldView> Asks { get; init; }

    /// <summary>What nobody has entered and the run sheet can still take.</summary>
    public required ImmutableArray<string> StillOnTheSheet { get; init; }

    /// <summary>The entries that what is filled in makes, as <see cref="EntryTemplate"/> has them.</summary>
    public required ImmutableArray<JsonObject> Beside { get; init; }

    /// <summary>The tester.</summary>
    public required string Name { get; init; }

    /// <summary>With which certificate and kit it is signed.</summary>
    public required string With { get; init; }

    /// <summary>SHA-256 of the log in its canonical form: whoever seals it compares.</summary>
    public required string Log { get; init; }
}
