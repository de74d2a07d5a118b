using System.Collections.Immutable;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Training;

/// <summary>One thing that a learner's test is marked for.</summary>
/// <param name="Id">Stable name: <c>check-1.height</c>.</param>
/// <param name="Title">What is wanted, in a few words.</param>
/// <param name="Earned">Whether it was so.</param>
/// <param name="Weight">Points.</param>
/// <param name="At">The tick at which the replay shows it.</param>
/// <param name="Says">What the water did.</param>
/// <param name="EndsIt">Whether losing it ends an exam whatever else was earned.</param>
public sealed record MarkLine(
    string Id,
    string Title,
    bool Earned,
    int Weight,
    int At,
    string Says,
    bool EndsIt = false
);

/// <summary>A learner's test, marked.</summary>
/// <param name="Marks">One by one, in the order of the test.</param>
/// <param name="Examiner">The verdict of a careful tester on the same rig.</param>
/// <param name="Truth">What was wrong with the rig, in words.</param>
/// <param name="Seconds">How long it took.</param>
public sealed record MarkSheet(
    ImmutableArray<MarkLine> Marks,
    Overall Examiner,
    ImmutableArray<string> Truth,
    double Seconds
)
{
    /// <summary>Points earned.</summary>
    public int Points => Marks.Where(m => m.Earned).Sum(m => m.Weight);

    /// <summary>Points there were.</summary>
    public int Of => Marks.Sum(m => m.Weight);

    /// <summary>Points of a hundred.</summary>
    public int Percent => Of == 0 ? 0 : 100 * Points / Of;

    /// <summary>Whether it is enough: four fifths, and nothing that ends an exam.</summary>
    public bool Passed => Percent >= 80 && !Marks.Any(m => m.EndsIt && !m.Earned);
}
