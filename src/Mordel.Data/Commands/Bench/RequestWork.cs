using Mordel.Core.Hydraulics;

namespace Mordel.Data.Commands.Bench;

/// <summary>How much simulated work one request may cost here.</summary>
/// <param name="Most">Tries of the solver.</param>
public sealed record RequestWork(long Most = WorkBudget.ForOneRequest)
{
    /// <summary>A budget of that size for a request.</summary>
    public WorkBudget Budget(CancellationToken cancel) => new(Most, cancel);
}
