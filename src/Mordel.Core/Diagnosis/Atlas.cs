using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>A step of a school as an atlas holds it.</summary>
/// <param name="Key">Its path, without the attempt: <c>cv1.read/never-stops/cv1.bleed</c>.</param>
/// <param name="Title">What is done there.</param>
/// <param name="Sights">The ids of what may be seen there, in the sheet's order; at most fifteen.</param>
/// <param name="Items">What is taken or given there.</param>
/// <param name="Seconds">When a sound assembly's test has passed it, from the beginning of the test.</param>
public sealed record AtlasStep(
    string Key,
    string Title,
    ImmutableArray<string> Sights,
    ImmutableArray<TestItem> Items,
    int Seconds
)
{
    /// <summary>Whether it belongs to the main line, and something is decided there.</summary>
    public bool IsCheckpoint =>
        !Key.Contains('/', StringComparison.Ordinal) && Items.Any(i => i.Kind != ItemKind.LinePressure);
}

/// <summary>A school as an atlas holds it.</summary>
/// <param name="Id">The school.</param>
/// <param name="Steps">The steps at which something may be seen or is taken, in order; branches behind their step.
/// </param>
/// <param name="Items">The items it takes or gives.</param>
public sealed record AtlasSchool(string Id, ImmutableArray<AtlasStep> Steps, ImmutableArray<TestItem> Items);

/// <summary>What one case did under one school.</summary>
/// <param name="Steps">
/// For each step a bit for each of its sights that was met, and <see cref="AtlasRow.Reached"/> when it was come to.
/// </param>
/// <param name="Items">For each item its value in psid or psi; 0 bad, 1 good, 2 not shown; NaN when it was not got.
/// </param>
public sealed record SchoolRow(ushort[] Steps, float[] Items);

/// <summary>What one case did.</summary>
/// <param name="Set">Index of its faults.</param>
/// <param name="Springs">Its springs, psid, in the order of the type's own list.</param>
/// <param name="Supply">The main, psi.</param>
/// <param name="Outlets">What each look about the port showed.</param>
/// <param name="Schools">What each school's test gave; null where it was not performed.</param>
public sealed record AtlasRow(
    int Set,
    float[] Springs,
    float Supply,
    ImmutableArray<PortState> Outlets,
    ImmutableArray<SchoolRow?> Schools
)
{
    /// <summary>
    /// Whether nothing that eyes and gauge can tell is different: the same at the port, the same sights, no reading
    /// more than 0.3 psid apart.
    /// </summary>
    /// <param name="other">The other.</param>
    /// <param name="school">By which school both are tested.</param>
    public bool LooksLike(AtlasRow other, int school)
    {
        ArgumentNullException.ThrowIfNull(other);
        if (!Outlets.SequenceEqual(other.Outlets))
            return false;
        if (Schools[school] is { } mine && other.Schools[school] is { } theirs)
        {
            if (!mine.Steps.AsSpan().SequenceEqual(theirs.Steps))
                return false;
            for (var i = 0; i < mine.Items.Length; i++)
                if (
                    float.IsNaN(mine.Items[i]) != float.IsNaN(theirs.Items[i])
                    || Math.Abs(mine.Items[i] - theirs.Items[i]) > 0.3
                )
                    return false;
        }

        return true;
    }

    /// <summary>The bit that says that a step was come to.</summary>
    public const ushort Reached = 0x8000;
}

