using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>What a part looks like where it is drawn.</summary>
public enum PartForm
{
    /// <summary>A cap that is screwed in.</summary>
    Cap,

    /// <summary>A cover that is held by bolts or a coupling.</summary>
    Cover,

    /// <summary>Bolts or screws, however many.</summary>
    Bolts,

    /// <summary>One screw.</summary>
    Screw,

    /// <summary>A spring.</summary>
    Spring,

    /// <summary>A poppet with its stem.</summary>
    Poppet,

    /// <summary>A seal disc or ring.</summary>
    Disc,

    /// <summary>A retaining washer.</summary>
    Washer,

    /// <summary>A seat.</summary>
    Seat,

    /// <summary>An O-ring.</summary>
    ORing,

    /// <summary>A retainer.</summary>
    Retainer,

    /// <summary>A whole check that comes out as one piece.</summary>
    Module,

    /// <summary>A stem or plunger.</summary>
    Stem,

    /// <summary>A diaphragm.</summary>
    Diaphragm,

    /// <summary>A piston.</summary>
    Piston,

    /// <summary>A clip, or a clip with its pin.</summary>
    Clip,

    /// <summary>A sleeve.</summary>
    Sleeve,

    /// <summary>A plate.</summary>
    Plate,

    /// <summary>The halves of a coupling.</summary>
    Coupling,

    /// <summary>A gasket.</summary>
    Gasket,

    /// <summary>A sensing hose or line.</summary>
    Hose,

    /// <summary>A cock.</summary>
    Cock,

    /// <summary>A canopy.</summary>
    Canopy,

    /// <summary>A bonnet.</summary>
    Bonnet,

    /// <summary>A float.</summary>
    Float,

    /// <summary>A strainer.</summary>
    Strainer,

    /// <summary>A shutoff valve.</summary>
    Shutoff,

    /// <summary>The body itself.</summary>
    Body,
}

/// <summary>Whether a part is greased: with food-grade silicone alone, in a thin film (handbook chapter 5).</summary>
public enum Grease
{
    /// <summary>Never.</summary>
    Never,

    /// <summary>A thin film.</summary>
    Film,

    /// <summary>A thin film on its outside alone.</summary>
    Outside,
}

/// <summary>A part of an opened body.</summary>
/// <param name="Id">Its name within the family.</param>
/// <param name="Name">Its name.</param>
/// <param name="Form">What it looks like.</param>
public sealed record BenchPart(string Id, string Name, PartForm Form)
{
    /// <summary>The part of the assembly that it belongs to; null where that is whichever was opened.</summary>
    public PartId? Of { get; init; }

    /// <summary>Its name in a sentence: <c>the seal disc</c>, and <c>CV1</c> without an article.</summary>
    public string InWords => Name.StartsWith("CV", StringComparison.Ordinal) || Name.Length <= 3 ? Name : $"the {Name}";

    /// <summary>What must be out before it can be.</summary>
    public IReadOnlyList<string> HeldBy { get; init; } = [];

    /// <summary>Whether a spring pushes at it.</summary>
    public bool IsSprung { get; init; }

    /// <summary>The part that it looks like and never changes places with.</summary>
    public string? NeverFor { get; init; }

    /// <summary>Whether it is greased.</summary>
    public Grease Grease { get; init; }

    /// <summary>Which way round it lies; null where it cannot lie wrongly.</summary>
    public string? WayRound { get; init; }

    /// <summary>What is minded at it, a sentence each.</summary>
    public IEnumerable<string> Minded
    {
        get
        {
            if (WayRound is { } way)
                yield return $"Which way round: {way}.";
            if (NeverFor is { } other)
                yield return $"Never changes places with {other}.";
            if (Grease == Grease.Film)
                yield return "A thin film of food-grade silicone grease.";
            if (Grease == Grease.Outside)
                yield return "Food-grade silicone grease on its outside alone.";
            if (Form is PartForm.Disc or PartForm.Stem or PartForm.Poppet)
                yield return "No grease.";
        }
    }
}

/// <summary>One thing that is done at an opened body.</summary>
/// <param name="Does">What is done.</param>
/// <param name="Parts">What comes out or goes in with it; nothing where a part is only turned or looked at.</param>
public sealed record BenchStep(string Does, params string[] Parts)
{
    /// <summary>What to beware of.</summary>
    public string? Caution { get; init; }

    /// <summary>Why.</summary>
    public string? Why { get; init; }
}

/// <summary>The sheet of a construction family: its parts, and how they come apart and go together.</summary>
/// <param name="Family">The family.</param>
/// <param name="Looks">How it is recognised, in a sentence.</param>
/// <param name="Parts">The parts, in the order in which they come out.</param>
/// <param name="Out">Taking it apart.</param>
/// <param name="In">Putting it together.</param>
public sealed record BenchSheet(
    ConstructionFamily Family,
    string Looks,
    IReadOnlyList<BenchPart> Parts,
    IReadOnlyList<BenchStep> Out,
    IReadOnlyList<BenchStep> In
)
{
    /// <summary>The family's name in files.</summary>
    public string Id => Family.Id;

    /// <summary>What it is called, as a title.</summary>
    public string Title => Wording.Capital(Family.Title);

    /// <summary>The part of a name.</summary>
    /// <exception cref="InvalidOperationException">There is none.</exception>
    public BenchPart Part(string id) => Parts.First(p => p.Id == id);

    /// <summary>What differs by size, how covers are tightened, and the like.</summary>
    public IReadOnlyList<string> Mind { get; init; } = [];
}
