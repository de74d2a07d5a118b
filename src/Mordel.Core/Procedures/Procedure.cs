using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>A school's sequence for one type. It is written anew for each setup: kit, body and profile decide about some of its steps.</summary>
/// <param name="Id">Stable name: <c>dc-sight-tube</c>.</param>
/// <param name="Title">What people call it.</param>
/// <param name="About">What it does in a sentence or two.</param>
/// <param name="Type">The type it tests.</param>
/// <param name="Kits">The kits it can be done with.</param>
/// <param name="Bring">What must be at hand beside the kit.</param>
/// <param name="Stages">Writes its own stages, without preliminaries and closing.</param>
public sealed record Procedure(
    string Id, string Title, string About, AssemblyType Type, ImmutableArray<KitKind> Kits, ImmutableArray<string> Bring, Func<Setup, ImmutableArray<Stage>> Stages)
{
    /// <summary>The body it is written for where the type has more than one; it is done on the others by the cocks that stand in the same places.</summary>
    public string? Body { get; init; }

    /// <summary>Whether a needle and water that stand still in every test prove both shutoffs tight.</summary>
    public bool StillWaterProvesShutoffs { get; init; }

    /// <summary>Why a kit cannot do this school, kindly; null when it can.</summary>
    public string? Unfit(Kit kit)
    {
        ArgumentNullException.ThrowIfNull(kit);
        if (Kits.Contains(kit.Kind)) return null;
        var others = string.Join(", ", Kit.All.Where(k => Kits.Contains(k.Kind)).Select(k => k.Name));
        var why = kit.Kind != KitKind.TwoValve ? "it lacks what the moves need"
            : Type == AssemblyType.RP ? "an RP test joins two hoses and needs a bypass hose, which this kit has not" : "its moves need control valves, which this kit has not";
        return $"{Title} cannot be done with a {kit.Name} kit: {why}. Bring one of these: {others}.";
    }

    /// <summary>The run sheet for a setup.</summary>
    public RunSheet For(Setup setup) => new(this, setup);
}

/// <summary>A procedure written out for one setup: what a run follows, what is printed.</summary>
public sealed class RunSheet
{
    private readonly Dictionary<string, int> byId = [];
    private readonly Dictionary<Step, ImmutableArray<Move>> moves = new(ReferenceEqualityComparer.Instance);

    /// <summary>Writes the sheet.</summary>
    public RunSheet(Procedure procedure, Setup setup)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        Procedure = procedure;
        Setup = setup;
        WholeRun = [Preliminaries.For(setup), .. procedure.Stages(setup), ClosingUp.For(setup)];
        Steps = [.. WholeRun.SelectMany(stage => stage.Steps.Select(step => (stage, step)))];
        for (var i = 0; i < Steps.Length; i++) byId.Add(Steps[i].Step.Id, i);
    }

    /// <summary>The school.</summary>
    public Procedure Procedure { get; }

    /// <summary>What it is written for.</summary>
    public Setup Setup { get; }

    /// <summary>The whole run: preliminaries, the school's stages, closing up.</summary>
    public ImmutableArray<Stage> WholeRun { get; }

    /// <summary>Every step of the sequence with its stage.</summary>
    public ImmutableArray<(Stage Stage, Step Step)> Steps { get; }

    /// <summary>Where a step stands in the sequence, from 0; −1 when it is not of the sequence.</summary>
    public int At(string stepId) => byId.GetValueOrDefault(stepId, -1);

    /// <summary>The moves of a step, in order, expanded once.</summary>
    public ImmutableArray<Move> MovesOf(Step step)
    {
        ArgumentNullException.ThrowIfNull(step);
        return moves.TryGetValue(step, out var known) ? known : moves[step] = [.. step.Acts.SelectMany(a => a.MovesFor(Setup.Rig))];
    }

    /// <summary>The stage with this name.</summary>
    public Stage StageNamed(string id) => WholeRun.First(s => s.Id == id);

    /// <summary>The first step of the school's own: where a whole test begins.</summary>
    public string FirstStep => WholeRun[1].Steps[0].Id;

    /// <summary>Every step there is, branches included, with its path: <c>cv1.read/never-stops/cv1.note</c>.</summary>
    public IEnumerable<(string Path, Step Step)> EveryStep() => Steps.SelectMany(s => Below(s.Step.Id, s.Step));

    private static IEnumerable<(string Path, Step Step)> Below(string path, Step step) =>
        new[] { (path, step) }.Concat(step.Sights.SelectMany(s => s.Branch.SelectMany(b => Below($"{path}/{s.Id}/{b.Id}", b))));
}
