using System.Collections.Immutable;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>What may be wrong.</summary>
/// <param name="Faults">The faults; none for a sound assembly.</param>
/// <param name="Weight">How sure, 0 to 1.</param>
/// <param name="Explains">The observations that go with it, by index.</param>
/// <param name="Leaves">The observations that do not.</param>
public sealed record Hypothesis(
    FaultSet Faults,
    double Weight,
    ImmutableArray<int> Explains,
    ImmutableArray<int> Leaves
)
{
    /// <summary>The atlas's row with these faults that goes best with what was seen.</summary>
    public int Row { get; init; }
}

/// <summary>An observation that goes with nothing else that was seen: to be repeated.</summary>
/// <param name="Observation">Its index.</param>
/// <param name="Says">Why, and what to do.</param>
public sealed record Contradiction(int Observation, string Says);

/// <summary>What a look may show, and what it would mean.</summary>
/// <param name="Answer">The answer's name in files.</param>
/// <param name="Words">In words.</param>
/// <param name="Chance">How likely it is, 0 to 1.</param>
/// <param name="PointsTo">What would then be likeliest, the likeliest first.</param>
public sealed record ExpectedAnswer(string Answer, string Words, double Chance, ImmutableArray<FaultSet> PointsTo);

/// <summary>A look that would tell more.</summary>
/// <param name="Id">A look in service, a step of the run sheet, or <c>open-cv1</c>.</param>
/// <param name="Title">What to do.</param>
/// <param name="Ask">What to see.</param>
/// <param name="Gain">By how much it is expected to lessen what is open, bits.</param>
/// <param name="Seconds">About how long it takes.</param>
/// <param name="Tool">What must be at hand.</param>
/// <param name="By">Who may do it.</param>
/// <param name="Caution">What to beware of.</param>
/// <param name="Expect">What it may show.</param>
public sealed record NextLook(
    string Id,
    string Title,
    string Ask,
    double Gain,
    int Seconds,
    LookTool Tool,
    Doer By,
    string? Caution,
    ImmutableArray<ExpectedAnswer> Expect
)
{
    // Before the part that is opened, in the id of a look that opens one.
    private const string Opening = "open-";

    /// <summary>The id of the look that opens a part.</summary>
    public static string IdOfOpening(PartId part) => $"{Opening}{part}";

    /// <summary>The part that is opened for it; null for every other look.</summary>
    public PartId? Opens => Tool == LookTool.Wrench ? new(Id[Opening.Length..]) : null;

    /// <summary>What may be answered, by its name in files; nothing where a test by the run sheet answers.</summary>
    /// <param name="body">The body.</param>
    public IEnumerable<(string Name, string Words, PortState? Port)> Answers(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        if (Opens is { } part)
            return FoundNames
                .In(body.Parts.First(p => p.Id == part).Kind)
                .Select(f => (f.Name(), Wording.Capital(f.Words()), (PortState?)null));
        return (ServiceLooks.For(body).FirstOrDefault(l => l.Id == Id)?.CanShow ?? []).Select(s =>
            (ServiceLooks.Name(s), ServiceLooks.Words(s), (PortState?)s)
        );
    }

    /// <summary>Effort in words.</summary>
    public string Effort => $"{ServiceLook.ToolWords(Tool)}, {ServiceLook.Time(Seconds)}";
}

/// <summary>A diagnosis: a pure function of evidence, atlas and rates.</summary>
/// <param name="Atlas">What it was compared with.</param>
/// <param name="Evidence">What was seen.</param>
/// <param name="Hypotheses">What may be wrong, the likeliest first.</param>
/// <param name="Nothing">The weight of "nothing of this"; with the hypotheses it makes 1.</param>
/// <param name="Contradictions">What should be looked at again.</param>
/// <param name="Alike">Hypotheses, by index, that no look that is left can tell apart.</param>
/// <param name="Next">What to look at next, the best first.</param>
public sealed record Diagnosed(
    string Atlas,
    Evidence Evidence,
    ImmutableArray<Hypothesis> Hypotheses,
    double Nothing,
    ImmutableArray<Contradiction> Contradictions,
    ImmutableArray<ImmutableArray<int>> Alike,
    ImmutableArray<NextLook> Next
)
{
    /// <summary>Whether "nothing of this" weighs so much that it must be said.</summary>
    public bool NothingExplains => Nothing > 0.3;

    /// <summary>The hypotheses that a board shows.</summary>
    public IEnumerable<Hypothesis> Leading => Hypotheses.Take(5);
}

/// <summary>By which order looks are proposed.</summary>
public enum LookOrder
{
    /// <summary>What tells most for its effort.</summary>
    Best,

    /// <summary>SO2 shut, then a flow through the body (handbook chapter 4).</summary>
    ShutFirst,

    /// <summary>A flow downstream first, then SO2 shut.</summary>
    FlowFirst,
}
