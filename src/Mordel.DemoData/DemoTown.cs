using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Core.Catalogue;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;
using Mordel.Data;
using Mordel.Data.Commands;
using Mordel.Data.Rows;
using Mordel.Data.Seals;
using Mordel.Data.Setups;

namespace Mordel.DemoData;

/// <summary>
/// Fills an empty database with the invented town: people, kits, places, assemblies, three years of tests and the day's
/// rounds. The same seed and day give the same town. Simulated throughout, and labelled so on the screen.
/// </summary>
public sealed class DemoTown(Store store, SealMaker maker, SetupReader setups, TimeProvider clock)
{
    private const int Seed = 20417,
        Years = 3;
    private readonly Random random = new(Seed);
    private readonly List<(Account Account, KitRow Kit)> testers = [];
    private readonly Dictionary<Guid, Results> before = [];
    private static readonly (string User, string FullName)[] Learners =
    [
        ("arvid", "Arvid Stenlo"),
        ("dorte", "Dorte Hamm"),
        ("ilse", "Ilse Brakvik"),
        ("jorn", "Jorn Tessel"),
        ("mika", "Mika Ronsard"),
    ];

    private Guid NewId()
    {
        var bytes = new byte[16];
        random.NextBytes(bytes);
        return new(bytes);
    }

    /// <summary>Fills the database when it is empty, and sees that there is a round for today.</summary>
    public async Task Prepare(CancellationToken cancel)
    {
        if (!await store.Places.AnyAsync(cancel))
            await Fill(cancel);
        var day = clock.Today();
        if (!await store.Stops.AnyAsync(s => s.Day == day, cancel))
            await new DemoRound(store, clock).Plan(day, cancel);
    }

    private async Task Fill(CancellationToken cancel)
    {
        var today = clock.Today();
        await using var transaction = await store.Database.BeginTransactionAsync(cancel);
        await People(today, cancel);
        var assemblies = Register(today);
        await store.SaveChangesAsync(cancel);
        foreach (var assembly in assemblies)
        {
            await Past(assembly, today, cancel);
            await store.SaveChangesAsync(cancel);
            LetGo();
        }

        await new DemoRound(store, clock).Plan(today, cancel);
        await MorningDone(today, cancel);
        await Class(cancel);
        await transaction.CommitAsync(cancel);
    }

    // Thousands of rows that are done with would be looked through at each step.
    private void LetGo()
    {
        foreach (
            var entry in store
                .ChangeTracker.Entries()
                .Where(e => e.Entity is EntryRow or ResultRow or SealRow or RunRow)
                .ToList()
        )
            entry.State = EntityState.Detached;
    }

    private async Task Class(CancellationToken cancel)
    {
        store.Roles.Add(
            new IdentityRole<Guid>
            {
                Id = NewId(),
                Name = Roles.Instructor,
                NormalizedName = Roles.Instructor.ToUpperInvariant(),
            }
        );
        await store.SaveChangesAsync(cancel);
        Person("tove", "Tove Maring", Roles.Instructor, "Teaches a class at the bench.");
        foreach (var (user, full) in Learners)
            Person(user, full, Roles.Learner, null);
        await store.SaveChangesAsync(cancel);
        DemoClass.Fill(
            store,
            Named("tove"),
            [.. Learners.Select(l => Named(l.User)), Named("pia")],
            NewId,
            clock.GetUtcNow()
        );
        await store.SaveChangesAsync(cancel);
    }

    private async Task People(DateOnly today, CancellationToken cancel)
    {
        foreach (var role in Roles.All.Where(r => r != Roles.Instructor))
            if (!await store.Roles.AnyAsync(r => r.Name == role, cancel))
                store.Roles.Add(
                    new IdentityRole<Guid>
                    {
                        Id = NewId(),
                        Name = role,
                        NormalizedName = role.ToUpperInvariant(),
                    }
                );
        await store.SaveChangesAsync(cancel);
        Person("ines", "Ines Tarrow", Roles.Tester, "Nine stops today, every type; her kit is due for calibration.");
        Person("bram", "Bram Oskelly", Roles.Tester, "His certificate has run out: he can test, not sign.");
        Person("odd", "Odd Harrick", Roles.Tester, "Works in kPa for the valley's authority.");
        Person("sanna", "Sanna Wick", Roles.Tester, "Her kit is out of calibration.");
        Person("wilma", "Wilma Quent", Roles.Office, "Sees everyone's round and every run.");
        Person("pia", "Pia Lorne", Roles.Learner, "Learns at the bench; an exam is set for her.");
        Person("hester", "Hester Fenn", Roles.Owner, "Owns the installation.");
        await store.SaveChangesAsync(cancel);
        Kit("ines", "five-valve", "G5", "GB-5107", "psid", 0.1m, 0.2m, 15m, today.AddDays(12), "red blue yellow");
        Kit("bram", "three-valve", "G3", "GB-3340", "psid", 0.1m, 0.2m, 15m, today.AddDays(140));
        Kit(
            "odd",
            "three-valve",
            "G3 metric",
            "GB-3391",
            "kPa",
            1m,
            1.5m,
            100m,
            today.AddDays(203),
            "green black grey"
        );
        Kit("sanna", "five-valve", "G5", "GB-5122", "psid", 0.2m, 0.3m, 15m, today.AddDays(-9));
        Certificate("ines", "RG-0417", today.AddYears(-4), today.AddDays(300));
        Certificate("bram", "RG-0388", today.AddYears(-5), today.AddDays(-20));
        Certificate("odd", "RG-0455", today.AddYears(-4), today.AddDays(620));
        Certificate("sanna", "RG-0502", today.AddYears(-4), today.AddDays(410));
        await store.SaveChangesAsync(cancel);
    }

