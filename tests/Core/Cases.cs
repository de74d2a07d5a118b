namespace Mordel.Core.Tests;

/// <summary>
/// How many cases a property is tried with: a third in an ordinary run, so that it stays quick, all of them with
/// <c>MORDEL_THOROUGH=1</c>. The cases are drawn anew each time; a failing one prints its seed.
/// </summary>
public static class Cases
{
    private const int Part = 3;

    private static readonly bool Thorough = Environment.GetEnvironmentVariable("MORDEL_THOROUGH") == "1";

    /// <summary>So many, or a third of them, at least one.</summary>
    public static int Of(int all) => Thorough ? all : (all + Part - 1) / Part;

    /// <summary>All of a list, or every third from a place that the name decides: together names cover it.</summary>
    public static IEnumerable<T> Of<T>(IReadOnlyList<T> all, string name) =>
        Thorough ? all : all.Where((_, i) => i % Part == name.Sum(c => c) % Part);
}
