using Mordel.Core.Register;

namespace Mordel.Data.Commands.Imports;

/// <summary>The lines of a file that were read so far: what the next one may repeat.</summary>
public sealed class SeenLines
{
    private readonly Dictionary<string, int> serials = new(StringComparer.Ordinal);
    private readonly HashSet<(string Serial, string Day, string Outcome, string Source)> tests = [];

    /// <summary>The line that had the same serial first; null where none had.</summary>
    public int? LineOf(ImportLine line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return serials.TryGetValue(Key(line), out var number) ? number : null;
    }

    /// <summary>Whether a line before had the same test of the same assembly.</summary>
    public bool HasTest(ImportLine line)
    {
        ArgumentNullException.ThrowIfNull(line);
        return tests.Contains(Test(line));
    }

    /// <summary>Takes a line into account.</summary>
    public void Add(ImportLine line)
    {
        ArgumentNullException.ThrowIfNull(line);
        if (!line.Wrong.IsEmpty)
            return;
        serials.TryAdd(Key(line), line.Number);
        if (line[TestFields.TestDay] is not null)
            tests.Add(Test(line));
    }

    private static string Key(ImportLine line) => SerialKeys.Of(line[AssemblyFields.Serial]!);

    private static (string, string, string, string) Test(ImportLine line) =>
        (
            Key(line) + line[AssemblyFields.Tag],
            line[TestFields.TestDay]!,
            line[TestFields.Outcome] ?? "",
            line[TestFields.Source] ?? ""
        );
}