    private void Person(string name, string fullName, string role, string? note)
    {
        var account = new Account
        {
            Id = NewId(),
            UserName = name,
            NormalizedUserName = name.ToUpperInvariant(),
            FullName = fullName,
            DemoNote = note,
            SecurityStamp = NewId().ToString("N"),
            ConcurrencyStamp = NewId().ToString("N"),
            LockoutEnabled = true,
        };
        store.Users.Add(account);
        store.UserRoles.Add(new() { UserId = account.Id, RoleId = store.Roles.Local.First(r => r.Name == role).Id });
    }

    private Account Named(string name) => store.Users.Local.First(u => u.UserName == name);

    private void Kit(
        string keeper,
        string kind,
        string model,
        string serial,
        string unit,
        decimal resolution,
        decimal accuracy,
        decimal fullScale,
        DateOnly due,
        string? colours = null
    )
    {
        var kit = new KitRow
        {
            Id = NewId(),
            KeeperId = Named(keeper).Id,
            Kind = kind,
            Make = "Gallibrand",
            Model = model,
            Serial = serial,
            Unit = unit,
            Resolution = resolution,
            Accuracy = accuracy,
            FullScale = fullScale,
            CalibratedOn = due.AddYears(-1),
            CalibratedBy = "Gallibrand service bench",
            CalibrationDue = due,
            HoseColours = colours,
        };
        store.Kits.Add(kit);
        testers.Add((Named(keeper), kit));
    }

    private void Certificate(string name, string number, DateOnly from, DateOnly until) =>
        store.Certificates.Add(
            new()
            {
                Id = NewId(),
                AccountId = Named(name).Id,
                Number = number,
                Types = "DC RP PVB SVB",
                IssuedBy = TownData.Guild,
                ValidFrom = from,
                ValidUntil = until,
            }
        );

