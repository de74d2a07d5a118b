using Mordel.Core.Procedures;

namespace Mordel.Core.Runs;

/// <summary>The steps ahead and behind of a run that is being played. Keys count attempts: <c>cv1.read@2</c>.</summary>
internal sealed class Agenda
{
    private readonly RunSheet sheet;
    private readonly Dictionary<string, int> attempts = [];

    public Agenda(RunSheet sheet)
    {
        this.sheet = sheet;
        foreach (var (stage, step) in sheet.Steps) Ahead.Add(Plan(step.Id, step, stage.Id));
    }

    public List<PlannedStep> Ahead { get; } = [];

    public List<PassedStep> Behind { get; } = [];

    /// <summary>Puts a branch in front.</summary>
    public void Branch(PlannedStep from, Sight sight) =>
        Ahead.InsertRange(0, sight.Branch.Select(b => Plan($"{Bare(from.Key)}/{sight.Id}/{b.Id}", b, from.Stage)));

    /// <summary>
    /// Puts an offered step in front of the one that offers it. Its path begins with its own id: what it finds stays when the sequence around it is repeated.
    /// </summary>
    public void Offer(PlannedStep at, Step offered) => Ahead.Insert(0, Plan($"{offered.Id}/{Bare(at.Key)}", offered, at.Stage));

    /// <summary>Puts one step in front that is not of the sequence.</summary>
    public void InFront(string path, Step step, string stage, int after) => Ahead.Insert(after, Plan(path, step, stage));

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
            var reached = Behind.Exists(b => b.Planned.Step.Id == step.Id && !b.Planned.IsBranch);
            Ahead.Add(reached ? Plan(step.Id, step, stage.Id) : new PlannedStep(Key(step.Id, attempts[step.Id]), step, stage.Id, attempts[step.Id]));
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

    private static string Bare(string key) => key.IndexOf('@', StringComparison.Ordinal) is > 0 and var at && !key[at..].Contains('/', StringComparison.Ordinal) ? key[..at] : key;
}
