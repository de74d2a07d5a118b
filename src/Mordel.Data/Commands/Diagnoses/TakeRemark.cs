using Mordel.Core.Runs;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>Takes what a diagnosis says into the remarks of the run it came from, behind what stands there.</summary>
public sealed class TakeRemark(FindRun runs, TakeEntries take, TimeProvider clock)
{
    /// <summary>Adds the sentence; once said it is not said again.</summary>
    public async Task<Reply<TakenEntries>> Into(Guid runId, Asker asker, string says, CancellationToken cancel)
    {
        if (await runs.Now(runId, asker, cancel) is not { } now)
            return Reply<TakenEntries>.NotFound(TakeEntries.NoSuchRun);
        if (now.Open is not { } run)
            return Reply<TakenEntries>.Refused("The run is sealed; what is found later is an amendment to its report.");
        var text = run.State.Remarks;
        if (text.Contains(says, StringComparison.Ordinal))
            return new TakenEntries(0, new(false, run.Size.Entries));
        var entry = new Entry(
            new(Guid.CreateVersion7()),
            run.Log.LastTick + 1,
            clock.Now(),
            new EntryBody.Remarks($"{text} {says}".Trim())
        );
        return await take.Into(runId, asker.Id, [entry], cancel);
    }
}
