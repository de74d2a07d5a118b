using System.Globalization;

namespace Mordel.Core.Tests;

/// <summary>
/// How many cases are tried. <c>./mordel prove</c> tries all (<c>MORDEL_THOROUGH=1</c>); an ordinary run tries a
/// sample that the seed decides and that another run draws otherwise, <c>./mordel test quick</c> a quarter of that
/// (<c>MORDEL_QUICK=1</c>). <c>./mordel test</c> prints the seed;
/// <c>MORDEL_SEED</c> gives the same sample again. Properties draw their cases anew each time and print what failed.
/// </summary>
public static class Cases
{
    // One case in so many of a property or of a list inside a test; one row in so many of a test with rows.
    private static readonly int Fewer = Environment.GetEnvironmentVariable("MORDEL_QUICK") == "1" ? 4 : 1;
    private static readonly int Part = 20 * Fewer,
        RowsPart = 12 * Fewer;

    private static readonly bool Thorough = Environment.GetEnvironmentVariable("MORDEL_THOROUGH") == "1";

    internal static readonly int Seed = int.TryParse(
        Environment.GetEnvironmentVariable("MORDEL_SEED"),
        CultureInfo.InvariantCulture,
        out var seed
    )
        ? seed
        : Environment.ProcessId;

    /// <summary>So many, or a part of them, at least one.</summary>
    public static int Of(int all) => Thorough ? all : (all + Part - 1) / Part;

    /// <summary>All of a list, or a sample that seed and name decide: at least one.</summary>
    public static IEnumerable<T> Of<T>(IReadOnlyList<T> all, string name) => Sample(all, name, Part);

    /// <summary>All rows of a test, or a sample of them.</summary>
    public static IEnumerable<T> Rows<T>(IEnumerable<T> all, string name) => Sample([.. all], name, RowsPart);

    private static IEnumerable<T> Sample<T>(IReadOnlyList<T> all, string name, int part)
    {
        if (Thorough || all.Count <= 1)
            return all;
        var from = ((Seed % part) + name.Sum(c => c)) % Math.Min(part, all.Count);
        return all.Where((_, i) => i % part == from);
    }
}
