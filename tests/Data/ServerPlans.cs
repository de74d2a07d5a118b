using System.Data.Common;
using System.Text.RegularExpressions;
using Npgsql;

namespace Mordel.Data.Tests;

/// <summary>
/// How a server would answer a question, in the words of a file's plans. Its tables here are so small that it would
/// look through them all whatever there is: that is made dear, and so are joins that read two tables to their ends, so
/// that it is left only where no index serves.
/// </summary>
internal static partial class ServerPlans
{
    public static string[] Of(DbCommand command, string sql)
    {
        Do(command, "SET enable_seqscan = off; SET enable_mergejoin = off; SET enable_hashjoin = off");
        using var explain = Beside(command, $"EXPLAIN {sql}");
        foreach (NpgsqlParameter parameter in command.Parameters)
            explain.Parameters.Add(parameter.Clone());
        var lines = new List<string>();
        using (var rows = explain.ExecuteReader())
            while (rows.Read())
                lines.Add(rows.GetString(0));
        Do(command, "RESET enable_seqscan; RESET enable_mergejoin; RESET enable_hashjoin");
        return InWords(lines);
    }

    /// <summary>
    /// A plan's lines: a table that is looked through as <c>SCAN Runs</c>; so is one that is gone through along its
    /// ids, which have no order that anybody asks for.
    /// </summary>
    public static string[] InWords(IReadOnlyList<string> lines) =>
        [
            .. lines.Select(
                (line, i) =>
                    Through().Match(line) is { Success: true } through ? $"SCAN {through.Groups[1].Value}"
                    : AlongIds().Match(line) is { Success: true } ids
                    && !(i + 1 < lines.Count && lines[i + 1].Contains("Index Cond", StringComparison.Ordinal))
                        ? $"SCAN {ids.Groups[1].Value}"
                    : ReadWhole(lines, i) is { } table ? $"SCAN {table}"
                    : line
            ),
        ];

    // What stands below a condition that is answered from a table read once, from end to end.
    private static string? ReadWhole(IReadOnlyList<string> lines, int at) =>
        Any().Match(lines[at]) is { Success: true } any
        && at > 0
        && lines[at - 1].TrimStart().StartsWith("SubPlan", StringComparison.Ordinal)
        && !(at + 1 < lines.Count && lines[at + 1].Contains("Index Cond", StringComparison.Ordinal))
            ? any.Groups[1].Value
            : null;

    [GeneratedRegex("""Scan using "\w+" on "?(\w+)"?""")]
    private static partial Regex Any();

    private static void Do(DbCommand command, string sql)
    {
        using var setting = Beside(command, sql);
        setting.ExecuteNonQuery();
    }

    private static NpgsqlCommand Beside(DbCommand command, string sql) =>
        new(sql, (NpgsqlConnection)command.Connection!, (NpgsqlTransaction?)command.Transaction);

    [GeneratedRegex("""Seq Scan on "?(\w+)"?""")]
    private static partial Regex Through();

    [GeneratedRegex("""Index (?:Only )?Scan using "PK_\w+" on "?(\w+)"?""")]
    private static partial Regex AlongIds();
}
