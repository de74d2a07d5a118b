using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore;
using Mordel.Data;
using Mordel.Data.Commands.Imports;
using Mordel.Data.Links;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// What lies on the office's desk in the invented town: assemblies entered twice, one laid up, some that cannot be
/// tested for the time being, and a list of the authority's that waits with errors in it.
/// </summary>
public sealed class DemoOffice(Store store, BeginImport begin, CheckImport check, KeepLinks links, TimeProvider clock)
{
    private const int Seed = 5119;

    // Of its own, so that the town's past does not hang on it.
    private readonly SeededChance chance = new(Seed);

    private const string Wilma = "Wilma Quent";

    /// <summary>Lays it there; saved with the caller's transaction.</summary>
    public void Add(IReadOnlyList<AssemblyRow> assemblies, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(assemblies);
        Twice(assemblies[9], "F-2001", today);
        Twice(assemblies[33], "F-2002", today);
        Happened(assemblies[27], "laid up", today.AddDays(-40), "The gallery is shut until the roof is mended.");
        Happened(assemblies[46], "moved", today.AddDays(-6), "Moved up out of the wet.");
        // The board's list of last month had its own days for some.
        foreach (
            var (index, due) in new[] { (5, -33), (8, -21), (14, -12), (19, -4), (23, 3), (29, 9), (34, 17), (52, 24) }
        )
            Happened(assemblies[index], AssemblyEventRow.Announced, today.AddDays(-60), "", today.AddDays(due));
        Stuck(assemblies[14], "no access", "Nobody at the desk, twice.", today.AddDays(-9));
        Stuck(assemblies[8], "refused", "Wants to wait until the season is over.", today.AddDays(-18));
        Stuck(assemblies[50], "works", "Scaffolding before the door.", today.AddDays(-4));
    }

    /// <summary>When and from where the testers work.</summary>
    public void WorkingHours(IEnumerable<Account> people)
    {
        ArgumentNullException.ThrowIfNull(people);
        var ids = people.ToDictionary(p => p.UserName!, p => p.Id);
        const string pit = WorkingHoursRow.ConfinedSpace,
            fire = WorkingHoursRow.FireLine;
        foreach (
            var (name, from, until, east, north, skills) in new[]
            {
                ("ines", new TimeOnly(6, 30), new TimeOnly(15, 30), 60, 160, (string[])[fire]),
                ("bram", new(7, 30), new(16, 30), 60, 160, [pit]),
                ("odd", new(7, 0), new(16, 0), 1900, 900, [pit, fire]),
                ("sanna", new(8, 0), new(16, 30), 60, 160, []),
            }
        )
            store.WorkingHours.Add(
                new()
                {
                    AccountId = ids[name],
                    From = from,
                    Until = until,
                    East = east,
                    North = north,
                    Skills = string.Join(',', skills),
                }
            );
    }

    /// <summary>Some of a bad delivery stand failed and wait for discs.</summary>
    public static void WaitForParts(IEnumerable<TownValve> valves, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(valves);
        foreach (
            var row in valves
                .Where(v => v.Trouble == Trouble.BadDiscs && (v.Row.LastOutcome ?? v.Row.BroughtOutcome) == "fail")
                .Select(v => v.Row)
                .Take(3)
        )
            Stuck(row, "parts", "Discs of another delivery are ordered.", today.AddDays(-5));
    }

    /// <summary>Two owners have said on their pages when the water may be off.</summary>
    public async Task AskForHours(CancellationToken cancel)
    {
        var today = clock.Today();
        var (soon, later) = (today.AddDays(25), today.AddDays(60));
        var waiting = await store
            .Assemblies.Include(a => a.Place)
            .Where(a => a.NextDue > soon && a.NextDue < later && a.ReplacedOn == null && a.Place!.Owner!.Mail != "")
            .OrderBy(a => a.NextDue)
            .ThenBy(a => a.Tag)
            .ToListAsync(cancel);
        foreach (
            var (assembly, name, from, until, note) in waiting
                .DistinctBy(a => a.Place!.OwnerId)
                .Zip(
                    [
                        ("Ada Holm", 6, 8, "The dough must be in before."),
                        ("Per Lindqvar", 13, 15, "Not while guests eat."),
                    ],
                    (a, w) => (a, w.Item1, w.Item2, w.Item3, w.Item4)
                )
        )
            store.Consents.Add(
                new()
                {
                    Id = chance.NewId(),
                    AssemblyId = assembly.Id,
                    At = clock.Now().AddHours(-20),
                    Name = name,
                    From = new(from, 0),
                    Until = new(until, 0),
                    Note = note,
                    LinkId = links
                        .Add(LinkPurposes.Owner, assembly.Place!.OwnerId, TimeSpan.FromDays(KeepLinks.OwnerDays), Wilma)
                        .Row.Id,
                }
            );
        await store.SaveChangesAsync(cancel);
    }

