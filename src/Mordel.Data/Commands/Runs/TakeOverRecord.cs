using Microsoft.EntityFrameworkCore;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>
/// Lets the tester of an open run take over what the register says today, where it was corrected after the run had
/// begun: a kit's calibration that was entered late, a misspelt owner. What the sheet and the readings rest on is not
/// taken over: then the test is begun anew.
/// </summary>
public sealed class TakeOverRecord(Store store, FindRun find, SealRun seal, SetupReader setups, TimeProvider clock)
{
    /// <summary>
    /// What the register says otherwise than the run, in words; empty when nothing, or nothing that could be taken
    /// over.
    /// </summary>
    public async Task<IReadOnlyList<string>> Differences(RunFile run, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        return await Fresh(run, cancel) is { } fresh ? [.. SetupWriter.Differences(run.Setup, fresh)] : [];
    }

    /// <summary>Takes it over.</summary>
    public async Task<Reply<int>> Into(Guid runId, Guid testerId, CancellationToken cancel)
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (await find.For(runId, new(testerId, SeesAll: false), cancel) is not { } run)
            return Reply<int>.Refused(TakeEntries.Anothers);
        if (run.IsSealed)
            return Reply<int>.Refused("This run is already signed.");
        if (await Fresh(run, cancel) is not { } fresh)
            return Reply<int>.Refused(
                "What the run rests on has changed: another body, kit or gauge. Begin the test anew from a stop."
            );
        var differences = SetupWriter.Differences(run.Setup, fresh).Count();
        if (differences == 0)
            return Reply<int>.Refused("The register says what the run says: there is nothing to take over.");
        if (SetupWriter.WhyNot(fresh) is { } why)
            return Reply<int>.Refused(why);
        await setups.Keep(fresh, cancel);
        var text = RunSetupFormat.Write(fresh);
        await store.SaveChangesAsync(cancel);
        await store.Runs.Where(r => r.Id == runId).ExecuteUpdateAsync(r => r.SetProperty(x => x.Setup, text), cancel);
        await transaction.CommitAsync(cancel);
        return differences;
    }

    private async Task<RunSetup?> Fresh(RunFile run, CancellationToken cancel) =>
        await SetupWriter.Of(store, run.Row.AssemblyId, run.Row.KitId, run.Row.TesterId, cancel) is { } register
            ? SetupWriter.TakenOver(run.Setup, register, seal.TestDay(run), clock.Now())
            : null;
}
