using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>An answer that a step asks for.</summary>
/// <param name="Item">The item it belongs to.</param>
/// <param name="Provisional">A number that is only held in case it is needed: noted before a tee is opened.</param>
public sealed record Capture(TestItem Item, bool Provisional = false)
{
    /// <summary>Read with one hose, so that the gauge's height counts.</summary>
    public bool OneHose { get; init; }

    /// <summary>Whether the test ends here when the number does not meet its limit.</summary>
    public bool MustMeetToGoOn { get; init; }

    /// <summary>
    /// What is found when the number does not meet its limit; null where a low number says nothing but itself.
    /// </summary>
    public FindingKind? WhenLow { get; init; }

    /// <summary>The remark that goes with it.</summary>
    public string? RemarkWhenLow { get; init; }

    /// <summary>Whether the step may be passed without an answer.</summary>
    public bool MayBePassed { get; init; }
}

/// <summary>An answer that a sight gives by itself: tight or leaks, yes or no, as the item's kind has it.</summary>
/// <param name="Item">The item.</param>
/// <param name="Good">Tight, or yes.</param>
public sealed record Answer(TestItem Item, bool Good);

/// <summary>What a sight leads to once its branch is done.</summary>
public enum LeadsTo
{
    /// <summary>On with the next step.</summary>
    GoOn,

    /// <summary>Back to the step named in <see cref="Sight.Again"/>.</summary>
    Repeat,

    /// <summary>The test ends as not testable.</summary>
    NotTestable,

    /// <summary>The test ends here with what was read: going on would show nothing more.</summary>
    CloseUp,

    /// <summary>Back to the beginning after a repair: what was read so far stays as the set before it.</summary>
    BeginAgain,
}

/// <summary>Which value an item gets from a sight.</summary>
public enum TakesValue
{
    /// <summary>None by itself; a capture in the branch takes it.</summary>
    Nothing,

    /// <summary>Zero: the needle has run down.</summary>
    ZeroOnDial,

    /// <summary>The number noted before the tee was opened.</summary>
    NumberHeld,
}

/// <summary>
/// An answer to "what do you see?" at a step (handbook chapter 4): what it means, what follows, what is found and which
/// remark it suggests.
/// </summary>
/// <param name="Id">Stable name, unique at its step: <c>never-stops</c>.</param>
/// <param name="Seen">What is seen, in the field's words.</param>
/// <param name="Means">What it means.</param>
public sealed record Sight(string Id, string Seen, string Means)
{
    /// <summary>What is observed, typed: what eyes look for and what a prediction can be compared with.</summary>
    public required Observation Shows { get; init; }

    /// <summary>Whether it is what should be seen.</summary>
    public bool Good { get; init; }

    /// <summary>Steps that follow before the main line goes on.</summary>
    public ImmutableArray<Step> Branch { get; init; } = [];

    /// <summary>What is found by it.</summary>
    public ImmutableArray<FindingKind> Findings { get; init; } = [];

    /// <summary>Suggested remark; null when there is nothing to remark.</summary>
    public string? Remark { get; init; }

    /// <summary>Answers that follow from it.</summary>
    public ImmutableArray<Answer> Gives { get; init; } = [];

    /// <summary>
    /// Whether it shows that the site has a pressure of its own, so that a leak of SO2 could not stay hidden in the
    /// tests that follow.
    /// </summary>
    public bool SitePushesBack { get; init; }

    /// <summary>Whether it fails the assembly by itself, whatever the numbers say.</summary>
    public bool FailsAlone { get; init; }

    /// <summary>Steps of the sequence that make no sense any more and are left out.</summary>
    public ImmutableArray<string> Skips { get; init; } = [];

    /// <summary>Where it leads.</summary>
    public LeadsTo Leads { get; init; } = LeadsTo.GoOn;

    /// <summary>The step to repeat from.</summary>
    public string? Again { get; init; }

    /// <summary>The value that the item gets from this sight alone.</summary>
    public TakesValue Takes { get; init; }

    /// <summary>The item that gets it.</summary>
    public TestItem? Item { get; init; }

    /// <summary>What kept the test from going on is put right: it is repeated from a step.</summary>
    public static Sight PutRight(string id, string seen, string means, string again) =>
        new(id, seen, means)
        {
            Shows = ObservationKind.PutRight,
            Leads = LeadsTo.Repeat,
            Again = again,
        };

    /// <summary>The hoses hung on each other's cocks: hooked up anew, from a step.</summary>
    public static Sight HosesSwapped(string seen, string means, string again) =>
        new("swapped", seen, means)
        {
            Shows = ObservationKind.HosesCrossed,
            Findings = [FindingKind.HosesSwapped],
            Leads = LeadsTo.Repeat,
            Again = again,
        };
}

/// <summary>
/// What a step asks people for beside its instructions; answered by an entry of its own kind, or "not entered".
/// </summary>
public enum Question
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>Who gave permission to shut the water off.</summary>
    Permission,

    /// <summary>Whether it is the assembly on the order.</summary>
    Identity,

    /// <summary>How the shutoffs stood on arrival.</summary>
    Arrival,

    /// <summary>Who was asked before the water is restored.</summary>
    BeforeRestoring,

    /// <summary>How the shutoffs are left.</summary>
    Departure,

    /// <summary>How the line is to be left: as it was found, in service, or off and drained.</summary>
    Leaving,

    /// <summary>Where the needle stands with both ports open to air, when it is not at zero.</summary>
    KitZero,
}

