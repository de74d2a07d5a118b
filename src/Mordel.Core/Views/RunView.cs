using System.Collections.Immutable;
using System.Text.Json.Serialization;

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

    /// <summary>Why that comes.</summary>
    public string? NextWhy { get; init; }

    /// <summary>Set when a whole stage is confirmed at once.</summary>
    public TogetherView? Together { get; init; }

    /// <summary>The whole school on one page, for those who know it: every answer it asks for, in its order.</summary>
    public required ImmutableArray<ExpertRow> Expert { get; init; }

    /// <summary>Sets of answers from before a repair or an interruption.</summary>
    public required ImmutableArray<EarlierView> Earlier { get; init; }

    /// <summary>Why the test was broken off for today; null while it goes on.</summary>
    public string? Paused { get; init; }

    /// <summary>Whether a repair can be entered: something has been read.</summary>
    public required bool CanMend { get; init; }

    /// <summary>Whether any reading of this school depends on the gauge's height.</summary>
    public required bool HeightCounts { get; init; }

    /// <summary>What the gauge's height means for the readings, in sentences.</summary>
    public required ImmutableArray<string> HeightNotes { get; init; }

    /// <summary>Where one is, in a sentence, for a tester who comes back.</summary>
    public required string WhereAmI { get; init; }

    /// <summary>The rig as it stands, as SVG.</summary>
    public required string Drawing { get; init; }

    /// <summary>The drawing in words.</summary>
    public required string DrawingInWords { get; init; }

    /// <summary>
    /// What can be done now, with the entries that each makes; null where nothing is asked of anybody.
    /// </summary>
    public RunActionsView? Actions { get; init; }

    /// <summary>Numbers taken so far.</summary>
    public required ImmutableArray<ReadingView> Readings { get; init; }

    /// <summary>Findings and notes so far.</summary>
    public required ImmutableArray<FindingView> Findings { get; init; }

    /// <summary>Entries without effect, and why.</summary>
    public required ImmutableArray<string> SetAside { get; init; }

    /// <summary>Kept entries that cannot be read any more, and are left out.</summary>
    public ImmutableArray<string> Unreadable { get; init; } = [];

    /// <summary>What can be taken back.</summary>
    public UndoView? Undo { get; init; }

    /// <summary>Why the test ended without a result.</summary>
    public string? NotTestable { get; init; }

    /// <summary>The static pressure, where it was read.</summary>
    public string? LinePressure { get; init; }

    /// <summary>The unit of the kit's gauge.</summary>
    public required string ReadingUnit { get; init; }

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
    string Key,
    string Stage,
    string Title,
    ImmutableArray<string> Instructions,
    string? Watch,
    string Why,
    string? Caution,
    CaptureView? Capture,
    ImmutableArray<SightView> Sights,
    bool MustAnswer,
    int Attempt,
    HoldView? Hold
)
{
    /// <summary>What may be put in before it.</summary>
    public ImmutableArray<OfferView> Offers { get; init; } = [];
}

/// <summary>A step that may be put in before the one at hand.</summary>
/// <param name="Id">Its id.</param>
/// <param name="Title">What is done.</param>
/// <param name="Why">What it shows.</param>
public sealed record OfferView(string Id, string Title, string Why);

/// <summary>The answer that a step, or the next one that asks for a number, wants.</summary>
/// <param name="Key">The step's key.</param>
/// <param name="Name">What is read.</param>
/// <param name="Kind"><c>differential</c>, <c>line</c> or <c>length</c>.</param>
/// <param name="Unit">Unit.</param>
/// <param name="Limit">The limit in words; null when there is none.</param>
/// <param name="Provisional">Whether it is only held in case it is needed.</param>
/// <param name="Resolution">The smallest step of the gauge, in the unit.</param>
/// <param name="MayBePassed">Whether the step may be passed without it.</param>
public sealed record CaptureView(
    string Key,
    string Name,
    string Kind,
    string Unit,
    string? Limit,
    bool Provisional,
    string Resolution,
    bool MayBePassed
)
{
    /// <summary>
    /// What a streaming needle is told by, in eyes that look elsewhere; null where the number is no differential.
    /// </summary>
    public NeedleView? Needle { get; init; }

    /// <summary>The item that an answer names; a reading needs none.</summary>
    [JsonIgnore]
    public string Item { get; init; } = "";
}

/// <summary>An answer to "what do you see?".</summary>
/// <param name="Id">Its id.</param>
/// <param name="Seen">What is seen.</param>
/// <param name="Means">What it means.</param>
/// <param name="Good">Whether it is what should be seen.</param>
public sealed record SightView(string Id, string Seen, string Means, bool Good);

