using System.Globalization;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;

namespace Mordel.Validation;

/// <summary>Short words for scenarios: <c>"cv1 leaks weep, so2 leaks; open -60; springs cv1=0.9"</c>.</summary>
public static class Bench
{
    /// <summary>The scenario that a line of words describes.</summary>
    /// <param name="procedure">School.</param>
    /// <param name="kit">Kit.</param>
    /// <param name="words">Faults, separated by commas; then, each after a semicolon, the site, the supply and the
    /// springs.</param>
    /// <param name="scale">Leaks, openings, compliances, as factors.</param>
    public static Scenario Set(
        string procedure,
        string kit,
        string words,
        (double Leaks, double Openings, double Gives)? scale = null
    )
    {
        var parts = words.Split(';', StringSplitOptions.TrimEntries);
        var faults = parts[0]
            .Split(',', StringSplitOptions.TrimEntries | StringSplitOptions.RemoveEmptyEntries)
            .Select(InputError);
        var (site, supply, springs) = ("""{"demand":"none"}""", "60", "");
        foreach (var more in parts.Skip(1))
        {
            var word = more.Split(' ', 2);
            switch (word[0])
            {
                case "open":
                    site =
                        word.Length > 1
                            ? $$"""{"demand":"open","outlet":{"value":{{word[1]}},"unit":"in"} }"""
                            : """{"demand":"open"}""";
                    break;
                case "pressure":
                    site = $$"""{"back-pressure":{"value":{{word[1]}},"unit":"psi"} }""";
                    break;
                case "supply":
                    supply = word[1];
                    break;
                case "springs":
                    springs =
                        $",\"springs\":{{"
                        + $"{string.Join(',', word[1].Split(' ').Select(s => s.Split('=')).Select(s => $"\"{s[0]}\":{s[1]}"))}}}";
                    break;
                default:
                    throw new ArgumentException($"{more}: open, pressure, supply or springs", nameof(words));
            }
        }

        var (l, o, g) = scale ?? (1, 1, 1);
        var json = $$"""
            {"format":"mordel.scenario/1","assembly":{"type":"{{SchoolCatalogue.Named(
                procedure
            )!.Type}}"{{springs}}},"supply":{"value":{{supply}},"unit":"psi"},"site":{{site}},
             "faults":[{{string.Join(
                ',',
                faults
            )}}],"procedure":"{{procedure}}","kit":"{{kit}}","scale":{"leaks":{{Text(l)}},"openings":{{Text(
                o
            )}},"compliances":{{Text(g)}} } }
            """;
        return ScenarioFormat.Read(json, out var wrong)
            ?? throw new ArgumentException(string.Join("; ", wrong), nameof(words));
    }

    private static string Text(double value) => value.ToString("0.####", CultureInfo.InvariantCulture);

    private static string InputError(string words)
    {
        var w = words.Split(' ');
        var more =
            w.Length < 3
                ? ""
                : w[1] switch
                {
                    "zero-offset" => $",\"by\":{w[2]}",
                    "gauge-height" => $",\"inches\":{w[2]}",
                    _ => $",\"size\":\"{w[2]}\"",
                };
        return $$"""{"part":"{{w[0]}}","fault":"{{w[1]}}"{{more}}}""";
    }

    /// <summary>The kits that a school can be done with, the five-valve one first where it is one of them.</summary>
    public static IEnumerable<string> KitsOf(string procedure)
    {
        var school = SchoolCatalogue.Named(procedure)!;
        return Kit.All.Where(k => school.Kits.Contains(k.Kind)).Select(k => k.Name);
    }

    /// <summary>A model of a rig alone, without a tester.</summary>
    public static WaterModel Water(string procedure, string words) =>
        new(Set(procedure, KitsOf(procedure).First(), words).Situation);
}