    /// <summary>The authority's list, brought in this morning and checked; somebody must look at it.</summary>
    public async Task BringList(CancellationToken cancel)
    {
        var known = await store
            .Assemblies.AsNoTrackingWithIdentityResolution()
            .Include(a => a.Place!)
                .ThenInclude(p => p.Owner)
            .OrderBy(a => a.Tag)
            .Take(4)
            .ToListAsync(cancel);
        var day = clock.Today();
        using var file = new MemoryStream(Encoding.UTF8.GetBytes(List(known, day)));
        var taken = await begin.Take(file, "board-list.csv", TownData.Board, Wilma, cancel);
        var import = await store.Imports.FindAsync([taken.Value], cancel);
        var columns = ImportColumns.Read(import!.Columns);
        await begin.Say(
            taken.Value,
            new([.. columns.Select(c => c.Field ?? "")], [], TownData.Board, "psid-standard"),
            cancel
        );
        store.ChangeTracker.Clear();
        await check.Run(taken.Value, cancel);
    }

    // The board's own heads and spellings: semicolons, the day first, its words for types.
    private static string List(List<AssemblyRow> known, DateOnly day)
    {
        string Day(int days) => day.AddDays(days).ToString("dd/MM/yyyy", CultureInfo.InvariantCulture);
        const string rope = "Rope Walk Stores;Rope store;3 Rope Walk;Old Quay",
            kelp = "Kelp House;Kelp House;17 Strand;Saltings",
            terrace = "Terrace Homes Association;Upper Terrace 112;112 Upper Terrace;Terraces",
            music = "Lanternhouse Schools;Music school;2 Lantern Lane;Centre";
        string[] lines =
        [
            "Customer;Premises;Street;Quarter;Device Type;Maker;Model;Size;Serial No.;Hazard;Last Test;Result;Test Due",
            $"{rope};Double check;Corvane;Twin 40;1\";C54-70113;Low;{Day(-350)};P;{Day(15)}",
            $"{rope};RPZ;Corvane;Lock 40;3/4\";C54-70188;Health;{Day(-350)};P;{Day(15)}",
            $"{kelp};R.P.;Aldwater Brass;Z-31;1.5;A19-22007;High;{Day(-410)};F;{Day(-45)}",
            $"{kelp};DCVA;Aldwater Brass;D-21;2 inch;A19-22019;Low;{Day(-290)};P;{Day(75)}",
            $"{terrace};DC;Thistle & Bore;Pair;¾;T88-40061;Low;{Day(-200)};P;{Day(165)}",
            $"{music};SVB;Thistle & Bore;Sill;1/2\";T71-30025;Low;{Day(-120)};P;{Day(245)}",
            Cells(known[0], known[0].Serial, Day(40)),
            Cells(known[1], known[1].Serial, Day(52)),
            $"{rope};Atmospheric;Corvane;A-1;1\";C54-70201;Low;{Day(-350)};P;{Day(15)}",
            $"{kelp};DC;Aldwater Brass;D-21;2\";A19-22044;Low;31/02/{day.Year};P;{Day(75)}",
            $"{kelp};DC;Aldwater Brass;D-24;2\";;Low;{Day(-290)};P;{Day(75)}",
            Cells(known[2], known[2].Serial.Replace("-", "", StringComparison.Ordinal), Day(60)),
        ];
        return string.Join('\n', lines) + "\n";
    }

    private static string Cells(AssemblyRow a, string serial, string due) =>
        $"{a.Place?.Owner?.Name};;;;{a.Type};{a.Make};{a.Model};{a.Size};{serial};{a.Hazard};;;{due}";

    // Entered by two people: the serial with other signs in it, the rest nearly the same.
    private void Twice(AssemblyRow of, string tag, DateOnly today) =>
        store.Assemblies.Add(
            new()
            {
                Id = chance.NewId(),
                PlaceId = of.PlaceId,
                AuthorityId = of.AuthorityId,
                Tag = tag,
                Type = of.Type,
                Body = of.Body,
                Make = of.Make,
                Model = of.Model,
                Size = of.Size,
                Serial = of.Serial.Replace("-", " ", StringComparison.Ordinal).ToLowerInvariant(),
                Flow = of.Flow,
                Location = "",
                Serves = of.Serves,
                Use = of.Use,
                Hazard = of.Hazard,
                Protection = of.Protection,
                InstalledOn = today.AddDays(-70),
                HowToFind = "",
            }
        );

    private void Happened(AssemblyRow to, string kind, DateOnly day, string note, DateOnly? due = null) =>
        store.AssemblyEvents.Add(
            new()
            {
                Id = chance.NewId(),
                AssemblyId = to.Id,
                Kind = kind,
                Day = day,
                Due = due,
                Note = note.Length > 0 ? note : null,
                By = Wilma,
                At = clock.Now().AddDays(day.DayNumber - clock.Today().DayNumber),
            }
        );

    private static void Stuck(AssemblyRow assembly, string why, string note, DateOnly since) =>
        (assembly.Stuck, assembly.StuckNote, assembly.StuckSince) = (why, note, since);
}
