using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Runs;

/// <summary>A step in the queue or behind us. The key is its path and, from the second attempt on, <c>@2</c>.</summary>
/// <param name="Key">Unique in the run.</param>
/// <param name="Step">The step.</param>
/// <param name="Stage">The stage it belongs to.</param>
/// <param name="Attempt">1 the first time.</param>
public sealed record PlannedStep(string Key, Step Step, string Stage, int Attempt)
{
    /// <summary>Its path: the key without the attempt.</summary>
    public string Path => PathOf(Key);

    /// <summary>The path of a step's key, without the attempt.</summary>
    public static string PathOf(string key)
    {
        ArgumentNullException.ThrowIfNull(key);
        return
            key.IndexOf('@', StringComparison.Ordinal) is > 0 and var at
            && !key[at..].Contains('/', StringComparison.Ordinal)
            ? key[..at]
            : key;
    }

    /// <summary>Whether it was put in by a sight.</summary>
    public bool IsBranch => Key.Contains('/', StringComparison.Ordinal);
}

/// <summary>How a step came to be behind us.</summary>
public enum Passing
{
    /// <summary>Confirmed.</summary>
    Done,

    /// <summary>A later step was confirmed without confirming this one.</summary>
    PassedOver,

    /// <summary>Left through a sight.</summary>
    LeftBySight,
}

/// <summary>A step behind us.</summary>
/// <param name="Planned">The step.</param>
/// <param name="How">How it was left.</param>
/// <param name="By">The entry that did it.</param>
/// <param name="Sight">The sight it was left by.</param>
public sealed record PassedStep(PlannedStep Planned, Passing How, Entry By, Sight? Sight = null);

/// <summary>A number in the run, with what was written first when it was corrected.</summary>
/// <param name="Entry">The entry that took it.</param>
/// <param name="Reading">The number that counts.</param>
/// <param name="First">What was written first; null when never corrected.</param>
/// <param name="Reason">Why it was corrected.</param>
/// <param name="From">How it came about, when not read at the main step.</param>
public sealed record TakenReading(
    Entry Entry,
    Reading Reading,
    Reading? First = null,
    string? Reason = null,
    string? From = null
)
{
    /// <summary>The step of the sequence it belongs to.</summary>
    public string Root { get; init; } = "";

    /// <summary>Whether the gauge's height counts in it.</summary>
    public bool OneHose { get; init; }
}

/// <summary>An answer that is no differential, and where it came from.</summary>
/// <param name="Value">The answer.</param>
/// <param name="Entry">The entry that gave it.</param>
/// <param name="Root">The step of the sequence it belongs to.</param>
public sealed record GivenAnswer(ItemValue Value, Entry Entry, string Root);

/// <summary>What water that stood still in every test says of the shutoffs.</summary>
/// <param name="ShowsSo1">Whether SO1 is shown tight: the main stands behind it, and closing it was confirmed each
/// time.</param>
/// <param name="So2WasShut">Whether SO2 was shut, confirmed.</param>
/// <param name="SitePushesBack">Whether the site was seen to have a pressure of its own: only then does standing water
/// show that SO2 held.</param>
public readonly record struct StillWater(bool ShowsSo1, bool So2WasShut, bool SitePushesBack);

/// <summary>How a shutoff stood, and where that was entered.</summary>
/// <param name="Position">How it stood.</param>
/// <param name="Entry">The entry.</param>
public sealed record EnteredPosition(ValvePosition Position, Entry Entry);

/// <summary>How a line is to be left, and where that was entered.</summary>
/// <param name="How">How.</param>
/// <param name="Entry">The entry.</param>
public sealed record AgreedLeaving(Leaving How, Entry Entry);

/// <summary>Who agreed, and where that was entered.</summary>
/// <param name="Who">Name or office.</param>
/// <param name="Entry">The entry.</param>
public sealed record AgreedWith(string Who, Entry Entry);

/// <summary>What was found before a repair or an interruption, kept beside what came after.</summary>
/// <param name="Results">The answers of that time.</param>
/// <param name="Findings">What was found.</param>
/// <param name="Why">What was done then.</param>
/// <param name="By">The entry that ended the set.</param>
public sealed record EarlierSet(Results Results, ImmutableArray<Finding> Findings, string Why, Entry By);

