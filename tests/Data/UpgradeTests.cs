using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.EntityFrameworkCore.Infrastructure;
using Microsoft.EntityFrameworkCore.Migrations;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Seals;
using Mordel.Core.Serialization;
using Mordel.Data.Commands;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Links;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Upgrade;
using Mordel.Documents.Reports;

namespace Mordel.Data.Tests;

/// <summary>
/// An installation as the version before left it: eleven runs of three valves, ten of them sealed under the earlier
/// form, one amended, one still open.
/// </summary>
public sealed class EarlierInstallation : StoreHost
{
    public EarlierInstallation(string? alteration = null)
    {
        var fixtures = Path.Combine(AppContext.BaseDirectory, "Fixtures");
        File.Copy(Path.Combine(fixtures, "earlier-form-key.pem"), Path.Combine(Folder, SigningKeys.FileName));
        using var connection = new SqliteConnection(
            $"Data Source={Path.Combine(Folder, StoreOptions.FileName)};Pooling=False"
        );
        connection.Open();
        using var command = connection.CreateCommand();
        command.CommandText = File.ReadAllText(Path.Combine(fixtures, "earlier-form.sql")) + alteration;
        command.ExecuteNonQuery();
    }
}

[Trait("Store", "File")]
public sealed class UpgradeTests
{
    private static readonly Guid Amended = Guid.Parse("aea520a8-5d93-6b2d-b7a2-31883ea2ec3c"),
        Open = Guid.Parse("01a212ea-6da1-7f14-880c-b450a666b62e"),
        Failed = Guid.Parse("b9865c32-189e-7b89-cd97-f282a24be4f2");

    [Fact]
    public async Task What_was_sealed_before_has_its_code_and_each_kit_the_calibration_that_it_had()
    {
        await using var host = new EarlierInstallation();
        var report = (await host.Report(Failed))!;
        var found = await host.With<PublicReport?, PublicReports>(p => p.Of(ReportCode.Of(report.Record!), default));
        Assert.Equal(Failed, found!.Report.RunId);
        var kits = await host.InStore(s => s.Kits.ToListAsync());
        Assert.NotEmpty(kits);
        foreach (var kit in kits)
        {
            var one = Assert.Single((await host.With<KitView?, KitPage>(p => p.Of(kit.Id, default)))!.Calibrations);
            Assert.Equal((kit.CalibratedOn, kit.CalibrationDue), (one.On, one.Due));
        }
    }

    [Fact]
    public async Task Sealed_runs_of_the_earlier_form_are_sealed_again_with_their_old_seal_and_their_old_outcome()
    {
        await using var host = new EarlierInstallation();
        var found = await host.CheckAll();
        Assert.Equal((true, 10, 11L), (found.Holds, found.Runs, found.Seals));
        var outcomes = await host.InStore(s =>
            s.Runs.Where(r => r.SignedAt != null)
                .GroupBy(r => r.Outcome!)
                .Select(g => new { g.Key, Count = g.Count() })
                .ToDictionaryAsync(g => g.Key, g => g.Count)
        );
        Assert.Equal((9, 1), (outcomes["pass"], outcomes["fail"]));
        var report = (await host.Report(Failed))!;
        Assert.Equal(("fail", true, 1), (report.Outcome, report.Run!.Earlier!.Held, report.Run.JudgeVersion));
        // It is said that what it was made with was written down later, and what nobody had entered.
        Assert.Contains(report.Run.Report.Times, t => t.Contains("written down on", StringComparison.Ordinal));
        Assert.Contains("Permission given by", report.Run.Report.NotEntered);
        var amended = (await host.Report(Amended))!;
        Assert.Equal(
            "The kit was GB-5107, as calibrated; the order said another.",
            amended.Amendments.Single().Amendment.Text
        );
        Assert.True(amended.Amendments.Single().Amendment.Earlier!.Held);
        // The pages were not set when it was sealed: they are attested when they are asked for.
        var pdf = await host.With<byte[], SealedPapers>(async p => (await p.Pdf(amended, default))!);
        var keys = PublicKeys.Read(
            await host.With<string, SigningKeys>(k => Task.FromResult(string.Concat(k.Published.Select(p => p.Pem))))
        )!;
        var checked_ = new FileCheck(keys).Of(pdf);
        Assert.Empty(checked_.Broken);
        Assert.Contains(checked_.Says, s => s.Contains("attested", StringComparison.Ordinal));
    }