/// <summary>The watch over the needle at the step at hand.</summary>
/// <param name="Seconds">How long the profile wants it.</param>
/// <param name="StartedAt">When it was started, ISO 8601; null when it was not.</param>
/// <param name="Start">Where the needle stood then.</param>
/// <param name="Watched">Where it stood in between.</param>
/// <param name="End">Where it stood at the end.</param>
/// <param name="Ended">Whether it has ended.</param>
/// <param name="Outcome">What it came to, in a sentence; null while it runs.</param>
public sealed record HoldView(
    int Seconds,
    string? StartedAt,
    string? Start,
    ImmutableArray<string> Watched,
    string? End,
    bool Ended,
    string? Outcome
);

/// <summary>A line of the whole school on one page.</summary>
/// <param name="Key">The step's key; an answer goes to it.</param>
/// <param name="Title">What is asked.</param>
/// <param name="State"><c>done</c>, <c>now</c> (can be answered) or <c>ahead</c>.</param>
/// <param name="Capture">The number it asks for; null where a sight is the answer.</param>
/// <param name="Sights">What may be seen.</param>
/// <param name="Value">What was answered.</param>
/// <param name="Result"><c>pass</c>, <c>fail</c>, <c>recorded</c>; null while open.</param>
/// <param name="Margin">Signed distance to the limit.</param>
public sealed record ExpertRow(
    string Key,
    string Title,
    string State,
    CaptureView? Capture,
    ImmutableArray<SightView> Sights,
    string? Value,
    string? Result,
    string? Margin
);

/// <summary>A set of answers from before a repair or an interruption.</summary>
/// <param name="Why">What was done then.</param>
/// <param name="Outcome">How it would have been judged.</param>
/// <param name="Lines">Item by item.</param>
public sealed record EarlierView(string Why, string Outcome, ImmutableArray<string> Lines);

/// <summary>A stage confirmed at once.</summary>
/// <param name="Title">Heading.</param>
/// <param name="Confirm">What the button says.</param>
/// <param name="Lines">What is confirmed.</param>
public sealed record TogetherView(string Title, string Confirm, ImmutableArray<TogetherLine> Lines);

/// <summary>A line of such a stage.</summary>
public sealed record TogetherLine(string Key, string Title, ImmutableArray<string> Say, string Why, string? Caution)
{
    /// <summary>What is asked at it; null when nothing is.</summary>
    public AskView? Ask { get; init; }
}

/// <summary>A question to people, or to the eye, that a report answers or says "not entered".</summary>
/// <param name="Kind"><c>permission</c>, <c>identity</c>, <c>as-found</c>, <c>restoring</c>, <c>leave</c>,
/// <c>as-left</c> or <c>kit-zero</c>.</param>
/// <param name="Answer">What was entered; null while nothing was.</param>
/// <param name="Offer">The likely answer, entered with one tap; null when there is none to offer.</param>
/// <param name="Who">The person it names; null where it names nobody.</param>
/// <param name="Valves">The valves it asks about; empty where it is about people.</param>
public sealed record AskView(string Kind, string? Answer, string? Offer, string? Who, ImmutableArray<ValveView> Valves)
{
    /// <summary>
    /// Of several that can be chosen the one that was entered, or is most likely, by its name in files; null where
    /// nothing is chosen. What can be done brings it along: a screen needs it not.
    /// </summary>
    [JsonIgnore]
    public string? Chosen { get; init; }
}

/// <summary>A valve of which is asked how it stands.</summary>
/// <param name="Part">Its stable name.</param>
/// <param name="Label">What is written on it.</param>
/// <param name="Likely">How it stands by the likely answer: <c>open</c>, <c>closed</c> or <c>partly</c>.</param>
/// <param name="Stands">How it stands as entered; the likely answer while nothing was.</param>
/// <param name="Matters">Whether it is worth an entry though it is shut: a shutoff, and a cock that was found
/// open.</param>
/// <param name="WhenDrained">How it stands on a line that was drained for the season.</param>
public sealed record ValveView(
    string Part,
    string Label,
    string Likely,
    string Stands,
    bool Matters,
    string WhenDrained
);

/// <summary>A number taken.</summary>
public sealed record ReadingView(
    string EntryId,
    string Item,
    string Name,
    string Value,
    string Unit,
    string? Result,
    string? Margin,
    string? First,
    string? Reason,
    string? From,
    bool Counts
);

/// <summary>Something found or noted.</summary>
public sealed record FindingView(string EntryId, string Text, string? Id);

/// <summary>What the tester can take back with one tap.</summary>
public sealed record UndoView(string EntryId, string Text);

/// <summary>A number while it is being typed, weighed against its limit.</summary>
/// <param name="Result"><c>pass</c>, <c>fail</c>, <c>recorded</c> or <c>missing</c>.</param>
/// <param name="Margin">Signed distance to the limit, with unit.</param>
/// <param name="Text">One sentence.</param>
/// <param name="Warnings">What a careful tester would weigh.</param>
public sealed record WeighedView(string Result, string? Margin, string Text, ImmutableArray<string> Warnings)
{
    /// <summary>The number at the gauge's resolution, as it would be written down.</summary>
    public string? Rounded { get; init; }
}
