using System.Collections.Immutable;
using System.Globalization;
using System.Runtime.CompilerServices;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>
/// The steps of a school at which something is decided, and what each row shows up to there, as one number: rows that
/// show the same have the same.
/// </summary>
internal sealed class Checkpoints
{
    private static readonly ConditionalWeakTable<Atlas, Checkpoints[]> Known = [];

    private readonly AtlasSchool school;

    private Checkpoints(Atlas atlas, int at)
    {
        school = atlas.Schools[at];
        for (var step = 0; step < school.Steps.Length; step++)
            if (school.Steps[step].IsCheckpoint)
                Points.Add(Make(atlas, at, step));
    }

    /// <summary>A checkpoint.</summary>
    /// <param name="Step">Its index among the school's steps.</param>
    /// <param name="Shows">For each row what it shows up to here; -1 where the school was not performed.</param>
    /// <param name="Words">What that is, in words.</param>
    public sealed record Point(int Step, int[] Shows, ImmutableArray<string> Words);

    /// <summary>The checkpoints in order.</summary>
    public List<Point> Points { get; } = [];

    /// <summary>The checkpoints of a school of an atlas.</summary>
    public static Checkpoints Of(Atlas atlas, int school) =>
        Known.GetValue(atlas, a => [.. Enumerable.Range(0, a.Schools.Length).Select(s => new Checkpoints(a, s))])[
            school
        ];

    // Where a reading changes its meaning, psid: zero, then the least that any rule asks for.
    private static double[] Edges(TestItem item, bool relief) =>
        item.Kind != ItemKind.Differential ? []
        : item == TestItem.ReliefOpening ? [0.15, 2]
        : relief && (item == TestItem.Check1 || item == TestItem.Apparent) ? [0.15, 2.2, 5]
        : [0.15, 1];

    private Point Make(Atlas atlas, int at, int upTo)
    {
        var relief = ServiceLooks.PortOf(atlas.Body) == Parts.Relief;
        // Branches stand right behind their step.
        var until = upTo + 1;
        while (
            until < school.Steps.Length
            && school.Steps[until].Key.StartsWith(school.Steps[upTo].Key + "/", StringComparison.Ordinal)
        )
            until++;
        var items = school
            .Steps.Take(until)
            .SelectMany(s => s.Items)
            .Distinct()
            .Where(i => i.Kind is not (ItemKind.LinePressure or ItemKind.Length) && i != TestItem.ReliefBuffer)
            .Select(i => (Item: i, At: school.Items.IndexOf(i), Edges: Edges(i, relief)))
            .Where(i => i.At >= 0)
            .ToList();
        var numbers = new Dictionary<string, int>();
        var words = ImmutableArray.CreateBuilder<string>();
        var shows = new int[atlas.Rows.Length];
        for (var r = 0; r < shows.Length; r++)
        {
            if (atlas.Rows[r].Schools[at] is not { } test)
            {
                shows[r] = -1;
                continue;
            }

            var sights = Sights(test, until);
            var values = items.Select(i => Text(i.Item, test.Items[i.At], i.Edges)).OfType<string>().ToList();
            var key = string.Join('|', sights.Select(s => $"{s.Step}: {s.Sight}").Concat(values));
            if (!numbers.TryGetValue(key, out var number))
            {
                numbers[key] = number = words.Count;
                words.Add(
                    string.Join(
                        "; ",
                        sights
                            .TakeLast(1)
                            .Select(s => SheetWords.Seen(school.Id, s.Step, s.Sight))
                            .Concat(values.TakeLast(2))
                    )
                );
            }

            shows[r] = number;
        }

        return new(upTo, shows, words.ToImmutable());
    }

    private List<(string Step, string Sight)> Sights(SchoolRow test, int until)
    {
        var sights = new List<(string, string)>();
        for (var step = 0; step < until; step++)
        for (var bit = 0; bit < school.Steps[step].Sights.Length; bit++)
            if ((test.Steps[step] & (1 << bit)) != 0)
                sights.Add((school.Steps[step].Key, school.Steps[step].Sights[bit]));
        return sights;
    }

    private static string? Text(TestItem item, float value, double[] edges)
    {
        if (float.IsNaN(value))
            return null;
        if (item.Kind == ItemKind.TightOrLeaks)
            return $"{item.Id}: {(value < 0.5 ? "leaks" : value < 1.5 ? "tight" : "not-shown")}";
        if (item.Kind == ItemKind.TrueOrFalse)
            return $"{item.Id}: {(value > 0.5 ? "true" : "false")}";
        for (var i = 0; i < edges.Length; i++)
            if (value < edges[i])
                return i == 0
                    ? $"{item.Id}: near zero"
                    : string.Create(CultureInfo.InvariantCulture, $"{item.Id}: below {edges[i]}");
        return string.Create(CultureInfo.InvariantCulture, $"{item.Id}: {edges[^1]} or more");
    }
}
