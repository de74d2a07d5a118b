using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>The steps ahead and behind of a run that is being played. Keys count attempts: <c>cv1.read@2</c>.</summary>
internal sealed class StepQueue
{
    private readonly RunSheet sheet;
    private readonly Dictionary<string, int> attempts = [];
    private LinePositions stands = LinePositions.NotEntered;

    public StepQueue(RunSheet sheet)
    {
        this.sheet = sheet;
        foreach (var (stage, step) in sheet.Steps)
            if (Belongs(step))
                Ahead.Add(Plan(step.Id, step, stage.Id));
    }

    public List<PlannedStep> Ahead { get; } = [];

    public List<PassedStep> Behind { get; } = [];

    /// <summary>Whether a step belongs to a run of which this has been entered of the line.</summary>
    public bool Belongs(Step step) => step.Belongs(sheet.Rig, stands);

    /// <summary>
    /// How the line was found, or is to be left, has been entered: steps ahead that hang on it come in or drop out.
    /// </summary>
    public void Entered(LinePositions line)
    {
        stands = line;
        var ahead = Ahead.FindIndex(p => !p.IsBranch);
        if (ahead < 0)
            return;
        var from = sheet.At(Ahead[ahead].Step.Id);
        Ahead.RemoveAll(p => !p.IsBranch && !Belongs(p.Step));
        var stages = Ahead.Where(p => !p.IsBranch).Select(p => p.Stage).ToHashSet();
        foreach (
            var (stage, step) in sheet
                .Steps.Skip(from)
                .Where(s => !s.Step.OnlyIf.IsEmpty && Belongs(s.Step) && stages.Contains(s.Stage.Id))
        )
        {
            if (Ahead.Exists(p => !p.IsBranch && p.Step.Id == step.Id))
                continue;
            var after = Ahead.FindIndex(p => !p.IsBranch && sheet.At(p.Step.Id) > sheet.At(step.Id));
            Ahead.Insert(after < 0 ? Ahead.Count : after, Plan(step.Id, step, stage.Id));
        }
    }

    /// <summary>The first step of a stage that belongs to this run.</summary>
    public Step FirstOf(Stage stage) => stage.Steps.FirstOrDefault(Belongs) ?? stage.Steps[0];

    /// <summary>Puts a branch in front.</summary>
    public void Branch(PlannedStep from, Sight sight) =>
        Ahead.InsertRange(0, sight.Branch.Select(b => Plan($"{from.Path}/{sight.Id}/{b.Id}", b, from.Stage)));

    /// <summary>
    /// Puts an offered step in front of the one that offers it. Its path begins with its own id: what it finds stays
    /// when the sequence around it is repeated.
    /// </summary>
    public void Offer(PlannedStep at, Step offered) =>
        Ahead.Insert(0, Plan($"{offered.Id}/{at.Path}", offered, at.Stage));

    /// <summary>Puts one step in front that is not of the sequence.</summary>
    public void InFront(string path, Step step, string stage, int after) =>
        Ahead.Insert(after, Plan(path, step, stage));

    /// <summary>Leaves nothing but the first few steps and closing up.</summary>
    public void CloseUp(int keep)
    {
        var kept = Ahead.Take(keep).ToList();
        var finish = Ahead.Where(p => !p.IsBranch && sheet.StageNamed(p.Stage).Kind == StageKind.Finish).ToList();
        Ahead.Clear();
        Ahead.AddRange([.. kept, .. finish]);
    }

    /// <summary>The sequence from a step on, after the first few steps.</summary>
    public void From(string stepId, int keep)
    {
        var kept = Ahead.Take(keep).ToList();
        Ahead.Clear();
        Ahead.AddRange(kept);
        foreach (var (stage, step) in sheet.Steps.Skip(sheet.At(stepId)))
        {
            if (!Belongs(step))
                continue;
            var reached = Behind.Exists(b => b.Planned.Step.Id == step.Id && !b.Planned.IsBranch);
            Ahead.Add(
                reached || !attempts.TryGetValue(step.Id, out var attempt)
                    ? Plan(step.Id, step, stage.Id)
                    : new PlannedStep(Key(step.Id, attempt), step, stage.Id, attempt)
            );
        }
    }

    /// <summary>The step of the sequence that a key belongs to.</summary>
    public static string Root(string key) => key.Split('/', '@')[0];

    private PlannedStep Plan(string path, Step step, string stage)
    {
        var attempt = attempts[path] = attempts.GetValueOrDefault(path) + 1;
        return new(Key(path, attempt), step, stage, attempt);
    }

    private static string Key(string path, int attempt) => attempt == 1 ? path : $"{path}@{attempt}";
}
