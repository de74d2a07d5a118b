using System.Collections.Concurrent;
using System.Globalization;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Commands.Runs;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Bench.Fill;

/// <summary>How large an installation is made.</summary>
/// <param name="Assemblies">Assemblies beside the demo's.</param>
/// <param name="Runs">Sealed runs.</param>
/// <param name="Testers">Testers, each with a round today.</param>
/// <param name="Amendments">Sealed amendments.</param>
/// <param name="Attempts">Attempts handed in by one class.</param>
public sealed record Size(int Assemblies, int Runs, int Testers, int Amendments, int Attempts)
{
    /// <summary>Runs of each assembly.</summary>
    public int Each => Math.Max(1, Runs / Math.Max(1, Assemblies));
}

/// <summary>Everything that is written for one assembly.</summary>
/// <param name="Assembly">The assembly, with its last test.</param>
/// <param name="Runs">Rows of its runs, with entries and results.</param>
/// <param name="Seals">Its chain.</param>
/// <param name="End">The signed end of that.</param>
/// <param name="Amendment">An amendment, where it has one.</param>
public sealed record Made(
    AssemblyRow Assembly,
    IReadOnlyList<RunRow> Runs,
    IReadOnlyList<SealRow> Seals,
    ChainRow End,
    AmendmentRow? Amendment
);

