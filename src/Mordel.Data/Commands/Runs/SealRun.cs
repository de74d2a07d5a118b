using Microsoft.EntityFrameworkCore;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;
using Mordel.Data.Accounts;
using Mordel.Data.Lists;
using Mordel.Data.Outbox;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Commands.Runs;

/// <summary>What a tester signs with.</summary>
/// <param name="Name">The name as signed.</param>
/// <param name="Ink">The drawn signature as SVG path data.</param>
/// <param name="EntriesSeen">Entries the signer has seen; a run that has grown since is shown again first.</param>
/// <param name="Beside">What was entered together with the signature: remarks, positions, explanations.</param>
public sealed record GivenSignature(string Name, string Ink, int EntriesSeen, IReadOnlyList<EntryBody> Beside)
{
    /// <summary>What was signed on a device without a signal; null where it is signed here.</summary>
    public SignedThere? There { get; init; }
}

/// <summary>A signature that was given on a device, over what that device had worked out.</summary>
/// <param name="At">When, by its clock.</param>
/// <param name="Log">SHA-256 of the log that was signed.</param>
/// <param name="Overall">The outcome that stood above the signature.</param>
public sealed record SignedThere(DateTimeOffset At, string Log, string Overall);

/// <summary>A run that waits for its signature, loaded, played and judged once.</summary>
/// <param name="Run">The run.</param>
/// <param name="Verdict">The verdict on it.</param>
/// <param name="Previous">The answers of the test before.</param>
/// <param name="Obstacles">Why it cannot be signed; empty when it can.</param>
/// <param name="Certificate">What it would be signed with; null when none covers it.</param>
/// <param name="Hasty">Readings that came sooner than hands and water can be; they are to be explained first.</param>
public sealed record ReadyToSign(
    RunFile Run,
    Verdict Verdict,
    Results? Previous,
    IReadOnlyList<string> Obstacles,
    CertificateFacts? Certificate,
    IReadOnlyList<HastyReading> Hasty
)
{
    /// <summary>Whether an explanation is wanted before the signature.</summary>
    public bool WantsExplanation => Hasty.Count > 0 && Run.State.PaceExplained is null;
}

