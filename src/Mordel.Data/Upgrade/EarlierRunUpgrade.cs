using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.Data.Upgrade;

/// <summary>
/// Brings runs of the earlier form forward, once: each gets the setup that it never carried, written down from the
/// register as it is today and marked so; what was sealed is sealed again with its old seal beside it, and keeps the
/// outcome that it had. An assembly at a time, so that it goes on where it was broken off.
/// </summary>
public sealed class EarlierRunUpgrade(
    Store store,
    ProfileList profiles,
    SetupReader setups,
    SealWriter writer,
    SigningKeys keys,
    Installation installation,
    TimeProvider clock
)
{
    private const int EarlierJudge = 1;

    /// <summary>How many runs wait to be brought forward.</summary>
    public Task<int> Waiting(CancellationToken cancel) => store.Runs.CountAsync(r => r.Number == null, cancel);

    /// <summary>Brings all of them forward.</summary>
    /// <param name="progress">Told how many are done, now and then.</param>
    /// <param name="cancel">Ends it after the assembly at hand.</param>
    public async Task All(Action<int> progress, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(progress);
        var done = 0;
        foreach (
            var assembly in await store
                .Runs.Where(r => r.Number == null)
                .Select(r => r.AssemblyId)
                .Distinct()
                .ToListAsync(cancel)
        )
        {
            await using var transaction = await store.BeginWriting(cancel);
            done += await Assembly(assembly, cancel);
            await store.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            store.ChangeTracker.Clear();
            progress(done);
        }
    }

    private async Task<int> Assembly(Guid assemblyId, CancellationToken cancel)
    {
        var rows = await store
            .Runs.AsSplitQuery()
            .Include(r => r.Entries)
            .Include(r => r.Results)
            .Include(r => r.Amendments)
            .Where(r => r.AssemblyId == assemblyId && r.Setup == null)
            .ToListAsync(cancel);
        var ids = rows.Select(r => r.Id).Concat(rows.SelectMany(r => r.Amendments).Select(a => a.Id)).ToList();
        var earlier = await store
            .EarlierSeals.AsNoTracking()
            .Where(e => ids.Contains(e.Id))
            .ToDictionaryAsync(e => e.Id, cancel);
        foreach (var row in rows)
            await WriteDown(row, cancel);
        var seals = rows.Where(r => r.SignedAt is not null)
            .Select(r => (At: r.SignedAt!.Value, Run: r, Amendment: (AmendmentRow?)null))
            .Concat(rows.SelectMany(r => r.Amendments.Select(a => (a.At, Run: r, Amendment: (AmendmentRow?)a))));
        foreach (var (_, run, amendment) in seals.OrderBy(s => s.At).ThenBy(s => s.Amendment is not null))
        {
            if (amendment is null)
                await Run(run, earlier.GetValueOrDefault(run.Id), cancel);
            else
                await Amendment(run, amendment, earlier.GetValueOrDefault(amendment.Id), cancel);
        }

        return rows.Count;
    }

    private async Task WriteDown(RunRow row, CancellationToken cancel)
    {
        var register = await SetupWriter.Of(store, row.AssemblyId, row.KitId, row.TesterId, cancel)
            ?? throw new DamagedException($"Run {row.Id} has no assembly, kit or tester any more.");
        var profile = await profiles.Version(row.ProfileId, row.ProfileVersion, cancel)
            ?? throw new DamagedException(
                $"The rules {row.ProfileId}, version {row.ProfileVersion}, of run {row.Id} cannot be read."
            );
        var procedure = SchoolCatalogue.Named(row.ProcedureId)
            ?? throw new DamagedException($"Run {row.Id} was made by {row.ProcedureId}, which is not known here.");
        var begun = row.StartedAt.ToMillisecond();
        var number = await ReportNumbers.Next(
            store,
            register.Assembly.Tag,
            row.SignedAt ?? begun,
            clock.LocalTimeZone,
            cancel
        );
        var day = clock.DayOf(row.SignedAt ?? begun);
        var setup = SetupWriter.Write(
            row.Id,
            row.StopId,
            number,
            begun,
            register,
            profile,
            SetupWriter.Sheet(register.Assembly, register.Kit, procedure, profile),
            day
        ) with
        {
            WrittenDownAt = clock.Now(),
        };
        await setups.Keep(setup, cancel);
        (row.Number, row.Setup) = (number, RunSetupFormat.Write(setup));
    }

    private async Task Run(RunRow row, EarlierSealRow? seal, CancellationToken cancel)
    {
        var setup = await setups.Read(row.Setup!, cancel);
        var (received, unreadable) = FindRun.Read(row.Entries);
        var log = RunLog.Empty.With(received.Select(r => r.Entry));
        var held = seal is not null && unreadable.Count == 0 && new EarlierForm(keys).Holds(row, seal, log);
        var signing = new Signing(
            row.SignedName ?? "",
            Certificate(setup, seal, row.SignedAt!.Value),
            seal?.Ink ?? Signing.TypedName,
            row.SignedAt.Value
        );
        var verdict = Kept(row, setup);
        var state = Replay.Run(setup.Plan, log);
        var run = new SealedRun
        {
            Setup = setup,
            Log = [.. received],
            Signing = signing,
            Verdict = verdict,
            JudgeVersion = EarlierJudge,
            Report = new ReportWriter(setup, state, verdict, received, signing, clock.LocalTimeZone).Write(
                installation.Simulated
            ),
            Earlier = Kept(seal, held),
        };
        var record = SealedRunFormat.Write(run);
        await writer.Append(row.AssemblyId, row.Id, null, record, null, clock.Now(), cancel);
        Projection.Write(row, run);
    }

    private async Task Amendment(RunRow run, AmendmentRow row, EarlierSealRow? seal, CancellationToken cancel)
    {
        var held = seal is not null && new EarlierForm(keys).Holds(row, seal);
        var amendment = new Amendment(
            row.Id,
            run.Id,
            row.By,
            row.At,
            AmendRun.Printed(row.At, row.By, clock.LocalTimeZone),
            row.Text,
            Kept(seal, held)
        );
        await writer.Append(run.AssemblyId, run.Id, row.Id, SealFormat.Write(amendment), null, clock.Now(), cancel);
    }

    private static EarlierSeal Kept(EarlierSealRow? seal, bool held) =>
        new(seal?.PreviousHash ?? "", seal?.Hash ?? "", seal?.KeySignature ?? "", held);

    private static CertificateFacts Certificate(RunSetup setup, EarlierSealRow? seal, DateTimeOffset at)
    {
        if (setup.Tester.Certificate is { } known && known.Number == seal?.Certificate)
            return known;
        var day = DateOnly.FromDateTime(at.UtcDateTime);
        return new(seal?.Certificate ?? "not kept", "issuer not kept", [setup.Assembly.Type], day, day);
    }

    // What was judged then stays as it was written down in the list of results.
    private static Verdict Kept(RunRow row, RunSetup setup)
    {
        var order = setup.Plan.School.Items.Select(i => i.Item).Concat(TestItem.All).ToList();
        var items =
            from kept in row.Results
            let item = TestItem.Named(kept.Item)
            where item is not null
            orderby order.IndexOf(item)
            select Item(item, kept);
        var overall = Enum.GetValues<Overall>().FirstOrDefault(o => o.Id() == row.Outcome, Overall.Incomplete);
        return new(overall, row.Summary ?? "", [.. items], [], []);
    }

    private static JudgedItem Item(TestItem item, ResultRow kept)
    {
        var result = Enum.GetValues<ItemResult>().FirstOrDefault(r => r.Id() == kept.Result, ItemResult.Recorded);
        var value = Value(item, kept);
        decimal? amount = value switch
        {
            ItemValue.Measured m => m.Reading.Value.Amount,
            ItemValue.Line l => l.Pressure.Amount,
            ItemValue.Clearance c => c.Length.Amount,
            _ => null,
        };
        return new(
            item,
            result,
            value,
            kept.Unit,
            kept.Limit,
            kept.Limit is { } limit && amount is { } read ? read - limit : null,
            "As it was judged then."
        );
    }

    private static ItemValue? Value(TestItem item, ResultRow kept)
    {
        if (kept.Text is not { } text)
            return null;
        var (number, unit) =
            text.Split(' ') is [var n, var u]
            && decimal.TryParse(n, System.Globalization.CultureInfo.InvariantCulture, out var amount)
                ? (amount, u)
                : ((decimal?)null, "");
        return item.Kind switch
        {
            ItemKind.TightOrLeaks => new ItemValue.Tightness(text == "tight"),
            ItemKind.TrueOrFalse => new ItemValue.YesNo(text == "yes"),
            ItemKind.Differential when number is { } d && DifferentialUnits.Parse(unit) is { } psid => ItemValue.Of(
                d,
                psid
            ),
            ItemKind.LinePressure
                when number is { } l
                    && LinePressure.ParseUnit(unit) is { } psi
                    && l >= 0
                    && l <= LinePressure.Largest(psi) => new ItemValue.Line(new(l, psi)),
            ItemKind.Length
                when number is { } c && Length.ParseUnit(unit) is { } inch && Math.Abs(c) <= Length.Largest =>
                new ItemValue.Clearance(new(c, inch)),
            _ => null,
        };
    }
}
