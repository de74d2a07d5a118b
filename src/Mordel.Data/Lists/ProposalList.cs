using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Planning;
using Mordel.Core.Serialization;
using Mordel.Data.Rows;

namespace Mordel.Data.Lists;

/// <summary>Rounds as they are proposed now.</summary>
/// <param name="Row">The proposal.</param>
/// <param name="Problem">What is to be planned, with what is settled.</param>
/// <param name="Plan">The rounds of the last step; none while the first is looked for.</param>
/// <param name="Number">The number of the last step; 0 while there is none.</param>
/// <param name="Says">What the last step was.</param>
/// <param name="Earlier">The rounds of the step before; null where there is none.</param>
public sealed record ProposalView(
    ProposalRow Row,
    PlanProblem Problem,
    Plan Plan,
    int Number,
    string? Says,
    Plan? Earlier
)
{
    /// <summary>What in it cannot be.</summary>
    public IReadOnlyList<PlanBreach> Breaches => field ??= PlanCheck.Of(Problem, Plan);
}

/// <summary>The problems that were looked at last, for they are long to read and never change.</summary>
public sealed class ProblemMemory
{
    private const int Most = 12;
    private readonly Lock turn = new();
    private readonly List<(Guid Id, PlanProblem Problem)> kept = [];

    /// <summary>The problem of a proposal, read from its text where it is not at hand.</summary>
    public PlanProblem Of(Guid id, string text)
    {
        lock (turn)
            if (kept.Find(k => k.Id == id) is { Problem: { } known })
                return known;
        var problem = PlanFormat.Read(text, out var wrong, kept: true)
            ?? throw new InvalidOperationException($"Proposal {id} cannot be read: {wrong.FirstOrDefault()}");
        lock (turn)
        {
            kept.Insert(0, (id, problem));
            if (kept.Count > Most)
                kept.RemoveAt(Most);
        }

        return problem;
    }
}

/// <summary>Rounds that were proposed.</summary>
public sealed class ProposalList(Store store, ProblemMemory memory)
{
    private const int Most = 60;

    /// <summary>A proposal in one line.</summary>
    public sealed record Line(
        Guid Id,
        DateTimeOffset At,
        string By,
        string State,
        DateOnly FirstDay,
        DateOnly LastDay,
        int Stops,
        int LeftOut
    );

    /// <summary>The latest first.</summary>
    public async Task<IReadOnlyList<Line>> Latest(CancellationToken cancel) =>
        await store
            .Proposals.OrderByDescending(p => p.At)
            .Take(Most)
            .Select(p => new Line(p.Id, p.At, p.By, p.State, p.FirstDay, p.LastDay, p.Stops, p.LeftOut))
            .ToListAsync(cancel);

    /// <summary>The id of the next that is to be looked for; null where none waits.</summary>
    public async Task<Guid?> Waiting(CancellationToken cancel) =>
        await store
            .Proposals.Where(p => p.State == ProposalStates.Looking)
            .OrderBy(p => p.At)
            .Select(p => (Guid?)p.Id)
            .FirstOrDefaultAsync(cancel);

    /// <summary>How far one is; null where there is none.</summary>
    public async Task<string?> State(Guid id, CancellationToken cancel) =>
        await store.Proposals.Where(p => p.Id == id).Select(p => p.State).FirstOrDefaultAsync(cancel);

    /// <summary>One with its last step and the one before; null where there is none.</summary>
    public async Task<ProposalView?> Of(Guid id, CancellationToken cancel)
    {
        if (await store.Proposals.FirstOrDefaultAsync(p => p.Id == id, cancel) is not { } row)
            return null;
        var steps = await store
            .ProposalSteps.AsNoTracking()
            .Where(s => s.ProposalId == id)
            .OrderByDescending(s => s.Number)
            .Take(2)
            .ToListAsync(cancel);
        var last = steps.FirstOrDefault();
        var problem = memory.Of(id, row.Problem);
        return new(
            row,
            last is null ? problem : PlanEdit.With(problem, Pins(last.Pins)),
            last is null ? Plan.Nothing : Read(last.Plan),
            last?.Number ?? 0,
            last?.Says,
            steps.Count > 1 ? Read(steps[1].Plan) : problem.Before
        );
    }

    /// <summary>What is settled by hand, as it is kept.</summary>
    public static string Pins(PlanProblem problem)
    {
        ArgumentNullException.ThrowIfNull(problem);
        return JsonSerializer.Serialize(
            problem.Stops.Where(s => s.Pin is not null).ToDictionary(s => s.Id, s => s.Pin!)
        );
    }

    private static Dictionary<string, PlanPin> Pins(string kept) =>
        JsonSerializer.Deserialize<Dictionary<string, PlanPin>>(kept)!;

    private static Plan Read(string kept) =>
        PlannedFormat.Read(kept, out var wrong, kept: true)
        ?? throw new InvalidOperationException($"A plan cannot be read: {wrong.FirstOrDefault()}");
}
