using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;

namespace Mordel.Data.Seals;

/// <summary>What is to be sealed, played and judged once.</summary>
/// <param name="Setup">What the run was made with.</param>
/// <param name="Log">Its entries with their arrivals, in log order.</param>
/// <param name="State">Where they lead.</param>
/// <param name="Verdict">How they are judged.</param>
/// <param name="Previous">The answers of the test before; null where there was none.</param>
/// <param name="Signing">The signature.</param>
public sealed record ToSeal(
    RunSetup Setup,
    IReadOnlyCollection<ReceivedEntry> Log,
    RunState State,
    Verdict Verdict,
    Results? Previous,
    Signing Signing
);

/// <summary>A record that waits for its seal.</summary>
/// <param name="Run">What it says.</param>
/// <param name="Text">Its canonical text.</param>
/// <param name="Paper">Hash of its PDF.</param>
public sealed record RecordToSeal(SealedRun Run, string Text, string Paper);

/// <summary>
/// Makes the record of a signed run, sets it on paper, seals it and writes the projections. Whether it may be sealed is
/// decided before.
/// </summary>
public sealed class SealMaker(SealWriter writer, ReportPapers papers, Installation installation, TimeProvider clock)
{
    /// <summary>Seals it; saved with the rest of the caller's transaction.</summary>
    /// <param name="row">The run's row; its assembly and results are loaded.</param>
    /// <param name="made">What is sealed.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task Make(RunRow row, ToSeal made, CancellationToken cancel) =>
        await Seal(row, await Record(made, cancel), cancel);

    /// <summary>The record and its paper; touches nothing of the store, so that several can be made at once.</summary>
    public async Task<RecordToSeal> Record(ToSeal made, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(made);
        var (setup, log, state, verdict, previous, signing) = made;
        var run = new SealedRun
        {
            Setup = setup,
            Log = [.. log],
            Signing = signing,
            Previous = previous,
            Verdict = verdict,
            JudgeVersion = Judge.Version,
            Report = new ReportWriter(setup, state, verdict, log, signing, clock.LocalTimeZone).Write(
                installation.Simulated
            ),
        };
        var record = SealedRunFormat.Write(run);
        var printed = await papers.Set(run.Report, ContentHash.Compute(record), record, [], [], cancel);
        return new(run, record, ContentHash.Compute(printed));
    }

    /// <summary>Seals a record that was made; saved with the rest of the caller's transaction.</summary>
    public async Task Seal(RunRow row, RecordToSeal made, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(made);
        var at = made.Run.Signing.At;
        await writer.Append(row.AssemblyId, row.Id, null, made.Text, made.Paper, at, cancel);
        Projection.Write(row, made.Run, clock.DayOf(at), clock.Today());
    }
}
