using System.Diagnostics;
using System.Globalization;
using Microsoft.AspNetCore.Identity;
using Microsoft.Data.Sqlite;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.DemoData;
using StoreOptions = Mordel.Data.StoreOptions;

namespace Mordel.Bench.Fill;

/// <summary>
/// <c>fill DIR [--assemblies N] [--runs N] [--testers N]</c>: the demo's town, then as many assemblies around it, each
/// with a chain of sealed runs that lists, passports and checks really read.
/// </summary>
public static class FillCommand
{
    private const int PlacesPer = 3,
        OwnersPer = 10,
        Stops = 7,
        Learners = 200;

    private static readonly string[] Streets =
    [
        "Weir Street",
        "Mill Lane",
        "Fish Quay",
        "Tanners Row",
        "Hill Road",
        "Chapel Yard",
        "Long Ditch",
        "Salt Alley",
    ];

    private static readonly string[] Kinds =
    [
        "Bakery",
        "Inn",
        "School",
        "Clinic",
        "Works",
        "Depot",
        "Nursery",
        "Chapel",
        "Laundry",
        "Dairy",
        "Stables",
    ];

    private static readonly string[] Names =
    [
        "Alder",
        "Birk",
        "Corran",
        "Dell",
        "Elm",
        "Fen",
        "Garth",
        "Holm",
        "Isen",
        "Jarl",
        "Kelp",
        "Lund",
        "Moss",
    ];

    private static readonly string[] Districts = ["Upstream", "Lower Town", "Marsh", "Westfell", "Harbour"];

    /// <summary>Does it.</summary>
    public static async Task<int> Run(string folder, Size size)
    {
        var watch = Stopwatch.StartNew();
        await using var host = await BenchHost.Open(folder);
        await using var scope = host.Services.CreateAsyncScope();
        var services = scope.ServiceProvider;
        await services.GetRequiredService<DemoTown>().Prepare(CancellationToken.None);
        var store = services.GetRequiredService<Store>();
        if (await store.Assemblies.AnyAsync(a => a.Tag.StartsWith("L-")))
        {
            Console.Error.WriteLine($"{folder} has been filled already.");
            return 2;
        }

        Console.WriteLine($"the town stands after {watch.Elapsed.TotalSeconds:0} s");
        var templates = await Templates(services, store);
        var keys = services.GetRequiredService<SigningKeys>();
        var now = DateTimeOffset.UtcNow.ToMillisecond();
        await using var connection = new SqliteConnection(
            $"Data Source={Path.Combine(folder, StoreOptions.FileName)};Pooling=False"
        );
        await connection.OpenAsync();
        Pragma(connection, "PRAGMA synchronous=OFF; PRAGMA foreign_keys=OFF; PRAGMA cache_size=-400000");
        await using var transaction = await connection.BeginTransactionAsync();
        var testers = await People(store, connection, size, now);
        var places = Places(store, connection, size);
        var ledger = await store.Ledger.AsNoTracking().SingleAsync();
        var (count, running) = (SealFormat.ReadLedger(ledger.Text)!.Count, SealFormat.ReadLedger(ledger.Text)!.Running);
        var maker = new LargeInstallation(size, templates, testers, places, keys, now, count);
        using var rows = new Rows(store, connection);
        var done = 0;
        foreach (
            var made in ParallelEnumerable
                .Range(0, size.Assemblies)
                .AsOrdered()
                .WithMergeOptions(ParallelMergeOptions.NotBuffered)
                .Select(maker.Make)
        )
        {
            rows.Add(made);
            foreach (var seal in made.Seals)
                running = SealFormat.Running(running, seal.Hash);
            count += made.Seals.Count;
            if (done < testers.Count * Stops)
                rows.Stops.Add(Stop(testers[done / Stops], made.Assembly, done % Stops));
            if (++done % 10_000 == 0)
                Console.WriteLine($"{done} assemblies, {count} seals after {watch.Elapsed.TotalSeconds:0} s");
        }

        var text = SealFormat.Write(new Core.Reports.Ledger(count, running, keys.Id));
        Pragma(
            connection,
            "UPDATE Ledger SET Text = @text, Signature = @signature",
            ("@text", text),
            ("@signature", keys.Sign(text))
        );
        await transaction.CommitAsync();
        Pragma(connection, "PRAGMA wal_checkpoint(TRUNCATE)");
        Console.WriteLine(
            $"{await store.Assemblies.CountAsync()} assemblies, {await store.Runs.CountAsync()} runs, {count} seals, "
                + $"{new FileInfo(Path.Combine(folder, StoreOptions.FileName)).Length / 1_000_000} MB after "
                + $"{watch.Elapsed.TotalSeconds:0} s"
        );
        return 0;
    }

