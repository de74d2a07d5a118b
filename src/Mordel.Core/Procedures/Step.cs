using System.Collections.Immutable;
using Mordel.Core.Rules;

namespace Mordel.Core.Procedures;

/// <summary>A number that a step asks for.</summary>
/// <param name="Item">The item it belongs to.</param>
/// <param name="Provisional">A number that is only held in case it is needed: noted before a tee is opened.</param>
public sealed record Capture(TestItem Item, bool Provisional = false);

/// <summary>What a sight leads to once its branch is done.</summary>
public enum LeadsTo
{
    /// <summary>On with the next step.</summary>
    GoOn,

    /// <summary>Back to the step named in <see cref="Sight.Again"/>.</summary>
    Repeat,

    /// <summary>The test ends as not testable.</summary>
    NotTestable,
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
/// An answer to "what do you see?" at a step (handbook chapter 4): what it means, what follows, what is found and which remark it suggests.
/// </summary>
/// <param name="Id">Stable name, unique at its step: <c>never-stops</c>.</param>
/// <param name="Seen">What is seen, in the field's words.</param>
/// <param name="Means">What it means.</param>
public sealed record Sight(string Id, string Seen, string Means)
{
    /// <summary>Steps that follow before the main line goes on.</summary>
    public ImmutableArray<Step> Branch { get; init; } = [];

    /// <summary>Findings by their stable names.</summary>
    public ImmutableArray<string> Findings { get; init; } = [];

    /// <summary>Suggested remark; null when there is nothing to remark.</summary>
    public string? Remark { get; init; }

    /// <summary>Where it leads.</summary>
    public LeadsTo Leads { get; init; } = LeadsTo.GoOn;

    /// <summary>The step to repeat from.</summary>
    public string? Again { get; init; }

    /// <summary>The value that the item gets from this sight alone.</summary>
    public TakesValue Takes { get; init; }

    /// <summary>The item that gets it.</summary>
    public TestItem? Item { get; init; }
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

    /// <summary>The number it asks for.</summary>
    public Capture? Capture { get; init; }

    /// <summary>What may be seen here.</summary>
    public ImmutableArray<Sight> Sights { get; init; } = [];

    /// <summary>Whether the step can only be left through one of its sights.</summary>
    public bool MustAnswer { get; init; }

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

/// <summary>A school's sequence for one type, free of any kit.</summary>
/// <param name="Id">Stable name: <c>dc-sight-tube</c>.</param>
/// <param name="Title">What people call it.</param>
/// <param name="About">What it does in a sentence or two.</param>
/// <param name="Type">The type it tests.</param>
/// <param name="Kits">The kits it can be done with.</param>
/// <param name="Bring">What must be at hand beside the kit.</param>
/// <param name="Stages">Its own stages, without preliminaries and closing.</param>
public sealed record Procedure(
    string Id, string Title, string About, Rigs.AssemblyType Type, ImmutableArray<Rigs.KitKind> Kits, ImmutableArray<string> Bring, ImmutableArray<Stage> Stages)
{
    /// <summary>The whole run: preliminaries, the school's stages, closing up.</summary>
    public ImmutableArray<Stage> WholeRun { get; } = [Preliminaries.Stage, .. Stages, ClosingUp.Stage];

    /// <summary>Whether a tube that stands still in every test proves both shutoffs tight.</summary>
    public bool StillWaterProvesShutoffs { get; init; }

    /// <summary>Every step there is, branches included, with its path: <c>cv1.read/never-stops/cv1.note</c>.</summary>
    public IEnumerable<(string Path, Step Step)> EveryStep() => WholeRun.SelectMany(s => s.Steps).SelectMany(s => Below(s.Id, s));

    private static IEnumerable<(string Path, Step Step)> Below(string path, Step step) =>
        new[] { (path, step) }.Concat(step.Sights.SelectMany(s => s.Branch.SelectMany(b => Below($"{path}/{s.Id}/{b.Id}", b))));
}