/// <summary>
/// Signs and seals a run: checks certificate, kit, profile and completeness on the day of the test, then seals it
/// behind the assembly's last seal.
/// </summary>
public sealed class SealRun(
    Store store,
    FindRun find,
    SealMaker maker,
    DueProjection dues,
    ChanceProjection chances,
    OutboxWriter outbox,
    NoticeWriter notices,
    OutboxBell bell,
    OpenDoors doors,
    TesterRights rights,
    TimeProvider clock
)
{
    /// <summary>The run with all that is to be known before it is signed.</summary>
    public async Task<ReadyToSign> Weigh(RunFile run, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(run);
        var previous = await find.Previous(run, cancel);
        var day = TestDay(run);
        var right = await Right(run, day, cancel);
        return new(
            run,
            run.Verdict(previous),
            previous,
            SigningObstacles.Of(run.Setup, run.State, day, right),
            right.With,
            Pace.FindHasty(run.Plan, run.State, run.Setup.BegunAt)
        );
    }

    /// <summary>Seals the run.</summary>
    public async Task<Reply<Guid>> By(Guid runId, Guid testerId, GivenSignature signature, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(signature);
        if (string.IsNullOrWhiteSpace(signature.Name) || signature.Name.Length > 120)
            return Reply<Guid>.Refused("Sign with your name.");
        if (!SignaturePath.IsSignature(signature.Ink))
            return Reply<Guid>.Refused(
                "The drawn signature is missing. Draw it in the box, or say that your typed name is your signature."
            );
        await using var transaction = await store.BeginWriting(cancel);
        var run = await find.For(runId, new(testerId, SeesAll: false), cancel);
        if (run is null)
            return Reply<Guid>.Refused(TakeEntries.Anothers);
        if (run.IsSealed)
            return Reply<Guid>.Refused("This run is already signed.");
        if (run.Log.Count != signature.EntriesSeen)
            return Reply<Guid>.Refused(
                "The run has changed since you looked, perhaps on another screen. Look at the verdict again, then sign."
            );
        if (signature.There is { } there && Otherwise(there, run) is { } otherwise)
            return Reply<Guid>.Refused(otherwise);
        var now = clock.Now();
        run = Beside(run, signature.Beside, now, out var wrong);
        if (wrong is not null)
            return Reply<Guid>.Refused(wrong);
        var ready = await Weigh(run, cancel);
        if (ready.Obstacles.Count > 0)
            return Reply<Guid>.Refused(string.Join(" ", ready.Obstacles));
        if (ready.WantsExplanation)
            return Reply<Guid>.Refused($"{string.Join(" ", ready.Hasty)} Say how that came about, then sign.");
        if (!string.Equals(signature.Name.Trim(), run.Setup.Tester.Name, StringComparison.OrdinalIgnoreCase))
            return Reply<Guid>.Refused(
                $"The name signed is not that of the tester of this run, {run.Setup.Tester.Name}."
            );

        var row = await store
            .Runs.Include(r => r.Assembly)
            .Include(r => r.Results)
            .FirstAsync(r => r.Id == runId, cancel);
        if (run.State.Serial is { } found)
            Replacement.Settle(store, row, found, clock.Today());
        var signing = new Signing(
            run.Setup.Tester.Name,
            ready.Certificate!,
            signature.Ink,
            signature.There is { } earlier ? SignedAt(earlier.At, run, now) : now
        );
        await maker.Make(row, new(run.Setup, run.Received, run.State, ready.Verdict, ready.Previous, signing), cancel);
        await outbox.Report(row, null, cancel);
        await store.SaveChangesAsync(cancel);
        // From now on the record has them.
        await store.DropEntries([runId], cancel);
        await dues.Write(row.Assembly!, cancel);
        await chances.Write(row.Assembly!, clock.Today(), cancel);
        await store.SaveChangesAsync(cancel);
        await notices.Outcome(row, ready.Verdict.Overall.Id(), ready.Verdict.Reason, cancel);
        await store.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        bell.Ring();
        // What a gauge still sends is nobody's any more.
        doors.Close(runId);
        return row.Id;
    }

    // What was signed is what the server makes of the same log, or it is looked at once more.
    private static string? Otherwise(SignedThere there, RunFile run) =>
        there.Log != VerdictViews.HashOf(run.Log)
            ? "The log here is not the one that was signed: something was entered on another device. Look at the "
                + "verdict, then sign again."
        : there.Overall != run.Verdict().Overall.Id()
            ? "The server comes to another outcome than the device did. Look at the verdict, then sign again."
        : null;

    // When it was signed there, unless its clock says something that cannot be.
    private static DateTimeOffset SignedAt(DateTimeOffset there, RunFile run, DateTimeOffset now) =>
        there <= now + LogTimes.Slack && there >= run.Setup.BegunAt - LogTimes.Slack ? there.ToMillisecond() : now;

    // What is entered with the signature goes into the log first, like everything else.
    private static RunFile Beside(RunFile run, IReadOnlyList<EntryBody> bodies, DateTimeOffset now, out string? wrong)
    {
        wrong = null;
        if (bodies.Count == 0)
            return run;
        var tick = run.Log.LastTick;
        var added = bodies
            .Select(body => new ReceivedEntry(new(new(Guid.CreateVersion7()), ++tick, now, body), now))
            .ToList();
        foreach (var (entry, _) in added)
        {
            if (EntryFormat.WhyNotKept(entry) is not { } why)
                continue;
            wrong = why;
            return run;
        }

        return run.With(added);
    }

    /// <summary>
    /// The day of the test: of its last reading by the device's clock, unless that lies before the run began or after
    /// the reading arrived; then of its arrival.
    /// </summary>
    public DateOnly TestDay(RunFile run)
    {
        ArgumentNullException.ThrowIfNull(run);
        var last = SigningObstacles.LastTold(run.Received);
        var at =
            last is null ? run.Setup.BegunAt
            : last.Entry.At >= run.Setup.BegunAt - LogTimes.Slack && last.Entry.At <= last.Received + LogTimes.Slack
                ? last.Entry.At
            : last.Received;
        return clock.DayOf(at);
    }

    // The one that held when the run began, or one that the office has entered since.
    private async Task<SigningRight> Right(RunFile run, DateOnly day, CancellationToken cancel)
    {
        var (tester, type, authority) = (run.Setup.Tester, run.Setup.Assembly.Type, run.Setup.Place.Authority);
        if (tester.Certificate is { } certificate && certificate.Covers(type, authority, day))
            return new(certificate, null);
        return await rights.Of(tester.Id, tester.Name, type, authority, day, cancel);
    }
}
