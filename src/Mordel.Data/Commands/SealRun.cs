using Microsoft.EntityFrameworkCore;
using Mordel.Core.Formats;
using Mordel.Core.Verdicts;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands;

/// <summary>What a tester signs with.</summary>
/// <param name="Name">The name as signed.</param>
/// <param name="Ink">The drawn signature as SVG path data.</param>
/// <param name="EntriesSeen">Entries the signer has seen; a run that has grown since is shown again first.</param>
public sealed record Signature(string Name, string Ink, int EntriesSeen);

/// <summary>Signs and seals a run: checks certificate, kit, profile and completeness on that day, then chains and signs the hash.</summary>
public sealed class SealRun(Store store, InstallationKey key, SignWith certificates, TimeProvider clock)
{
    /// <summary>Why this run cannot be signed today by this tester; empty when it can.</summary>
    public async Task<IReadOnlyList<string>> Obstacles(RunFile run, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        var day = clock.Today();
        var obstacles = new List<string>();
        if (await certificates.Number(run, cancel) is null)
            obstacles.Add($"{run.Row.Tester!.FullName} has no certificate for a {run.Row.Assembly!.Type} that is valid on {day:d MMMM yyyy}.");
        if (run.Row.Kit!.CalibrationDue < day) obstacles.Add($"Kit {run.Row.Kit.Serial} has been out of calibration since {run.Row.Kit.CalibrationDue:d MMMM yyyy}.");
        if (run.Row.Kit.CalibratedOn > day) obstacles.Add($"Kit {run.Row.Kit.Serial} has a calibration date in the future.");
        var tested = DateOnly.FromDateTime(run.Row.StartedAt.ToLocalTime().DateTime);
        if (!run.Plan.Profile.InForceOn(tested)) obstacles.Add($"{run.Plan.Profile.Name}, version {run.Plan.Profile.Version}, is not in force on {tested:d MMMM yyyy}.");
        if (run.State.Paused is { } paused) obstacles.Add($"The test was broken off for today ({paused}). Take it up again, or end it as not testable.");
        if (!run.State.AtTheEnd) obstacles.Add($"The run is not at its end: next is \"{run.State.Current!.Step.Title}\".");
        return obstacles;
    }

    /// <summary>Seals the run.</summary>
    public async Task<Reply<string>> By(Guid runId, Guid testerId, Signature signature, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(signature);
        if (string.IsNullOrWhiteSpace(signature.Name) || signature.Name.Length > 120) return Reply<string>.Refused("Sign with your name.");
        if (!InkText.IsSignature(signature.Ink)) return Reply<string>.Refused("The drawn signature is missing. Draw it in the box, or say that your typed name is your signature.");
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        var run = await new FindRun(store).For(runId, new(testerId, SeesAll: false), cancel);
        if (run is null) return Reply<string>.Refused("There is no such run of yours.");
        if (run.Row.IsSealed) return Reply<string>.Refused("This run is already signed.");
        if (run.Log.Count != signature.EntriesSeen) return Reply<string>.Refused("The run has changed since you looked, perhaps on another screen. Look at the verdict again, then sign.");
        if (await Obstacles(run, cancel) is { Count: > 0 } obstacles) return Reply<string>.Refused(string.Join(" ", obstacles));
        if (!string.Equals(signature.Name.Trim(), run.Row.Tester!.FullName, StringComparison.OrdinalIgnoreCase))
            return Reply<string>.Refused($"The name signed is not that of the tester of this run, {run.Row.Tester.FullName}.");

        var now = clock.GetUtcNow();
        var certificate = (await certificates.Number(run, cancel))!;
        var verdict = run.Verdict(await new FindRun(store).Previous(run, cancel));
        var row = await store.Runs.Include(r => r.Assembly).Include(r => r.Results).FirstAsync(r => r.Id == runId, cancel);
        if (run.State.Serial is { } found) Replacement.Settle(store, row, found, clock.Today());
        var previous = await new SealChain(store).LastHash(row.AssemblyId, cancel);
        SealStamp.Press(row, run, verdict, signature.Ink, certificate, now, previous, key);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return row.Hash!;
    }
}