    private List<AssemblyRow> Register(DateOnly today)
    {
        var board = new AuthorityRow
        {
            Id = NewId(),
            Name = TownData.Board,
            ProfileId = "psid-standard",
        };
        var valley = new AuthorityRow
        {
            Id = NewId(),
            Name = TownData.Valley,
            ProfileId = "kpa-isolation-first",
        };
        store.Authorities.AddRange(board, valley);
        var owners = TownData
            .Owners.Select(o => new OwnerRow
            {
                Id = NewId(),
                Name = o.Name,
                Address = $"{o.Address}, {TownData.Town}",
                Phone = o.Phone,
            })
            .ToList();
        store.Owners.AddRange(owners);
        var flows = new[]
        {
            "LeftToRight",
            "LeftToRight",
            "RightToLeft",
            "Upward",
            "LeftToRight",
            "Downward",
            "RightToLeft",
        };
        var all = new List<AssemblyRow>();
        foreach (var site in TownData.Sites)
        {
            var place = new PlaceRow
            {
                Id = NewId(),
                OwnerId = owners[site.Owner].Id,
                Name = site.Name,
                Address = site.Street,
                District = site.District,
                East = site.East,
                North = site.North,
                Contact = site.Contact,
                Access = site.Access,
            };
            store.Places.Add(place);
            foreach (var serves in site.Serves)
            {
                var type = TownData.TypeFor(serves);
                var makes = TownData.Makes.Where(m => m.Type == type).ToArray();
                var make = makes[random.Next(makes.Length)];
                var fire = serves == "fire line";
                var vacuum = type is "PVB" or "SVB";
                var valleyRp = type == "RP" && site.District == "Eastfell";
                all.Add(
                    new()
                    {
                        Id = NewId(),
                        PlaceId = place.Id,
                        AuthorityId = site.District == "Eastfell" ? valley.Id : board.Id,
                        Tag = $"F-{1001 + all.Count}",
                        Type = type,
                        Body =
                            type != "RP" ? null
                            : valleyRp ? "three-tap"
                            : "four-cock",
                        Strainer = valleyRp && random.Next(2) == 0,
                        FittedCocks = random.Next(4) == 0,
                        BypassLine = fire,
                        ReliefPort = type == "RP" ? 20m : null,
                        Make = make.Make,
                        Model = make.Model,
                        Size = fire ? "4 in" : TownData.Sizes[random.Next(vacuum ? 3 : 5)],
                        Serial = $"{make.Make[0]}{random.Next(10, 99)}-{random.Next(10000, 99999)}",
                        Flow = vacuum ? "Upward" : flows[all.Count % flows.Length],
                        Location =
                            type == "PVB" ? "Outside wall, south side"
                            : fire ? "Valve room, ground floor"
                            : random.Next(3) switch
                            {
                                0 => "Plant room wall",
                                1 => "Meter pit",
                                _ => "Service cupboard",
                            },
                        Serves = serves,
                        Hazard = type == "RP" ? "high" : "low",
                        Protection = random.Next(3) == 0 ? "isolation" : "containment",
                        FireLine = fire,
                        InstalledOn = today.AddDays(-random.Next(1300, 4600)),
                        HowToFind = site.Access,
                    }
                );
            }
        }

        store.Assemblies.AddRange(all);
        foreach (var assembly in all)
            assembly.Authority = assembly.AuthorityId == board.Id ? board : valley;
        return all;
    }

    // Three years: springs weaken a little each year; grit after works on the main fouled some checks in Millrace and
    // the Saltings.
    private async Task Past(AssemblyRow assembly, DateOnly today, CancellationToken cancel)
    {
        var make = TownData.Makes.First(m => m.Make == assembly.Make && m.Model == assembly.Model);
        var age = (today.DayNumber - assembly.InstalledOn.DayNumber) / 365m - Years;
        var wear = 0.02m + (decimal)random.NextDouble() * 0.09m;
        // An RP's stiff spring loses more in a year than a small one; its relief hardly changes.
        var share =
            make.Cv1 > 5m ? 2.5m
            : make.Type == "PVB" ? 0.5m
            : 1m;
        var (cv1, cv2) = (make.Cv1 - wear * share * age * 0.5m, make.Cv2 - wear * age * 0.4m);
        var kpa = assembly.Authority!.ProfileId.StartsWith("kpa", StringComparison.Ordinal);
        var yearDay = today.AddDays(-random.Next(8, 330));
        var shutoff = random.Next(9);
        var gritty = assembly.Place is { District: "Millrace" or "Saltings" } && random.Next(3) == 0;
        for (var year = Years - 1; year >= 0; year--)
        {
            var on = yearDay.AddYears(-year).AddDays(random.Next(-9, 10));
            if (on >= today)
                on = today.AddDays(-random.Next(2, 9));
            var drift = wear * (Years - year);
            var inside = new Inside(
                Math.Max(0.3m, cv1 - drift * share + Noise()),
                Math.Max(0.3m, cv2 - drift * 0.8m + Noise()),
                make.Relief + Noise(),
                Math.Max(0.4m, make.Inlet - drift * 0.4m + Noise()),
                shutoff == 0,
                shutoff == 1
            );
            var team = kpa
                ? testers[2]
                : testers[
                    random.Next(5) switch
                    {
                        0 => 1,
                        1 => 3,
                        _ => 0,
                    }
                ];
            if (gritty && year == 1)
            {
                await Sealed(assembly, Able(team, assembly, on), inside with { Cv1 = 0m }, on, cancel);
                on = on.AddDays(random.Next(4, 20));
                cv1 += 0.1m;
            }

            await Sealed(assembly, Able(team, assembly, on), inside, on, cancel);
        }
    }

    private decimal Noise() => ((decimal)random.NextDouble() - 0.5m) * 0.16m;

    private Task Sealed(
        AssemblyRow assembly,
        (Account Account, KitRow Kit) team,
        Inside inside,
        DateOnly day,
        CancellationToken cancel
    ) =>
        Sign(
            assembly,
            team,
            inside,
            new(day.ToDateTime(new TimeOnly(8 + random.Next(7), random.Next(60))), TimeSpan.Zero),
            null,
            cancel
        );

