using System.Collections.Concurrent;
using System.Globalization;
using System.Text;
using Mordel.Core.Catalogue;

namespace Mordel.Validation;

/// <summary>
/// The table of what is seen, made by performing every row with every kit, and with all leaks, openings and compliances
/// shifted.
/// </summary>
public static class Table
{
    /// <summary>By how much everything is shifted: leaks, openings, compliances.</summary>
    public static IReadOnlyList<(string Name, (double Leaks, double Openings, double Gives) By)> Shifts { get; } =
    [
        ("leaks ÷ 3", (1 / 3.0, 1, 1)),
        ("leaks × 3", (3, 1, 1)),
        ("openings ÷ 2", (1, 0.5, 1)),
        ("openings × 2", (1, 2, 1)),
        ("compliances ÷ 3", (1, 1, 1 / 3.0)),
        ("compliances × 3", (1, 1, 3)),
    ];

    /// <summary>Prints the rows that miss something, and those whose findings hang on a constant.</summary>
    /// <param name="only">Part of a school's name.</param>
    public static int Try(string only)
    {
        var missing = 0;
        Parallel.ForEach(ChapterFour.Rows.Where(r => r.Procedure.Contains(only, StringComparison.Ordinal)), row =>
        {
            foreach (var kit in Bench.KitsOf(row.Procedure))
                Say(row.Missing(Bench.Set(row.Procedure, kit, row.Set).Perform()), kit);
            foreach (var (name, by) in Shifts)
                Say(Shifted(row, by), name);
            void Say(string wrong, string where)
            {
                if (wrong.Length == 0)
                    return;
                Interlocked.Increment(ref missing);
                Console.WriteLine($"{row.Procedure} {where} \"{row.Set}\": {wrong}");
            }
        });
        Console.WriteLine($"{missing} missing");
        return missing == 0 ? 0 : 1;
    }

    /// <summary>What a row finds otherwise when everything is shifted; empty when it finds the same.</summary>
    public static string Shifted(Row row, (double Leaks, double Openings, double Gives) by)
    {
        ArgumentNullException.ThrowIfNull(row);
        return (row with { Sights = "" }).Missing(
            Bench.Set(row.Procedure, Bench.KitsOf(row.Procedure).First(), row.Set, by).Perform()
        );
    }

    /// <summary>Writes the table.</summary>
    public static int Write(string file)
    {
        var done = new ConcurrentDictionary<Row, (string Line, string Problems)>();
        Parallel.ForEach(ChapterFour.Rows, row => done[row] = Perform(row));
        var text = new StringBuilder(
            """
            # What is seen when something is wrong: the handbook's rows, performed

            Made by `dotnet run -c Release --project tests/Validation -- table`; do not edit. Each row is performed by
            the simulated tester on the water, with every kit the school can be done with. *Set* is what was put wrong
            (leaks are `small` unless said; the site is closed unless said); *met* are the sights as `step>sight`; the
            numbers are those of the first kit, psid before rounding. *Shifted* repeats the row with all leaks a third
            and three times, all openings half and twice, all compliances a third and three times: the findings must
            stay.

            """
        );
        foreach (var school in ChapterFour.Rows.GroupBy(r => r.Procedure))
        {
            text.AppendLine(
                CultureInfo.InvariantCulture,
                $"\n## {school.Key}\n\n| seen, and what it means | set | met | found | verdict | numbers | kits | "
                    + $"shifted |\n| --- | --- | --- | --- | --- | --- | --- | --- |"
            );
            foreach (var row in school)
                text.AppendLine(done[row].Line);
        }

        text.AppendLine("\n## Where the water disagrees with the book, or says more\n");
        foreach (var row in ChapterFour.Rows.Where(r => r.WhatIf.Length > 0))
            text.AppendLine(CultureInfo.InvariantCulture, $"- **{row.Procedure}, {row.Seen}.** {row.WhatIf}");
        text.AppendLine(InService.Section());
        File.WriteAllText(file, text.ToString());
        var problems = done.Values.Where(d => d.Problems.Length > 0).Select(d => d.Problems).ToList();
        foreach (var problem in problems)
            Console.WriteLine(problem);
        Console.WriteLine($"{file}: {ChapterFour.Rows.Count} rows, {problems.Count} of them otherwise than expected");
        return problems.Count == 0 ? 0 : 1;
    }

    private static (string Line, string Problems) Perform(Row row)
    {
        var kits = Bench
            .KitsOf(row.Procedure)
            .Select(k => (Kit: k, Outcome: Bench.Set(row.Procedure, k, row.Set).Perform()))
            .ToList();
        var wrong = kits.Select(k => (k.Kit, Missing: row.Missing(k.Outcome)))
            .Where(k => k.Missing.Length > 0)
            .Select(k => $"{k.Kit}: {k.Missing}")
            .ToList();
        var shifted = Shifts
            .Select(s => (s.Name, Missing: Shifted(row, s.By)))
            .Where(s => s.Missing.Length > 0)
            .Select(s => $"{s.Name}: {s.Missing}")
            .ToList();
        var first = kits[0].Outcome;
        var numbers = string.Join(
            ", ",
            TestItem
                .All.Where(i => first.Exact.ContainsKey(i))
                .Select(i => $"{i.Id} {first.Exact[i].ToString("0.000", CultureInfo.InvariantCulture)}")
        );
        var line =
            $"| {row.Seen} | `{(row.Set.Length == 0 ? "sound" : row.Set.TrimStart(';', ' '))}` | "
            + $"{Code(first.Met.Select(Row.Name))} | {Code(first.Findings.Select(f => f.Id))} | "
            + $"{first.Verdict.Overall.ToString().ToLowerInvariant()} | {numbers} | "
            + $"{(wrong.Count == 0 ? $"all {kits.Count} agree" : string.Join("; ", wrong))} | "
            + $"{(shifted.Count == 0 ? "same" : string.Join("; ", shifted))} |";
        return (
            line,
            string.Join(Environment.NewLine, wrong.Concat(shifted).Select(w => $"{row.Procedure} \"{row.Set}\" {w}"))
        );
    }

    private static string Code(IEnumerable<string> words) => string.Join(" ", words.Select(w => $"`{w}`"));
}
