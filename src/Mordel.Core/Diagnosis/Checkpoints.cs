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
    private static readonly ConditionalWeakTable<Atlas, Checkpoints?[]> Known = [];

    private readonly Atlas atlas;
    private readonly AtlasSchool school;
    private readonly int at;
    private readonly bool relief;

    private Checkpoints(Atlas atlas, int at)
    {
        (this.atlas, this.at) = (atlas, at);
        school = atlas.Schools[at];
        relief = ServiceLooks.PortOf(atlas.Body) == Parts.Relief;
        for (var step = 0; step < school.Steps.Length; step++)
            if (school.Steps[step].IsCheckpoint)
                Points.Add(Make(step));
    }

    /// <summary>A checkpoint.</summary>
    /// <param name="Step">Its index among the school's steps.</param>
    /// <param name="Until">The first step that is not passed there.</param>
    /// <param name="Shows">For each row what it shows up to here; -1 where the school was not performed.</param>
    /// <param name="Rows">For each of these a row that shows it.</param>
    public sealed record Point(int Step, int Until, int[] Shows, ImmutableArray<int> Rows);

    /// <summary>The checkpoints in order.</summary>
    public List<Point> Points { get; } = [];

    /// <summary>The checkpoints of a school of an atlas.</summary>
    public static Checkpoints Of(Atlas atlas, int school)
    {
        // Two who ask at once make the same.
        var known = Known.GetValue(atlas, a => new Checkpoints?[a.Schools.Length]);
        return known[school] ??= new(atlas, school);
    }

    /// <summary>What is shown at a checkpoint, in words: the last sight, the last two answers.</summary>
    public string Words(Point point, int shown)
    {
        var test = atlas.Rows[point.Rows[shown]].Schools[at]!;
        var values = Items(point.Until).Select(i => Text(i.Item, test.Items[i.At], i.Edges)).OfType<string>();
        return string.Join(
            "; ",
            Sights(test, point.Until)
                .TakeLast(1)
                .Select(s => SheetWords.Seen(school.Id, s.Step, s.Sight))
                .Concat(values.TakeLast(2))
        );
    }

    // Where a reading changes its meaning, psid: zero, then the least that any rule asks for.
    private static double[] Edges(TestItem item, bool relief) =>
        item.Kind != ItemKind.Differential ? []
        : item == TestItem.ReliefOpening ? [0.15, 2]
        : relief && (item == TestItem.Check1 || item == TestItem.Apparent) ? [0.15, 2.2, 5]
        : [0.15, 1];

    private Point Make(int upTo)
    {
        // Branches stand right behind their step.
        var until = upTo + 1;
        while (
            until < school.Steps.Length
            && school.Steps[until].Key.StartsWith(school.Steps[upTo].Key + "/", StringComparison.Ordinal)
        )
            until++;
        var items = Items(until);
        var numbers = new Dictionary<ulong, int>();
        var rows = ImmutableArray.CreateBuilder<int>();
        var shows = new int[atlas.Rows.Length];
        for (var r = 0; r < shows.Length; r++)
        {
            if (atlas.Rows[r].Schools[at] is not { } test)
            {
                shows[r] = -1;
                continue;
            }

            var key = Fingerprint(test, until, items);
            if (!numbers.TryGetValue(key, out var number))
            {
                numbers[key] = number = rows.Count;
                rows.Add(r);
            }

            shows[r] = number;
        }

        return new(upTo, until, shows, rows.ToImmutable());
    }

    private List<(TestItem Item, int At, double[] Edges)> Items(int until) =>
        [
            .. school
                .Steps.Take(until)
                .SelectMany(s => s.Items)
                .Distinct()
                .Where(i => i.Kind is not (ItemKind.LinePressure or ItemKind.Length) && i != TestItem.ReliefBuffer)
                .Select(i => (Item: i, At: school.Items.IndexOf(i), Edges: Edges(i, relief)))
                .Where(i => i.At >= 0),
        ];

    // One number for all sights and answers up to a step: FNV-1a, 64 bits.
    private static ulong Fingerprint(SchoolRow test, int until, List<(TestItem Item, int At, double[] Edges)> items)
    {
        var hash = 14695981039346656037UL;
        for (var step = 0; step < until; step++)
            hash = (hash ^ (ushort)(test.Steps[step] & ~AtlasRow.Reached)) * 1099511628211UL;
        foreach (var (item, column, edges) in items)
            hash = (hash ^ (ulong)Grade(item, test.Items[column], edges)) * 1099511628211UL;
        return hash;
    }

    // Between which edges an answer lies, from 1; 0 where none was got.
    private static int Grade(TestItem item, float value, double[] edges)
    {
        if (float.IsNaN(value))
            return 0;
        if (item.Kind != ItemKind.Differential)
            return 1 + (int)Math.Round(value);
        var grade = 1;
        foreach (var edge in edges)
            grade += value < edge ? 0 : 1;
        return grade;
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
        var grade = Grade(item, value, edges);
        if (grade == 0)
            return null;
        if (item.Kind == ItemKind.TightOrLeaks)
            return $"{item.Id}: {(grade == 1 ? "leaks" : grade == 2 ? "tight" : "not-shown")}";
        if (item.Kind == ItemKind.TrueOrFalse)
            return $"{item.Id}: {(grade > 1 ? "true" : "false")}";
        return grade == 1 ? $"{item.Id}: near zero"
            : grade <= edges.Length
                ? string.Create(CultureInfo.InvariantCulture, $"{item.Id}: below {edges[grade - 1]}")
            : string.Create(CultureInfo.InvariantCulture, $"{item.Id}: {edges[^1]} or more");
    }
}