    private static async Task<List<(SealedCopy, AssemblyRow)>> Templates(IServiceProvider services, Store store)
    {
        var assemblies = await store
            .Assemblies.AsNoTracking()
            .Include(a => a.Authority)
            .Where(a => a.ReplacedOn == null && a.LastTestOn != null)
            .ToListAsync();
        var reader = services.GetRequiredService<SealReader>();
        var found = new List<(SealedCopy, AssemblyRow)>();
        foreach (var assembly in assemblies)
            found.AddRange(
                (await reader.OfAssembly(assembly.Id, CancellationToken.None))
                    .Reports.Where(r => r is { Holds: true, Run: not null })
                    .Select(r => (new SealedCopy(r.Run!), assembly))
            );
        return found;
    }

    private static async Task<List<Account>> People(
        Store store,
        SqliteConnection connection,
        Size size,
        DateTimeOffset now
    )
    {
        var roles = await store.Roles.AsNoTracking().ToDictionaryAsync(r => r.Name!, r => r.Id);
        var (kit, certificate) = (
            await store.Kits.AsNoTracking().FirstAsync(k => k.Unit == "psid"),
            await store.Certificates.AsNoTracking().FirstAsync()
        );
        using var people = new BulkInsert<Account>(store, connection);
        using var holders = new BulkInsert<IdentityUserRole<Guid>>(store, connection);
        using var kits = new BulkInsert<KitRow>(store, connection);
        using var certificates = new BulkInsert<CertificateRow>(store, connection);
        var testers = new List<Account>();
        for (var i = 0; i < size.Testers; i++)
        {
            var tester = Person(i, "tester");
            people.Add(tester);
            holders.Add(new() { UserId = tester.Id, RoleId = roles[Roles.Tester] });
            kits.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    KeeperId = tester.Id,
                    Kind = kit.Kind,
                    Make = kit.Make,
                    Model = kit.Model,
                    Serial = $"LG-{i}",
                    Unit = kit.Unit,
                    Resolution = kit.Resolution,
                    Accuracy = kit.Accuracy,
                    FullScale = kit.FullScale,
                    CalibratedOn = kit.CalibratedOn,
                    CalibratedBy = kit.CalibratedBy,
                    CalibrationDue = kit.CalibrationDue,
                }
            );
            certificates.Add(
                new()
                {
                    Id = Guid.NewGuid(),
                    AccountId = tester.Id,
                    Number = $"LC-{i}",
                    Types = certificate.Types,
                    IssuedBy = certificate.IssuedBy,
                    ValidFrom = certificate.ValidFrom,
                    ValidUntil = certificate.ValidUntil.AddYears(2),
                }
            );
            testers.Add(tester);
        }

        using var members = new BulkInsert<ClassMemberRow>(store, connection);
        using var attempts = new BulkInsert<AttemptRow>(store, connection);
        var like = await store.Attempts.AsNoTracking().Where(a => a.AssignmentId != null).ToListAsync();
        var classId = await store.Classes.Select(c => c.Id).FirstAsync();
        var learners = Enumerable.Range(0, Learners).Select(i => Person(i, "learner")).ToList();
        foreach (var learner in learners)
        {
            people.Add(learner);
            holders.Add(new() { UserId = learner.Id, RoleId = roles[Roles.Learner] });
            members.Add(new() { ClassId = classId, AccountId = learner.Id });
        }

        for (var i = 0; i < size.Attempts; i++)
        {
            var from = like[i % like.Count];
            (from.Id, from.AccountId, from.HandedInAt) = (
                Guid.NewGuid(),
                learners[i % Learners].Id,
                now.AddMinutes(-i)
            );
            attempts.Add(from);
        }

        return testers;
    }

    private static Account Person(int i, string kind)
    {
        var name = $"{kind}{i}";
        return new()
        {
            Id = Guid.NewGuid(),
            UserName = name,
            NormalizedUserName = name.ToUpperInvariant(),
            FullName = $"{Names[i % Names.Length]} {Names[i / Names.Length % Names.Length]}sen {i}",
            SecurityStamp = Guid.NewGuid().ToString("N"),
            ConcurrencyStamp = Guid.NewGuid().ToString("N"),
        };
    }

    private static List<PlaceRow> Places(Store store, SqliteConnection connection, Size size)
    {
        using var owners = new BulkInsert<OwnerRow>(store, connection);
        using var places = new BulkInsert<PlaceRow>(store, connection);
        var owning = Enumerable
            .Range(0, Math.Max(1, size.Assemblies / OwnersPer))
            .Select(i => new OwnerRow
            {
                Id = Guid.NewGuid(),
                Name = $"{Names[i % Names.Length]} and {Names[i / 7 % Names.Length]} {i}",
                Address = $"{i % 200} {Streets[i % Streets.Length]}",
                Phone = "0199 100 000",
            })
            .ToList();
        owning.ForEach(owners.Add);
        var all = Enumerable
            .Range(0, Math.Max(1, size.Assemblies / PlacesPer))
            .Select(i => new PlaceRow
            {
                Id = Guid.NewGuid(),
                OwnerId = owning[i % owning.Count].Id,
                Owner = owning[i % owning.Count],
                Name = $"{Names[i % Names.Length]} {Kinds[i % Kinds.Length]} {i}",
                Address = $"{i % 300} {Streets[i / 3 % Streets.Length]}",
                District = Districts[i % Districts.Length],
                East = i * 37 % 20_000,
                North = i * 91 % 20_000,
                Contact = "Ask at the desk",
                Access = "Front door",
            })
            .ToList();
        all.ForEach(places.Add);
        return all;
    }

    private static StopRow Stop(Account tester, AssemblyRow assembly, int order) =>
        new()
        {
            Id = Guid.NewGuid(),
            Day = TimeProvider.System.Today(),
            TesterId = tester.Id,
            Order = order + 1,
            AssemblyId = assembly.Id,
            WindowFrom = new(7 + order, 0),
            WindowUntil = new(8 + order, 30),
            Minutes = 25,
        };

    private static void Pragma(SqliteConnection connection, string sql, params (string Name, string Value)[] values)
    {
        using var command = connection.CreateCommand();
        command.CommandText = sql;
        foreach (var (name, value) in values)
            command.Parameters.AddWithValue(name, value);
        command.ExecuteNonQuery();
    }

    private sealed class Rows(Store store, SqliteConnection connection) : IDisposable
    {
        private readonly BulkInsert<AssemblyRow> assemblies = new(store, connection);
        private readonly BulkInsert<RunRow> runs = new(store, connection);
        private readonly BulkInsert<ResultRow> results = new(store, connection);
        private readonly BulkInsert<SealRow> seals = new(store, connection);
        private readonly BulkInsert<ChainRow> chains = new(store, connection);
        private readonly BulkInsert<AmendmentRow> amendments = new(store, connection);

        public BulkInsert<StopRow> Stops { get; } = new(store, connection);

        public void Add(Made made)
        {
            assemblies.Add(made.Assembly);
            foreach (var run in made.Runs)
            {
                runs.Add(run);
                run.Results.ForEach(results.Add);
            }

            foreach (var seal in made.Seals)
                seals.Add(seal);
            chains.Add(made.End);
            if (made.Amendment is { } amendment)
                amendments.Add(amendment);
        }

        public void Dispose()
        {
            IDisposable[] all = [assemblies, runs, results, seals, chains, amendments, Stops];
            foreach (var one in all)
                one.Dispose();
        }
    }
}