/// <summary>A watch over a needle that must stand still.</summary>
/// <param name="StepKey">The step.</param>
/// <param name="StartedAt">When it began.</param>
/// <param name="Start">Where the needle stood then; null where nothing is read.</param>
public sealed record HoldState(string StepKey, DateTimeOffset StartedAt, Reading? Start)
{
    /// <summary>Where the needle stood in between.</summary>
    public ImmutableArray<Reading> Watched { get; init; } = [];

    /// <summary>Where it stood at the end.</summary>
    public Reading? End { get; init; }

    /// <summary>When it ended; null while it runs.</summary>
    public DateTimeOffset? EndedAt { get; init; }

    /// <summary>Why it was cut short; null when it ran its time.</summary>
    public string? CutShort { get; init; }

    /// <summary>Whole seconds from start to end.</summary>
    public int Seconds => EndedAt is { } end ? (int)Math.Max(0, (end - StartedAt).TotalSeconds) : 0;

    /// <summary>The largest change of the needle from its start; null where nothing was read.</summary>
    public decimal? Change =>
        Start is { } start && End is { } end
            ? Watched.Append(end).Max(r => Math.Abs(r.Value.In(start.Value.Unit) - start.Value.Amount))
            : null;
}

/// <summary>A finding with the remark it suggests.</summary>
/// <param name="Kind">What was found; null for free words.</param>
/// <param name="Remark">The suggested remark.</param>
/// <param name="By">The entry it comes from.</param>
/// <param name="Part">The part it is about, when the tester pointed at one.</param>
/// <param name="Root">The step of the sequence where it was seen; null when it belongs to none.</param>
/// <param name="Fails">Whether it fails the assembly by itself.</param>
public sealed record Finding(
    FindingKind? Kind,
    string? Remark,
    Entry By,
    PartId? Part = null,
    string? Root = null,
    bool Fails = false
);

/// <summary>An entry that could not take effect, and why. It stays in the log.</summary>
/// <param name="Entry">The entry.</param>
/// <param name="Why">In a sentence.</param>
public sealed record SetAside(Entry Entry, string Why);

/// <summary>Where a run stands: a pure function of its plan and its log.</summary>
public sealed record RunState
{
    /// <summary>Steps to come, the current one first.</summary>
    public required ImmutableArray<PlannedStep> Ahead { get; init; }

    /// <summary>Steps behind, in the order they were left.</summary>
    public required ImmutableArray<PassedStep> Behind { get; init; }

    /// <summary>The rig as the steps behind have left it.</summary>
    public required RigState Rig { get; init; }

    /// <summary>Every state the rig has been in, the first in service; the water remembers them.</summary>
    public required ImmutableArray<RigState> RigHistory { get; init; }

    /// <summary>Where the water is, in the coarse; worked out when it is asked for.</summary>
    public WaterSketch Water => field ??= Memory.After(RigHistory);

    internal WaterMemory Memory { get; init; } = new();

    /// <summary>Numbers that count, by item.</summary>
    public required ImmutableDictionary<TestItem, TakenReading> Readings { get; init; }

    /// <summary>Numbers held in case they are needed, by item.</summary>
    public required ImmutableDictionary<TestItem, TakenReading> Held { get; init; }

    /// <summary>Readings of attempts that were repeated.</summary>
    public required ImmutableArray<(TestItem Item, TakenReading Reading)> Repeated { get; init; }

    /// <summary>What was found.</summary>
    public required ImmutableArray<Finding> Findings { get; init; }

    /// <summary>Words noted on the way.</summary>
    public required ImmutableArray<Entry> Notes { get; init; }

    /// <summary>How the shutoffs stood on arrival, as entered.</summary>
    public required ImmutableSortedDictionary<string, EnteredPosition> AsFound { get; init; }

    /// <summary>How the valves were found, and how they are to be left.</summary>
    public required LinePositions Stands { get; init; }

    /// <summary>How the line is to be left, as agreed; null where nobody entered it.</summary>
    public AgreedLeaving? Leaving { get; init; }

    /// <summary>How they stand on leaving, as entered.</summary>
    public required ImmutableSortedDictionary<string, EnteredPosition> AsLeft { get; init; }