/// <summary>
/// How the line must have been found, or is to be left, for a step to belong to a run. What nobody entered counts as in
/// service: shutoffs open, cocks closed.
/// </summary>
/// <param name="Parts">The valves; one of them is enough.</param>
/// <param name="ValvePositions">How it was found, or is to stand.</param>
public sealed record PositionCondition(EquatableArray<PartId> Parts, EquatableArray<ValvePosition> ValvePositions)
{
    /// <summary>Whether it is about how the line is to be left, not about how it was found.</summary>
    public bool WhenLeft { get; init; }

    /// <summary>Whether the line was found so, or is to be left so.</summary>
    /// <param name="rig">The rig.</param>
    /// <param name="stands">How the line was found and is to be left.</param>
    public bool Holds(Rig rig, LinePositions stands)
    {
        ArgumentNullException.ThrowIfNull(rig);
        ArgumentNullException.ThrowIfNull(stands);
        var entered = WhenLeft ? stands.ToLeave : stands.Found;
        return Parts.Any(p => ValvePositions.Contains(entered(p) ?? rig[p].Normal.AsPosition()));
    }

    /// <summary>In words: <c>SO1 was found shut</c>.</summary>
    public string Text(Rig rig)
    {
        ArgumentNullException.ThrowIfNull(rig);
        var how = ValvePositions.Select(s =>
            s switch
            {
                ValvePosition.Open => "open",
                ValvePosition.Closed => "shut",
                _ => "partly open",
            }
        );
        return $"{string.Join(" or ", Parts.Select(p => rig[p].Named))} {(WhenLeft ? "is to stand" : "was found")} "
            + string.Join(" or ", how);
    }
}

/// <summary>How the valves of a line were found, and how they are to stand at the end.</summary>
/// <param name="Found">How each was found; null where nobody said.</param>
/// <param name="ToLeave">How each is to be left; null where nobody said.</param>
public sealed record LinePositions(Func<PartId, ValvePosition?> Found, Func<PartId, ValvePosition?> ToLeave)
{
    /// <summary>Nobody has said anything.</summary>
    public static LinePositions NotEntered { get; } = new(_ => null, _ => null);
}

/// <summary>A step of a run sheet.</summary>
/// <param name="Id">Stable name within its procedure: <c>cv1.read</c>.</param>
/// <param name="Title">What is done, in a few words.</param>
/// <param name="Acts">The instructions.</param>
/// <param name="Why">Why it is there.</param>
public sealed record Step(string Id, string Title, ImmutableArray<Act> Acts, string Why)
{
    /// <summary>What to watch for while doing it.</summary>
    public string? Watch { get; init; }

    /// <summary>The caution shown with it (handbook chapter 8).</summary>
    public string? Caution { get; init; }

    /// <summary>The answer it asks for.</summary>
    public Capture? Capture { get; init; }

    /// <summary>What may be seen here.</summary>
    public ImmutableArray<Sight> Sights { get; init; } = [];

    /// <summary>Whether the step can only be left through one of its sights.</summary>
    public bool MustAnswer { get; init; }

    /// <summary>Whether the needle is watched for the time that the profile sets before this counts as still.</summary>
    public bool Holds { get; init; }

    /// <summary>What the answer waits for.</summary>
    public Cue Cue { get; init; }

    /// <summary>What people are asked for at it.</summary>
    public Question Asks { get; init; }

    /// <summary>Steps that may be put in before it, to show what the sequence alone does not show.</summary>
    public ImmutableArray<Step> Offers { get; init; } = [];

    /// <summary>
    /// How the line must have been found, or is to be left, for the step to belong to the run; all of it, and always
    /// where nothing stands here.
    /// </summary>
    public ImmutableArray<PositionCondition> OnlyIf { get; init; } = [];

    /// <summary>When it belongs to a run, in words: <c>If SO1 was found shut</c>; null when always.</summary>
    public string? When(Rig rig) =>
        OnlyIf.IsEmpty ? null : $"If {string.Join(" and ", OnlyIf.Select(f => f.Text(rig)))}";

    /// <summary>Whether it belongs to a run of which the line was found and is to be left so.</summary>
    public bool Belongs(Rig rig, LinePositions stands) => OnlyIf.All(f => f.Holds(rig, stands));

    /// <summary>What must be so on the rig before it.</summary>
    public ImmutableArray<Condition> Needs { get; init; } = [];

    /// <summary>The sight with this name, or null.</summary>
    public Sight? SightNamed(string id) => Sights.FirstOrDefault(s => s.Id == id);
}

/// <summary>What kind of stage it is; decides how a screen lays it out.</summary>
public enum StageKind
{
    /// <summary>Before the test: all of it on one page, one confirmation.</summary>
    Before,

    /// <summary>Getting ready.</summary>
    Prepare,

    /// <summary>A test with a result.</summary>
    Test,

    /// <summary>Closing up: all of it on one page, one confirmation.</summary>
    Finish,
}

/// <summary>A part of the sequence.</summary>
/// <param name="Id">Stable name.</param>
/// <param name="Title">Heading.</param>
/// <param name="Kind">What kind.</param>
/// <param name="Steps">Its steps in order.</param>
public sealed record Stage(string Id, string Title, StageKind Kind, ImmutableArray<Step> Steps);
