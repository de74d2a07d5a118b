using System.Collections.Immutable;

namespace Mordel.Core.Views;

/// <summary>What the run screen shows: a pure function of log and rules. The screen holds no rule of its own.</summary>
public sealed record RunView
{
    /// <summary>How many entries the log has; a screen with a smaller number is behind.</summary>
    public required int Entries { get; init; }

    /// <summary>The tick that the next entry takes.</summary>
    public required long NextTick { get; init; }

    /// <summary>Whether the run has been signed.</summary>
    public required bool Sealed { get; init; }

    /// <summary>The whole sequence.</summary>
    public required ImmutableArray<StageView> Stages { get; init; }

    /// <summary>The step at hand; null when all is done.</summary>
    public StepView? Now { get; init; }

    /// <summary>What comes after it.</summary>
    public string? Next { get; init; }

    /// <summary>Set when a whole stage is confirmed at once.</summary>
    public TogetherView? Together { get; init; }

    /// <summary>The rig as it stands, as SVG.</summary>
    public required string Drawing { get; init; }

    /// <summary>The drawing in words.</summary>
    public required string DrawingInWords { get; init; }

    /// <summary>Numbers taken so far.</summary>
    public required ImmutableArray<ReadingView> Readings { get; init; }

    /// <summary>Findings and notes so far.</summary>
    public required ImmutableArray<FindingView> Findings { get; init; }

    /// <summary>Entries without effect, and why.</summary>
    public required ImmutableArray<string> SetAside { get; init; }

    /// <summary>What can be taken back.</summary>
    public UndoView? Undo { get; init; }

    /// <summary>Why the test ended without a result.</summary>
    public string? NotTestable { get; init; }

    /// <summary>The static pressure, where it was read.</summary>
    public string? LinePressure { get; init; }

    /// <summary>The unit a line pressure is typed in: psi beside a psid kit, else kPa.</summary>
    public required string LineUnit { get; init; }

    /// <summary>Share of the sequence that is behind, 0 to 100.</summary>
    public required int Progress { get; init; }
}

/// <summary>A stage of the sequence.</summary>
/// <param name="Id">Stable name.</param>
/// <param name="Title">Heading.</param>
/// <param name="State"><c>behind</c>, <c>now</c> or <c>ahead</c>.</param>
/// <param name="IsTest">Whether it gives a result.</param>
/// <param name="Steps">Its steps.</param>
public sealed record StageView(string Id, string Title, string State, bool IsTest, ImmutableArray<SheetLine> Steps);

/// <summary>A line of the run sheet.</summary>
/// <param name="Key">The step's key.</param>
/// <param name="StepId">Its id in the sequence, for going back; null for a branch.</param>
/// <param name="Title">What is done.</param>
/// <param name="State"><c>done</c>, <c>passed-over</c>, <c>seen</c>, <c>now</c> or <c>ahead</c>.</param>
/// <param name="Detail">The reading or the sight.</param>
public sealed record SheetLine(string Key, string? StepId, string Title, string State, string? Detail);

/// <summary>The step at hand.</summary>
public sealed record StepView(
    string Key, string Stage, string Title, ImmutableArray<string> Instructions, string? Watch, string Why, string? Caution,
    CaptureView? Capture, ImmutableArray<SightView> Sights, bool MustAnswer, int Attempt);

/// <summary>The number that a step, or the next one that asks for a number, wants.</summary>
/// <param name="Key">The step's key.</param>
/// <param name="Name">What is read.</param>
/// <param name="Unit">Unit.</param>
/// <param name="Limit">The limit in words; null when there is none.</param>
/// <param name="Provisional">Whether it is only held in case it is needed.</param>
/// <param name="Resolution">The smallest step of the gauge, in the unit.</param>
public sealed record CaptureView(string Key, string Name, string Unit, string? Limit, bool Provisional, string Resolution);

/// <summary>An answer to "what do you see?".</summary>
public sealed record SightView(string Id, string Seen, string Means);

/// <summary>A stage confirmed at once.</summary>
/// <param name="Title">Heading.</param>
/// <param name="Confirm">What the button says.</param>
/// <param name="Lines">What is confirmed.</param>
public sealed record TogetherView(string Title, string Confirm, ImmutableArray<TogetherLine> Lines);

/// <summary>A line of such a stage.</summary>
public sealed record TogetherLine(string Key, string Title, ImmutableArray<string> Say, string Why, string? Caution);

/// <summary>A number taken.</summary>
public sealed record ReadingView(
    string EntryId, string Item, string Name, string Value, string Unit, string? Result, string? Margin, string? First, string? Reason, string? From,
    bool Counts);

/// <summary>Something found or noted.</summary>
public sealed record FindingView(string EntryId, string Text, string? Id);

/// <summary>What the tester can take back with one tap.</summary>
public sealed record UndoView(string EntryId, string Text);

/// <summary>A number while it is being typed, weighed against its limit.</summary>
/// <param name="Result"><c>pass</c>, <c>fail</c>, <c>recorded</c> or <c>missing</c>.</param>
/// <param name="Margin">Signed distance to the limit, with unit.</param>
/// <param name="Text">One sentence.</param>
/// <param name="Warnings">What a careful tester would weigh.</param>
public sealed record WeighedView(string Result, string? Margin, string Text, ImmutableArray<string> Warnings);
