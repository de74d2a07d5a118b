using Microsoft.EntityFrameworkCore;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>Opens diagnoses and adds to their logs. Nothing is ever changed or taken out.</summary>
public sealed class KeepDiagnosis(Store store, FindRun runs, DiagnosisList list, TimeProvider clock)
{
    /// <summary>What is answered to a look by somebody who cannot tell.</summary>
    public const string NotSure = "unsure";

    private const string Gone = "There is no such diagnosis.";

    // More than anybody makes at one assembly; takings back count.
    private const int MostEntries = 400;

    /// <summary>Opens one on an assembly.</summary>
    /// <param name="assemblyId">The assembly.</param>
    /// <param name="by">Who opens it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> Open(Guid assemblyId, string by, CancellationToken cancel)
    {
        if (!await store.Assemblies.AnyAsync(a => a.Id == assemblyId, cancel))
            return Reply<Guid>.NotFound("There is no such assembly.");
        var row = New(assemblyId, by);
        store.Diagnoses.Add(row);
        await store.SaveChangesAsync(cancel);
        return row.Id;
    }

    /// <summary>
    /// Opens the one of an open run, or goes on with it: what the run has seen and read since then comes in.
    /// </summary>
    /// <param name="runId">The run.</param>
    /// <param name="asker">Who asks.</param>
    /// <param name="by">Their name.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> OpenFor(Guid runId, Asker asker, string by, CancellationToken cancel)
    {
        if (await runs.Now(runId, asker, cancel) is not { } now)
            return Reply<Guid>.NotFound("There is no such run, or it is not yours.");
        if (now.Open is not { } run)
            return await store.Diagnoses.FirstOrDefaultAsync(d => d.RunId == runId, cancel) is { } before
                ? before.Id
                : Reply<Guid>.Refused("The run is sealed. Open a diagnosis from the passport of the assembly.");
        List<(Observed Observed, string Json)> seen =
        [
            .. RunEvidence.Observations(run.Plan, run.State).Select(o => (o, ObservationFormat.Write(o))),
        ];
        // Mostly all of it is there already, and nobody needs to wait for a turn to write.
        if (await store.Diagnoses.FirstOrDefaultAsync(d => d.RunId == runId, cancel) is { } there)
        {
            var all = await OfRun(there.Id, cancel);
            if (seen.TrueForAll(o => all.Contains(o.Json)))
                return there.Id;
        }

        await using var transaction = await store.BeginWriting(cancel);
        var row = await store.Diagnoses.FirstOrDefaultAsync(d => d.RunId == runId, cancel);
        if (row is null)
        {
            row = New(run.Row.AssemblyId, by);
            (row.RunId, row.ProcedureId) = (runId, run.Row.ProcedureId);
            store.Diagnoses.Add(row);
        }

        var known = await OfRun(row.Id, cancel);
        var number = await Next(row.Id, cancel);
        foreach (var (observed, json) in seen)
            if (!known.Contains(json) && number <= MostEntries)
                store.Observations.Add(Entry(row.Id, number++, new(by, ObservationWays.Run), observed));
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    // What has come in from the run.
    private async Task<HashSet<string>> OfRun(Guid diagnosisId, CancellationToken cancel) =>
        await store
            .Observations.Where(o => o.DiagnosisId == diagnosisId && o.Way == ObservationWays.Run && o.Json != null)
            .Select(o => o.Json!)
            .ToHashSetAsync(cancel);

    /// <summary>What the run of a diagnosis has seen meanwhile comes in, for whom the run is open to.</summary>
    public async Task Follow(Guid diagnosisId, Asker asker, string by, CancellationToken cancel)
    {
        var run = await store
            .Diagnoses.Where(d => d.Id == diagnosisId)
            .Select(d => d.RunId)
            .FirstOrDefaultAsync(cancel);
        if (run is { } runId)
            _ = await OpenFor(runId, asker, by, cancel);
    }

    /// <summary>Something was observed.</summary>
    /// <param name="diagnosisId">The diagnosis.</param>
    /// <param name="look">A look in service, or null.</param>
    /// <param name="outlet">What the port did there.</param>
    /// <param name="part">An opened part, or null.</param>
    /// <param name="found">What lay there.</param>
    /// <param name="by">Who observed it.</param>
    /// <param name="cancel">Ends it.</param>
    /// <param name="entry">The id that a device gave it; what is sent twice stands once.</param>
    public async Task<Reply<Guid>> Saw(
        Guid diagnosisId,
        string? look,
        string? outlet,
        string? part,
        string? found,
        Observer by,
        CancellationToken cancel,
        Guid? entry = null
    )
    {
        if (await list.Body(diagnosisId, cancel) is not { } body)
            return Reply<Guid>.NotFound(Gone);
        var observed = part is null
            ? outlet == NotSure
                ? ObservationFormat.NotSure(body, look, "")
                : ObservationFormat.Port(body, look, outlet, "")
            : ObservationFormat.Opened(body, part, found, "");
        if (observed is null)
            return Reply<Guid>.Refused("That cannot be seen on this assembly. Choose one of the answers shown.");
        if (by.Way == ObservationWays.Owner && !MayTell(body, observed))
            return Reply<Guid>.Refused("That is for a tester to look at.");
        return await Add(diagnosisId, by, observed, null, cancel, entry);
    }

    /// <summary>An observation is taken back; it stays in the log with that.</summary>
    public async Task<Reply<Guid>> TakeBack(Guid diagnosisId, Guid observationId, Observer by, CancellationToken cancel)
    {
        var there = await store.Observations.AnyAsync(
            o => o.DiagnosisId == diagnosisId && o.Id == observationId && o.Json != null,
            cancel
        );
        if (!there)
            return Reply<Guid>.NotFound("There is no such observation.");
        // Twice taken back is once taken back.
        return await store.Observations.AnyAsync(o => o.TakesBack == observationId, cancel)
            ? observationId
            : await Add(diagnosisId, by, null, observationId, cancel);
    }

    // What an occupant may be asked: looks that need no tool and shut nothing.
    private static bool MayTell(AssemblyBody body, Observed observed)
    {
        var look = observed switch
        {
            Observed.PortSeen seen => seen.Look,
            Observed.Unsure unsure => unsure.Look,
            _ => null,
        };
        return ServiceLooks.For(body).Any(l => l.Id == look && l.By == Doer.Occupant);
    }

    private async Task<Reply<Guid>> Add(
        Guid diagnosisId,
        Observer by,
        Observed? observed,
        Guid? takesBack,
        CancellationToken cancel,
        Guid? entry = null
    )
    {
        await using var transaction = await store.BeginWriting(cancel);
        if (entry is { } sent && await store.Observations.AnyAsync(o => o.Id == sent, cancel))
            return sent;
        var number = await Next(diagnosisId, cancel);
        if (number > MostEntries)
            return Reply<Guid>.Refused("This diagnosis is full. Open a new one from the passport.");
        var row = Entry(diagnosisId, number, by, observed);
        (row.Id, row.TakesBack) = (entry ?? row.Id, takesBack);
        store.Observations.Add(row);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Id;
    }

    private async Task<int> Next(Guid diagnosisId, CancellationToken cancel) =>
        (await store.Observations.Where(o => o.DiagnosisId == diagnosisId).MaxAsync(o => (int?)o.Number, cancel) ?? 0)
        + 1;

    private DiagnosisRow New(Guid assemblyId, string by) => DiagnosisLog.New(assemblyId, by, clock.Now());

    private ObservationRow Entry(Guid diagnosisId, int number, Observer by, Observed? observed) =>
        DiagnosisLog.Entry(diagnosisId, number, clock.Now(), by, observed);
}
