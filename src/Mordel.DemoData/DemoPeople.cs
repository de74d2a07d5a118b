using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>A tester with the kit that goes along.</summary>
/// <param name="Account">The tester.</param>
/// <param name="Kit">The kit.</param>
public sealed record Team(Account Account, KitRow Kit);

/// <summary>The people of the invented town, their kits and certificates.</summary>
public sealed class DemoPeople(Store store, SeededChance chance, PerformedPast past, TimeProvider clock)
{
    private static readonly (string User, string FullName)[] Learners =
    [
        ("arvid", "Arvid Stenlo"),
        ("dorte", "Dorte Hamm"),
        ("ilse", "Ilse Brakvik"),
        ("jorn", "Jorn Tessel"),
        ("mika", "Mika Ronsard"),
    ];

    private readonly List<CertificateRow> certificates = [];

    /// <summary>The serial of the kit whose needle creeps up.</summary>
    public const string Drifting = "GB-5122";

    /// <summary>The testers in the order in which they were added.</summary>
    public List<Team> Testers { get; } = [];

    /// <summary>
    /// Who may sign on a day; where certificate or kit have run out, the first tester goes.
    /// </summary>
    public Team Able(Team team, string type, DateOnly day) =>
        team.Kit.CalibrationDue >= day
        && Certificates(team)
            .Any(c =>
                c.AuthorityId is null && c.Types.Split(' ').Contains(type) && day >= c.ValidFrom && day <= c.ValidUntil
            )
            ? team
            : Testers[0];

    /// <summary>A tester's certificates.</summary>
    public IReadOnlyList<CertificateRow> Certificates(Team team) =>
        [.. certificates.Where(c => c.AccountId == team.Account.Id)];

    /// <summary>Instructor, learners and their class.</summary>
    public async Task AddClass(CancellationToken cancel)
    {
        store.Roles.Add(
            new IdentityRole<Guid>
            {
                Id = chance.NewId(),
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
            chance.NewId,
            clock.GetUtcNow(),
            past
        );
        await store.SaveChangesAsync(cancel);
    }

    /// <summary>Roles, testers with kits and certificates, the office.</summary>
    public async Task Add(DateOnly today, CancellationToken cancel)
    {
        foreach (var role in Roles.All.Where(r => r != Roles.Instructor))
            if (!await store.Roles.AnyAsync(r => r.Name == role, cancel))
                store.Roles.Add(
                    new IdentityRole<Guid>
                    {
                        Id = chance.NewId(),
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
        Kit("sanna", "five-valve", "G5", Drifting, "psid", 0.2m, 0.3m, 15m, today.AddDays(-9));
        PutBy("digital", "G3 digital", "GB-6018", today.AddDays(77));
        PutBy("two-valve", "G2", "GB-2115", today.AddDays(-31));
        Certificate("ines", "RG-0417", today.AddYears(-4), today.AddDays(300));
        Certificate("bram", "RG-0388", today.AddYears(-5), today.AddDays(-20));
        Certificate("odd", "RG-0455", today.AddYears(-4), today.AddDays(620));
        Certificate("sanna", "RG-0502", today.AddYears(-4), today.AddDays(410));
        await store.SaveChangesAsync(cancel);
    }

    /// <summary>A certificate that one authority alone takes; it runs out soon.</summary>
    public void AddValleyCertificate(AuthorityRow valley, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(valley);
        store.Certificates.Add(
            new()
            {
                Id = chance.NewId(),
                AccountId = Named("odd").Id,
                Number = "EV-118",
                Types = "DC RP",
                IssuedBy = valley.Name,
                ValidFrom = today.AddYears(-2),
                ValidUntil = today.AddDays(41),
                AuthorityId = valley.Id,
                Class = "class II",
            }
        );
    }

    /// <summary>The calibrations of each kit: the last one, and one a year before, at which it was right.</summary>
    public void AddCalibrations()
    {
        foreach (var kit in store.Kits.Local)
            for (var back = 0; back < 2; back++)
                store.Calibrations.Add(
                    new()
                    {
                        Id = chance.NewId(),
                        KitId = kit.Id,
                        On = kit.CalibratedOn.AddYears(-back),
                        CalibratedBy = kit.CalibratedBy,
                        Due = kit.CalibrationDue.AddYears(-back),
                        FoundHigh = 0m,
                        At = new(kit.CalibratedOn.AddYears(-back).ToDateTime(new(12, 0)), TimeSpan.Zero),
                        By = "Wilma Quent",
                    }
                );
    }

    /// <summary>The kits were read beside each other in the workshop: one of them creeps up.</summary>
    public void AddComparisons(DateOnly today)
    {
        var (one, other) = (Serial(Drifting), Serial("GB-5107"));
        foreach (
            var (weeks, pairs) in new[]
            {
                (41, "2.2 2.2;5.0 5.1;8.4 8.4"),
                (19, "2.4 2.2;5.4 5.1;8.6 8.3"),
                (2, "2.6 2.2;5.4 5.0;8.8 8.4"),
            }
        )
            store.Comparisons.Add(
                new()
                {
                    Id = chance.NewId(),
                    OneId = one.Id,
                    OtherId = other.Id,
                    On = today.AddDays(-7 * weeks),
                    Pairs = pairs,
                    Where = "the RP on the workshop’s wall",
                    At = new(today.AddDays(-7 * weeks).ToDateTime(new(12, 0)), TimeSpan.Zero),
                    By = "Wilma Quent",
                }
            );
    }

    private KitRow Serial(string serial) => store.Kits.Local.First(k => k.Serial == serial);

    private void Person(string name, string fullName, string role, string? note)
    {
        var account = new Account
        {
            Id = chance.NewId(),
            UserName = name,
            NormalizedUserName = name.ToUpperInvariant(),
            FullName = fullName,
            DemoNote = note,
            SecurityStamp = chance.NewId().ToString("N"),
            ConcurrencyStamp = chance.NewId().ToString("N"),
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
            Id = chance.NewId(),
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
        Testers.Add(new(Named(keeper), kit));
    }

    // Nobody has them: one to lend, one that waits for its calibration. Nothing hangs on their ids.
    private void PutBy(string kind, string model, string serial, DateOnly due) =>
        store.Kits.Add(
            new()
            {
                Id = new SeededChance(serial.Sum(c => c)).NewId(),
                Kind = kind,
                Make = "Gallibrand",
                Model = model,
                Serial = serial,
                Unit = "psid",
                Resolution = 0.1m,
                Accuracy = 0.2m,
                FullScale = 15m,
                CalibratedOn = due.AddYears(-1),
                CalibratedBy = "Gallibrand service bench",
                CalibrationDue = due,
            }
        );

    private void Certificate(string name, string number, DateOnly from, DateOnly until)
    {
        var row = new CertificateRow
        {
            Id = chance.NewId(),
            AccountId = Named(name).Id,
            Number = number,
            Types = "DC RP PVB SVB",
            IssuedBy = TownData.Guild,
            ValidFrom = from,
            ValidUntil = until,
        };
        certificates.Add(row);
        store.Certificates.Add(row);
    }
}