/// <summary>What the water model does in thousands of imagined assemblies of one body.</summary>
/// <param name="Body">The body.</param>
/// <param name="Model">Fingerprint of the model that made it.</param>
/// <param name="Sets">The fault sets.</param>
/// <param name="Schools">The schools.</param>
/// <param name="Rows">A row for each case.</param>
public sealed record Atlas(
    AssemblyBody Body,
    string Model,
    ImmutableArray<FaultSet> Sets,
    ImmutableArray<AtlasSchool> Schools,
    ImmutableArray<AtlasRow> Rows
)
{
    /// <summary>What it is called in a diagnosis: body and model.</summary>
    public string Name => $"{NameOf(Body)} {Model}";

    /// <summary>How many cases each set has.</summary>
    public ImmutableArray<int> Cases { get; } = [.. Count(Sets.Length, Rows)];

    /// <summary>The rows of a set: its cases stand together, in the order in which they were drawn.</summary>
    public IEnumerable<int> RowsOf(int set)
    {
        firsts ??= [.. Cases.Select((_, s) => Cases.Take(s).Sum())];
        return Enumerable.Range(firsts[set], Cases[set]);
    }

    /// <summary>The looks about the port, in the order of <see cref="AtlasRow.Outlets"/>.</summary>
    public ImmutableArray<string> PortLooks { get; } =
    [.. ServiceLooks.For(Body).Where(l => !l.CanShow.IsEmpty).Select(l => l.Id)];

    /// <summary>What a body's atlas is called: <c>RP/four-cock</c>, <c>DC</c>.</summary>
    public static string NameOf(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return body.Name == body.Type.Name ? body.Name : $"{body.Type.Name}/{body.Name}";
    }

    /// <summary>The file that holds it: <c>rp-four-cock.atlas</c>.</summary>
    public static string FileOf(AssemblyBody body) => $"{NameOf(body).Replace('/', '-').ToLowerInvariant()}.atlas";

    /// <summary>The parts with a spring, in the order of <see cref="AtlasRow.Springs"/>.</summary>
    public static ImmutableArray<PartId> SpringsOf(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return [.. body.Type.Facts().Drawn.Select(d => d.Part)];
    }

    /// <summary>The part whose spring an item reads; of no part where it reads none.</summary>
    public static PartId SpringOf(TestItem item) =>
        item == TestItem.Check1 || item == TestItem.Apparent ? Parts.Cv1
        : item == TestItem.Check2 ? Parts.Cv2
        : item == TestItem.ReliefOpening ? Parts.Relief
        : item == TestItem.AirInletOpening ? Parts.AirInlet
        : default;

    /// <summary>
    /// Whether a school's reading of an item is its part's spring, as it comes out of the sound cases: where a needle
    /// is first drawn down, it is not.
    /// </summary>
    public bool Follows(int school, TestItem item)
    {
        following ??= [.. Schools.SelectMany((s, at) => s.Items.Where(i => IsFollowed(at, i)).Select(i => (at, i)))];
        return following.Contains((school, item));
    }

    /// <summary>
    /// What the spring of an item's part holds, psid, where a school read so much at a sound assembly; null where the
    /// reading does not follow the spring, or no sound spring is so.
    /// </summary>
    /// <param name="procedure">The school.</param>
    /// <param name="item">The item.</param>
    /// <param name="psid">What was read.</param>
    public double? SpringBy(string procedure, TestItem item, double psid)
    {
        var school = RowFit.SchoolOf(this, procedure);
        if (school < 0 || !Schools[school].Items.Contains(item) || !Follows(school, item))
            return null;
        var above = SoundPairs(school, item).Average(p => p.Read - p.Spring);
        var (low, high) = AtlasCase.SpringRange(Body, SpringOf(item), worn: false);
        return psid - above is var spring && spring >= low && spring <= high ? spring : null;
    }

    // Made by whoever asks first; two who ask at once make the same.
    private int[]? firsts;
    private HashSet<(int School, TestItem Item)>? following;

    private bool IsFollowed(int school, TestItem item)
    {
        var sound = SoundPairs(school, item);
        if (sound.Count < 4)
            return false;
        var (x, y) = (sound.Average(p => p.Spring), sound.Average(p => p.Read));
        var across = sound.Sum(p => (p.Spring - x) * (p.Spring - x));
        return across > 0 && sound.Sum(p => (p.Spring - x) * (p.Read - y)) / across > 0.7;
    }

    // What sound cases hold and what is read of them; nothing where the item reads no spring.
    private List<(double Spring, double Read)> SoundPairs(int school, TestItem item)
    {
        var spring = SpringsOf(Body).IndexOf(SpringOf(item));
        var at = Schools[school].Items.IndexOf(item);
        return spring < 0
            ? []
            :
            [
                .. Rows.Where(r => Sets[r.Set].Faults.IsEmpty && r.Schools[school] is not null)
                    .Select(r => ((double)r.Springs[spring], (double)r.Schools[school]!.Items[at]))
                    .Where(p => !double.IsNaN(p.Item2)),
            ];
    }

    private static int[] Count(int sets, ImmutableArray<AtlasRow> rows)
    {
        var counts = new int[sets];
        foreach (var row in rows)
            counts[row.Set]++;
        return counts;
    }
}