    /// <summary>The serial number on the plate when it differs.</summary>
    public EntryBody.SerialDiffers? Serial { get; init; }

    /// <summary>Static pressure where it was read.</summary>
    public LinePressure? Line { get; init; }

    /// <summary>Answers that are no differentials, by item.</summary>
    public required ImmutableDictionary<TestItem, GivenAnswer> Given { get; init; }

    /// <summary>Sets of answers before a repair or an interruption, the first one first.</summary>
    public required ImmutableArray<EarlierSet> Earlier { get; init; }

    /// <summary>Watches over the needle, by the step's key.</summary>
    public required ImmutableDictionary<string, HoldState> Holds { get; init; }

    /// <summary>How far the gauge was held from its level, negative low; null while nobody said.</summary>
    public Length? GaugeOffset { get; init; }

    /// <summary>Where the needle stood with both ports open to air; null where nobody said off zero.</summary>
    public ReadZero? KitZero { get; init; }

    /// <summary>Why the test was broken off for today; null while it goes on.</summary>
    public string? Paused { get; init; }

    /// <summary>Findings that fail the assembly whatever the numbers say, as sentences.</summary>
    public ImmutableArray<string> FailedBy =>
        [.. Findings.Where(f => f.Fails && f.Remark is not null).Select(f => f.Remark!).Distinct()];

    /// <summary>Results copied from paper.</summary>
    public required ImmutableDictionary<TestItem, ItemValue> Transcribed { get; init; }

    /// <summary>Why the test ended without a result.</summary>
    public string? NotTestable { get; init; }

    /// <summary>The tester's own remarks; null while the suggested ones stand.</summary>
    public string? OwnRemarks { get; init; }

    /// <summary>Entries without effect.</summary>
    public required ImmutableArray<SetAside> SetAside { get; init; }

    /// <summary>
    /// What standing water says of the shutoffs, when every test was read with the water standing still.
    /// </summary>
    public required StillWater Still { get; init; }

    /// <summary>Who agreed to what.</summary>
    public required ImmutableDictionary<Matter, AgreedWith> Agreed { get; init; }

    /// <summary>Why the test was so fast, in the tester's words; null while nobody said.</summary>
    public string? PaceExplained { get; init; }

    /// <summary>The step to do now; null at the end.</summary>
    public PlannedStep? Current => Ahead.IsEmpty ? null : Ahead[0];

    /// <summary>Whether all steps are behind.</summary>
    public bool AtTheEnd => Ahead.IsEmpty;

    /// <summary>The remarks that the findings suggest, each once, in the order found.</summary>
    public IEnumerable<string> SuggestedRemarks =>
        Earlier
            .SelectMany(e => e.Findings.Select(f => f.Remark).Append(e.Why))
            .Concat(Findings.Select(f => f.Remark))
            .OfType<string>()
            .Distinct();

    /// <summary>The remarks for the report.</summary>
    public string Remarks => OwnRemarks ?? string.Join(" ", SuggestedRemarks);

    /// <summary>The answers that the run gives to the items.</summary>
    public Results Results()
    {
        var results = Transcribed.Aggregate(Verdicts.Results.None, (r, t) => r.With(t.Key, t.Value));
        foreach (var (item, taken) in Readings)
            results = results.With(item, new ItemValue.Measured(taken.Reading));
        if (Line is { } line)
            results = results.With(TestItem.StaticLine, new ItemValue.Line(line));
        foreach (var (item, answer) in Given)
            results = results.With(item, answer.Value);
        if (Still.ShowsSo1 && results[TestItem.Shutoff1] is null && !Found(kind => kind == FindingKind.So1Leaks))
            results = results.With(TestItem.Shutoff1, new ItemValue.Tightness(true));
        if (Still.So2WasShut && results[TestItem.Shutoff2] is null && !Found(kind => kind.IsOfSo2))
            results = results.With(
                TestItem.Shutoff2,
                Still.SitePushesBack ? new ItemValue.Tightness(true) : new ItemValue.NotShown()
            );
        return results;
    }

    private bool Found(Func<FindingKind, bool> which) => Findings.Any(f => f.Kind is { } kind && which(kind));
}
