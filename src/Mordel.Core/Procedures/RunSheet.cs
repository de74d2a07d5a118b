using System.Collections.Immutable;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;

namespace Mordel.Core.Procedures;

/// <summary>
/// A procedure written out for one setup: what a run follows, what is printed, and what a sealed run is replayed by,
/// whatever the school looks like by then.
/// </summary>
public sealed class RunSheet
{
    private readonly Dictionary<string, int> byId = [];
    private readonly Dictionary<Step, ImmutableArray<Move>> moves = new(ReferenceEqualityComparer.Instance);

    /// <summary>A sheet as it was written out.</summary>
    /// <param name="procedure">What it is called.</param>
    /// <param name="setup">What it was written for.</param>
    /// <param name="stages">All of it: preliminaries, the school's stages, closing up.</param>
    /// <exception cref="ArgumentException">There are no steps, or two with one id.</exception>
    public RunSheet(ProcedureHead procedure, Setup setup, ImmutableArray<Stage> stages)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        ArgumentNullException.ThrowIfNull(setup);
        (Procedure, Setup, WholeRun) = (procedure, setup, stages);
        Steps = [.. WholeRun.SelectMany(stage => stage.Steps.Select(step => (stage, step)))];
        if (Steps.IsEmpty)
            throw new ArgumentException("A sheet has steps.", nameof(stages));
        for (var i = 0; i < Steps.Length; i++)
            if (!byId.TryAdd(Steps[i].Step.Id, i))
                throw new ArgumentException($"The step {Steps[i].Step.Id} stands twice.", nameof(stages));
        // Read by several requests at once: nothing is written after this but the text, the same by whoever writes it.
        foreach (var (_, step) in EveryStep())
            moves[step] = [.. step.Acts.SelectMany(a => a.MovesFor(setup.Rig))];
    }

    /// <summary>Writes a school's sheet.</summary>
    public static RunSheet WrittenBy(Procedure procedure, Setup setup)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        var stages = procedure.Stages(setup);
        var first = stages[0] with { Steps = [.. Charging.Steps(setup), .. stages[0].Steps] };
        var opensTap = stages.SelectMany(s => s.Steps).Any(OpensTap);
        var head = procedure.Head;
        return new(
            head with
            {
                Bring = [.. head.Bring, .. ProcedureHead.Always],
            },
            setup,
            [
                Preliminaries.For(setup),
                first,
                .. stages.Skip(1),
                ClosingUp.For(setup, procedure.LettersControls, opensTap),
            ]
        );
    }

    private string? text;

    /// <summary>
    /// Its canonical text. A sheet that many runs share is written out once: it never changes.
    /// </summary>
    /// <param name="write">Writes it; gives the same for the same sheet.</param>
    public string TextBy(Func<RunSheet, string> write)
    {
        ArgumentNullException.ThrowIfNull(write);
        return text ??= write(this);
    }

    /// <summary>The school.</summary>
    public ProcedureHead Procedure { get; }

    /// <summary>What it is written for.</summary>
    public Setup Setup { get; }

    /// <summary>Assembly and kit.</summary>
    public Rig Rig => Setup.Rig;

    /// <summary>Limits, holds and the items asked for.</summary>
    public SchoolRules Rules => Setup.Rules;

    /// <summary>The whole run: preliminaries, the school's stages, closing up.</summary>
    public ImmutableArray<Stage> WholeRun { get; }

    /// <summary>Every step of the sequence with its stage.</summary>
    public ImmutableArray<(Stage Stage, Step Step)> Steps { get; }

    /// <summary>Where a step stands in the sequence, from 0; −1 when it is not of the sequence.</summary>
    public int At(string stepId) => byId.GetValueOrDefault(stepId, -1);

    /// <summary>The moves of a step, in order.</summary>
    public ImmutableArray<Move> MovesOf(Step step)
    {
        ArgumentNullException.ThrowIfNull(step);
        return moves.TryGetValue(step, out var known) ? known : [.. step.Acts.SelectMany(a => a.MovesFor(Rig))];
    }

    /// <summary>The stage with this name.</summary>
    public Stage StageNamed(string id) => WholeRun.First(s => s.Id == id);

    /// <summary>The first step of the school's own: where a whole test begins.</summary>
    public string FirstStep => WholeRun[1].Steps.First(s => s.OnlyIf.IsEmpty).Id;

    /// <summary>Whether the sheet goes by how the line was found.</summary>
    public bool GoesByArrival => Steps.Any(s => !s.Step.OnlyIf.IsEmpty);

    /// <summary>
    /// Every step there is, branches and offers included, with its path: <c>cv1.read/never-stops/cv1.note</c>.
    /// </summary>
    public IEnumerable<(string Path, Step Step)> EveryStep() => Steps.SelectMany(s => Below(s.Step.Id, s.Step));

    private static bool OpensTap(Step step) =>
        step.Acts.Any(a => a is Act.OpenTap)
        || step.Offers.Any(OpensTap)
        || step.Sights.Any(s => s.Branch.Any(OpensTap));

    private static IEnumerable<(string Path, Step Step)> Below(string path, Step step) =>
        new[] { (path, step) }
            .Concat(step.Sights.SelectMany(s => s.Branch.SelectMany(b => Below($"{path}/{s.Id}/{b.Id}", b))))
            .Concat(step.Offers.SelectMany(o => Below($"{o.Id}/{path}", o)));
}