    [Fact]
    public async Task Links_and_the_outbox_of_the_version_before_go_on_as_they_were()
    {
        await using var host = new StoreHost();
        var options = (DbContextOptions<Store>)new DbContextOptionsBuilder<Store>().UseMordelFile(host.Folder).Options;
        const string secret = "0123456789abcdef0123456789abcdef0123456789abcdef",
            calendar = "fedcba9876543210fedcba9876543210fedcba9876543210";
        var (diagnosis, account) = (Guid.NewGuid(), Guid.NewGuid());
        await using (var store = new Store(options))
        {
            await store.GetService<IMigrator>().MigrateAsync("Rounds");
            await store.Database.OpenConnectionAsync();
            await store.Database.ExecuteSqlRawAsync("PRAGMA foreign_keys=OFF");
            var at = DateTimeOffset.UtcNow.ToMillisecond();
            string Text(Guid id) => id.ToString().ToUpperInvariant();
            var old = new List<string>();
            await using (var command = store.Database.GetDbConnection().CreateCommand())
            {
                command.CommandText =
                    "SELECT name FROM sqlite_master WHERE name IN ('OwnerLinks', 'CalendarLinks', 'Links')";
                await using var reader = await command.ExecuteReaderAsync();
                while (await reader.ReadAsync())
                    old.Add(reader.GetString(0));
            }

            Assert.Equal(["CalendarLinks", "OwnerLinks"], old.Order());
            var stored = (string)
                store
                    .Model.FindEntityType(typeof(LinkRow))!
                    .FindProperty(nameof(LinkRow.MadeAt))!
                    .GetValueConverter()!
                    .ConvertToProvider(at.AddDays(2))!;
            await store.Database.ExecuteSqlRawAsync(
                """
                INSERT INTO OwnerLinks (Id, DiagnosisId, Hash, MadeBy, MadeAt, ExpiresAt)
                VALUES ({0}, {1}, {2}, 'Wilma', {3}, {3});
                INSERT INTO CalendarLinks (Id, AccountId, Hash, MadeAt) VALUES ({4}, {5}, {6}, {3});
                INSERT INTO Outbox (Id, "Key", Way, "To", Recipient, Title, RunId, WrittenAt, State, Tries, NextTryAt,
                    ExpiresAt)
                VALUES ({7}, 'report/1', 'mail', 'a@b.invalid', 'Board', 'Report', {8}, {3}, 'delivered', 1, {3}, {3});
                """,
                Text(Guid.NewGuid()),
                Text(diagnosis),
                ContentHash.Compute(secret),
                stored,
                Text(Guid.NewGuid()),
                Text(account),
                ContentHash.Compute(calendar),
                Text(Guid.NewGuid()),
                Text(Guid.NewGuid())
            );
            await store.GetService<IMigrator>().MigrateAsync();
            Assert.Equal(
                ("report/1", "report", (Guid?)null),
                await store
                    .Outbox.Select(o => new ValueTuple<string, string, Guid?>(o.Key, o.Kind, o.OwnerId))
                    .SingleAsync()
            );
            var links = new KeepLinks(store, new(host.Folder), TimeProvider.System);
            Assert.Equal(diagnosis, (await links.Find(secret, default, LinkPurposes.Look))!.OfId);
            Assert.Null(await links.Find(secret, default, LinkPurposes.Owner));
            Assert.Equal(account, (await links.Find(calendar, default, LinkPurposes.Calendar))!.OfId);
        }
    }

    [Fact]
    public async Task The_database_as_it_was_is_kept_beside()
    {
        await using var host = new EarlierInstallation();
        Assert.Equal(11, await host.InStore(s => s.Runs.CountAsync()));
        var backup = Assert.Single(Directory.GetFiles(Path.Combine(host.Folder, "backups")));
        await using var connection = new SqliteConnection($"Data Source={backup};Mode=ReadOnly;Pooling=False");
        await connection.OpenAsync();
        await using var command = connection.CreateCommand();
        command.CommandText = "SELECT COUNT(Hash) FROM Runs";
        Assert.Equal(10L, await command.ExecuteScalarAsync());
    }

