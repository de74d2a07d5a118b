using Mordel.Core.Verdicts;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>Writes what lists and charts show, from a run's log. It can be made again from the logs at any time.</summary>
public static class Projection
{
    /// <summary>Writes a sealed run's projections and those of its assembly.</summary>
    public static void Write(RunRow row, RunFile run, Verdict verdict, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(run);
        ArgumentNullException.ThrowIfNull(verdict);
        row.Outcome = verdict.Overall.Id();
        row.Summary = verdict.Reason;
        row.FoundText = run.State.Remarks is { Length: > 0 } remarks ? remarks : null;
        row.Results.Clear();
        foreach (var item in verdict.Items)
        {
            var measured = item.Value as ItemValue.Measured;
            row.Results.Add(new()
            {
                RunId = row.Id,
                Item = item.Item.Id,
                Result = item.Result.Id(),
                Value = measured?.Reading.Value.Amount,
                Unit = item.Unit,
                Limit = item.Limit,
                Text = item.Value?.ToString(),
            });
        }

        if (row.Assembly is not { } assembly || (assembly.LastTestOn is { } last && last > day)) return;
        assembly.LastTestOn = day;
        assembly.LastOutcome = row.Outcome;
        assembly.NextDue = run.Plan.Profile.NextDue(day, verdict.Overall == Overall.Pass);
    }
}
