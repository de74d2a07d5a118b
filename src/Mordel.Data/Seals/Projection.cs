using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>
/// Writes what lists and charts show, from a sealed run. It can be made again from the seals at any time.
/// </summary>
public static class Projection
{
    /// <summary>Writes a sealed run's projections and those of its assembly.</summary>
    /// <param name="row">The row; its assembly and results are loaded.</param>
    /// <param name="run">What was sealed.</param>
    /// <param name="day">The day of the signature, as people there count it.</param>
    /// <param name="today">Today.</param>
    public static void Write(RunRow row, SealedRun run, DateOnly day, DateOnly today)
    {
        Write(row, run);
        if (row.Assembly is { } assembly)
            WriteLast(assembly, row.Outcome, day, today);
    }

    /// <summary>Writes what the register shows of an assembly's last test, when another was sealed.</summary>
    /// <param name="assembly">The assembly.</param>
    /// <param name="outcome">How that test came out.</param>
    /// <param name="day">The day of its signature.</param>
    /// <param name="today">Today.</param>
    public static void WriteLast(AssemblyRow assembly, string? outcome, DateOnly day, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(assembly);
        // A day that lies ahead came from a clock that was wrong: it keeps nothing later out.
        if (assembly.LastTestOn is { } last && last > day && last <= today)
            return;
        assembly.LastTestOn = day;
        assembly.LastOutcome = outcome;
    }

    /// <summary>
    /// Writes what a sealed run's own row repeats of it, and takes out what its record alone has; its results are
    /// loaded.
    /// </summary>
    public static void Write(RunRow row, SealedRun run)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(run);
        row.Setup = RunRow.InItsRecord;
        row.SignedAt = run.Signing.At;
        row.SignedName = run.Signing.Name;
        row.Outcome = run.Verdict.Overall.Id();
        row.Summary = run.Verdict.Reason;
        row.FoundText = run.Report.Remarks.Length > 0 ? run.Report.Remarks : null;
        row.NotEntered = run.Report.NotEntered.Length;
        row.ZeroHigh = run.Report.KitZero;
        row.WasMended = WasMended(run);
        row.Results.Clear();
        row.Results.AddRange(Results(row.Id, run.Verdict));
    }

    /// <summary>Whether something was mended in the middle of a run.</summary>
    public static bool WasMended(SealedRun run)
    {
        ArgumentNullException.ThrowIfNull(run);
        return run.Log.Any(e => e.Entry.Body is EntryBody.Mended);
    }

    /// <summary>The judged items of a run, as rows.</summary>
    public static IEnumerable<ResultRow> Results(Guid runId, Verdict verdict)
    {
        ArgumentNullException.ThrowIfNull(verdict);
        return verdict.Items.Select(item => new ResultRow
        {
            RunId = runId,
            Item = item.Item.Id,
            Result = item.Result.Id(),
            Value = (item.Value as ItemValue.Measured)?.Reading.Value.Amount,
            Unit = item.Unit,
            Limit = item.Limit,
            Text = item.Value?.ToString(),
        });
    }
}