/// <summary>Makes assemblies with their chains of sealed runs, as the application would have sealed them.</summary>
public sealed class LargeInstallation(
    Size size,
    IReadOnlyList<(SealedCopy Copy, AssemblyRow Assembly)> templates,
    IReadOnlyList<Account> testers,
    IReadOnlyList<PlaceRow> places,
    SigningKeys keys,
    DateTimeOffset now,
    long seals
)
{
    // One test in so many is a whole one; the others were broken off at the door, so that the file stays handy.
    private const int Whole = 50;

    private readonly ConcurrentDictionary<object, DoorCopy> doors = new(ReferenceEqualityComparer.Instance);

    private static readonly string[] Serves =
    [
        "kitchen",
        "laundry",
        "boiler feed",
        "fire line",
        "dish washer",
        "irrigation",
        "cooling tower",
        "laboratory",
        "car wash",
        "hot tub",
        "dairy",
        "printing works",
        "dentist",
        "mortuary",
        "swimming bath",
        "brewing copper",
    ];

    /// <summary>The assembly of a number from 0, with all that belongs to it.</summary>
    public Made Make(int index)
    {
        var chance = new Random(index);
        var (_, like) = templates[chance.Next(templates.Count)];
        var assembly = Assembly(index, like, chance);
        var copies = templates.Where(t => t.Assembly.Type == like.Type && Same(t.Assembly, like)).ToList();
        var amended = index < size.Amendments;
        var first = seals + 1 + ((long)index * size.Each) + Math.Min(index, size.Amendments);
        var (runs, links) = (new List<RunRow>(), new List<SealRow>());
        var previous = ContentHash.Beginning;
        for (var i = 0; i < size.Each; i++)
        {
            var begun = now.AddDays(-3600.0 * (size.Each - i) / size.Each).AddHours(chance.Next(24 * 30));
            begun = new(begun.Year, begun.Month, begun.Day, begun.Hour, 0, 0, TimeSpan.Zero);
            if (begun > now.AddHours(-1))
                begun = begun.AddDays(-40);
            var copy = copies[chance.Next(copies.Count)].Copy;
            var (record, row) = Test(
                index + i,
                copy,
                like,
                Id(chance),
                assembly,
                testers[chance.Next(testers.Count)],
                begun
            );
            runs.Add(row);
            previous = Seal(links, first, previous, assembly.Id, row.Id, null, record, row.SignedAt!.Value);
            assembly.LastTestOn = DateOnly.FromDateTime(row.SignedAt.Value.UtcDateTime);
            assembly.LastOutcome = row.Outcome;
            assembly.NextDue = assembly.LastTestOn.Value.AddYears(1);
        }

        AmendmentRow? amendment = null;
        if (amended)
        {
            var last = runs[^1];
            var at = last.SignedAt!.Value.AddHours(1);
            var words = new Amendment(
                Id(chance),
                last.Id,
                last.SignedName!,
                at,
                AmendRun.Printed(at, last.SignedName!, TimeZoneInfo.Utc),
                "The size is stamped otherwise on the body."
            );
            amendment = new()
            {
                Id = words.Id,
                RunId = last.Id,
                Text = words.Text,
                By = words.By,
                At = words.At,
            };
            previous = Seal(links, first, previous, assembly.Id, last.Id, words.Id, SealFormat.Write(words), at);
        }

        var end = SealFormat.Write(new ChainHead(assembly.Id, links.Count, previous, keys.Id));
        return new(
            assembly,
            runs,
            links,
            new()
            {
                AssemblyId = assembly.Id,
                Head = end,
                Signature = keys.Sign(end),
            },
            amendment
        );
    }

    private (string Record, RunRow Row) Test(
        int number,
        SealedCopy copy,
        AssemblyRow like,
        Guid id,
        AssemblyRow assembly,
        Account tester,
        DateTimeOffset begun
    )
    {
        if (number % Whole != 0)
            return doors.GetOrAdd(copy, _ => new(copy, like)).For(id, assembly, tester, begun);
        var run = copy.For(id, assembly, tester, begun, stopped: false);
        var row = BeginRun.Row(run.Setup);
        Projection.Write(row, run);
        return (SealedRunFormat.Write(run), row);
    }

    private string Seal(
        List<SealRow> links,
        long first,
        string previous,
        Guid assembly,
        Guid run,
        Guid? amendment,
        string record,
        DateTimeOffset at
    )
    {
        var link = new SealLink
        {
            Assembly = assembly,
            Sequence = links.Count + 1,
            Number = first + links.Count,
            Run = run,
            Amendment = amendment,
            Record = ContentHash.Compute(record),
            Previous = previous,
            At = at,
            Key = keys.Id,
        };
        var text = SealFormat.Write(link);
        var hash = ContentHash.Compute(text);
        links.Add(
            new()
            {
                Number = link.Number,
                AssemblyId = assembly,
                Sequence = link.Sequence,
                RunId = run,
                AmendmentId = amendment,
                Code = amendment is null ? ReportCode.Of(link.Record).Digits : null,
                Link = text,
                Hash = hash,
                Signature = keys.Sign(hash),
                Record = Packed.Pack(record),
            }
        );
        return hash;
    }

    private AssemblyRow Assembly(int index, AssemblyRow like, Random chance)
    {
        var place = places[chance.Next(places.Count)];
        return new()
        {
            Id = Id(chance),
            PlaceId = place.Id,
            Place = place,
            AuthorityId = like.AuthorityId,
            Authority = like.Authority,
            Tag = string.Create(CultureInfo.InvariantCulture, $"L-{100_000 + index}"),
            Type = like.Type,
            Make = like.Make,
            Model = like.Model,
            Size = like.Size,
            Serial = string.Create(
                CultureInfo.InvariantCulture,
                $"{(char)('A' + (index % 23))}{index * 7919L % 9_999_991:0000000}"
            ),
            Flow = like.Flow,
            Location = like.Location,
            Serves = Serves[chance.Next(Serves.Length)],
            Hazard = like.Hazard,
            Protection = like.Protection,
            FireLine = like.FireLine,
            Body = like.Body,
            Strainer = like.Strainer,
            FittedCocks = like.FittedCocks,
            BypassLine = like.BypassLine,
            ReliefPort = like.ReliefPort,
            InstalledOn = like.InstalledOn,
            HowToFind = like.HowToFind,
        };
    }

    private static bool Same(AssemblyRow a, AssemblyRow b) =>
        (a.Body, a.Strainer, a.FittedCocks, a.BypassLine, a.ReliefPort, a.AuthorityId)
        == (b.Body, b.Strainer, b.FittedCocks, b.BypassLine, b.ReliefPort, b.AuthorityId);

    private static Guid Id(Random chance)
    {
        Span<byte> bytes = stackalloc byte[16];
        chance.NextBytes(bytes);
        return new(bytes);
    }
}