    [Fact]
    public async Task An_open_run_goes_on_where_it_was_and_is_signed_under_the_new_form()
    {
        await using var host = new EarlierInstallation();
        var run = await host.With<RunFile, FindRun>(async f =>
            (await f.For(Open, new(Guid.Empty, true), CancellationToken.None))!
        );
        Assert.Equal(
            (2, ValvePosition.Partly, false),
            (run.Log.Count, run.State.AsFound["so2"].Position, run.IsSealed)
        );
        var tester = run.Row.TesterId;
        var more = new EntryBody[]
        {
            new EntryBody.Taken(
                "cv1.read",
                new(Core.Units.Differential.Psid(2.1m), Core.Units.Differential.Psid(0.1m))
            ),
            new EntryBody.Taken(
                "cv2.read",
                new(Core.Units.Differential.Psid(1.7m), Core.Units.Differential.Psid(0.1m))
            ),
            new EntryBody.Done("cv2.leave"),
            new EntryBody.Done("finish.tell"),
        };
        var at = DateTimeOffset.UtcNow;
        await host.With<Reply<TakenEntries>, TakeEntries>(t =>
            t.Into(
                Open,
                tester,
                [.. more.Select((b, i) => new Entry(new(Guid.NewGuid()), 3 + i, at.AddMinutes(2 * i), b))],
                CancellationToken.None
            )
        );
        var signed = await host.With<Reply<Guid>, SealRun>(s =>
            s.By(Open, tester, new("Ines Tarrow", Hamlet.Drawn, 6, []), CancellationToken.None)
        );
        Assert.Null(signed.Refusal);
        var report = (await host.Report(Open))!;
        Assert.Equal(("pass", null), (report.Outcome, report.Run!.Earlier));
        Assert.Equal(12L, (await host.CheckAll()).Seals);
    }

    [Theory]
    [InlineData(
        "an entry",
        "UPDATE Entries SET Json = replace(Json, '\"value\":', '\"value\": ') WHERE RunId = "
            + "'B9865C32-189E-7B89-CD97-F282A24BE4F2' AND Json LIKE '%reading%'"
    )]
    [InlineData("the outcome", "UPDATE Runs SET Outcome = 'pass' WHERE Id = 'B9865C32-189E-7B89-CD97-F282A24BE4F2'")]
    [InlineData("the serial", "UPDATE Runs SET SealedSerial = 'X' WHERE Id = 'B9865C32-189E-7B89-CD97-F282A24BE4F2'")]
    [InlineData(
        "the old signature",
        "UPDATE Runs SET KeySignature = 'AAAA' WHERE Id = 'B9865C32-189E-7B89-CD97-F282A24BE4F2'"
    )]
    public async Task What_was_altered_before_it_was_brought_forward_stays_broken_and_hides_nothing_else(
        string what,
        string sql
    )
    {
        await using var host = new EarlierInstallation(sql + ";");
        var found = await host.CheckAll();
        Assert.True(
            found.Broken.All(b => b.Subject == Alarms.OfRun(Failed)) && found.Broken.Count > 0,
            $"{what}: {string.Join("; ", found.Broken)}"
        );
        Assert.Equal(SealedReport.BrokenOutcome, (await host.Report(Failed))!.Outcome);
        Assert.True((await host.Report(Amended))!.Holds);
    }

    [Fact]
    public async Task Broken_off_between_two_valves_it_goes_on_with_the_next()
    {
        await using var host = new EarlierInstallation();
        _ = host.Services;
        // As if the start had been killed after the first valve: the others are as the earlier form left them.
        var (waiting, left) = await host.InStore(async s =>
        {
            var other = await s.Runs.Where(r => r.SignedAt == null).Select(r => r.AssemblyId).FirstAsync();
            await s
                .Runs.Where(r => r.AssemblyId == other && r.SignedAt == null)
                .ExecuteUpdateAsync(r =>
                    r.SetProperty(x => x.Setup, (string?)null).SetProperty(x => x.Number, (string?)null)
                );
            return (await s.Runs.CountAsync(r => r.Setup == null), await s.Seals.CountAsync());
        });
        Assert.Equal((1, 11), (waiting, left));
        var done = 0;
        await host.With<bool, EarlierRunUpgrade>(async b =>
        {
            await b.All(n => done = n, CancellationToken.None);
            return true;
        });
        Assert.Equal(1, done);
        Assert.True((await host.CheckAll()).Holds);
        Assert.Equal(0, await host.InStore(s => s.Runs.CountAsync(r => r.Setup == null)));
    }
}