    private async Task Sign(
        AssemblyRow assembly,
        (Account Account, KitRow Kit) team,
        Inside inside,
        DateTimeOffset start,
        Guid? stopId,
        CancellationToken cancel
    )
    {
        var (account, kit) = team;
        var day = DateOnly.FromDateTime(start.DateTime);
        var profile = BuiltInProfiles.Named(assembly.Authority!.ProfileId)!;
        var procedure = SchoolCatalogue.Named(profile.For(AssemblyTypes.Parse(assembly.Type))!.ProcedureId)!;
        var register = new Register(
            assembly,
            AsOn(kit, day),
            account,
            [.. store.Certificates.Local.Where(c => c.AccountId == account.Id)]
        );
        var (id, number) = (NewId(), await ReportNumbers.Next(store, assembly.Tag, start, clock.LocalTimeZone, cancel));
        var setup = SetupWriter.Write(id, stopId, number, start, register, procedure, profile, day);
        await setups.Keep(setup, cancel);
        var row = new RunRow
        {
            Id = id,
            AssemblyId = assembly.Id,
            Assembly = assembly,
            StopId = stopId,
            TesterId = account.Id,
            Tester = account,
            KitId = kit.Id,
            ProcedureId = procedure.Id,
            ProfileId = profile.Id,
            ProfileVersion = profile.Version,
            StartedAt = start,
            Number = number,
            Setup = RunSetupFormat.Write(setup),
        };
        var history = new History(setup.Plan, Contact(assembly), random);
        var log = history.Write(inside, start);
        var received = log.Entries.Select(e => new ReceivedEntry(e, e.At)).ToList();
        row.Entries.AddRange(received.Select(r => TakeEntries.Row(id, r.Entry, r.Received)));
        store.Runs.Add(row);
        var state = Replay.Run(setup.Plan, log);
        var previous = before.GetValueOrDefault(assembly.Id);
        var verdict = setup.Plan.VerdictOn(state, previous);
        var signing = new Signing(
            account.FullName,
            setup.Tester.Certificate!,
            SampleSignature.For(account.FullName),
            history.End.AddMinutes(2)
        );
        await maker.Make(row, new(setup, received, state, verdict, previous, signing), cancel);
        before[assembly.Id] = ResultsOf(verdict);
    }

    private static Results ResultsOf(Verdict verdict) =>
        verdict
            .Items.Where(i => i.Value is not null)
            .Aggregate(Results.None, (results, item) => results.With(item.Item, item.Value!));

    private static string Contact(AssemblyRow assembly) => assembly.Place!.Contact.Split(',')[0];

    // A kit is calibrated once a year: what held then is what the report of that day says.
    private static KitRow AsOn(KitRow kit, DateOnly day)
    {
        var years = 0;
        while (kit.CalibratedOn.AddYears(years) > day)
            years--;
        return new()
        {
            Id = kit.Id,
            KeeperId = kit.KeeperId,
            Kind = kit.Kind,
            Make = kit.Make,
            Model = kit.Model,
            Serial = kit.Serial,
            Unit = kit.Unit,
            Resolution = kit.Resolution,
            Accuracy = kit.Accuracy,
            FullScale = kit.FullScale,
            CalibratedOn = kit.CalibratedOn.AddYears(years),
            CalibratedBy = kit.CalibratedBy,
            CalibrationDue = kit.CalibrationDue.AddYears(years),
        };
    }

    // Who may sign on a day; where certificate or kit have run out, the first tester goes.
    private (Account Account, KitRow Kit) Able(
        (Account Account, KitRow Kit) team,
        AssemblyRow assembly,
        DateOnly day
    ) =>
        team.Kit.CalibrationDue >= day
        && store.Certificates.Local.Any(c => c.AccountId == team.Account.Id && c.Covers(assembly.Type, day))
            ? team
            : testers[0];

    // The first two stops of the first tester are done when the day is looked at.
    private async Task MorningDone(DateOnly today, CancellationToken cancel)
    {
        var stops = await store
            .Stops.Where(s => s.Day == today && s.TesterId == testers[0].Account.Id)
            .OrderBy(s => s.Order)
            .Take(2)
            .ToListAsync(cancel);
        var start = clock.Now().AddMinutes(-150);
        foreach (var stop in stops)
        {
            var assembly = store.Assemblies.Local.First(a => a.Id == stop.AssemblyId);
            await Sign(
                assembly,
                testers[0],
                stop == stops[0] ? new(2.3m, 1.9m) : new(1.7m, 0m),
                start,
                stop.Id,
                cancel
            );
            start = start.AddMinutes(65);
        }

        await store.SaveChangesAsync(cancel);
    }
}
