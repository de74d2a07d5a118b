using System.Text.RegularExpressions;
using Mordel.Core.Catalogue;

namespace Mordel.Web.Tests;

/// <summary>What is true of the sources as text: how wide they are, and where names of the field may stand.</summary>
public partial class SourcesTests
{
    private const int Columns = 120;

    private static IEnumerable<(string Path, string[] Lines)> Sources(params string[] endings) =>
        from folder in new[] { "src", "tests", "bench", "tools" }
        from file in Directory.EnumerateFiles(Repository.At(folder), "*", SearchOption.AllDirectories)
        let path = Path.GetRelativePath(Repository.Root, file).Replace('\\', '/')
        where endings.Any(e => path.EndsWith(e, StringComparison.Ordinal))
        where !Made().IsMatch(path)
        select (path, File.ReadAllLines(file));

    // What tools write, and libraries of others.
    [GeneratedRegex("/(Migrations|CompiledModel|obj|bin|lib|fonts|node_modules|artifacts)/")]
    private static partial Regex Made();

    [Fact]
    public void Lines_can_be_read_without_scrolling() =>
        Assert.Empty(
            from source in Sources(".cs", ".cshtml", ".js", ".mjs", ".css")
            from line in source.Lines.Select((text, i) => (text, i))
            where line.text.Length > Columns
            where !(source.Path.StartsWith("tests/", StringComparison.Ordinal) && IsText().IsMatch(line.text))
            select $"{source.Path}:{line.i + 1} has {line.text.Length} columns"
        );

    // What a test gives or expects, and the sentence it is named with, may stand on one line however long it is.
    [GeneratedRegex("""^\s*(?:\+ )?(?:\$*"|`|'|\{"|"?[a-z]+"?:|test\(|<)|""\"|\[InlineData\(""")]
    private static partial Regex IsText();

    [Fact]
    public void A_namespace_holds_for_its_whole_file() =>
        Assert.Empty(
            from source in Sources(".cs")
            from line in source.Lines
            where line.StartsWith("namespace ", StringComparison.Ordinal) && !line.EndsWith(';')
            select $"{source.Path}: {line}"
        );

    [Fact]
    public void A_file_holds_one_idea_and_300_lines_at_most() =>
        Assert.Empty(
            from source in Sources(".cs", ".cshtml", ".js")
            where source.Path.StartsWith("src/", StringComparison.Ordinal) && source.Lines.Length > 300
            select $"{source.Path} has {source.Lines.Length} lines"
        );

    private static string Types => string.Join('|', AssemblyTypes.All.Select(t => t.Type.Name));

    // Facts of a type stand in the catalogue, its procedures and limits with its schools, and a made-up town has some.
    [Fact]
    public void Nothing_but_the_catalogue_the_schools_and_the_demo_knows_a_type_by_name()
    {
        var name = new Regex($"AssemblyTypes\\.({Types})\\b|\"({Types})\"|'({Types})'");
        Assert.Empty(
            from source in Sources(".cs", ".cshtml", ".js")
            where source.Path.StartsWith("src/", StringComparison.Ordinal)
            where
                !source.Path.StartsWith("src/Mordel.Core/Catalogue/", StringComparison.Ordinal)
                && !source.Path.StartsWith("src/Mordel.Core/Schools/", StringComparison.Ordinal)
                && !source.Path.StartsWith("src/Mordel.DemoData/", StringComparison.Ordinal)
            from line in source.Lines.Select((text, i) => (text, i))
            where name.IsMatch(line.text)
            select $"{source.Path}:{line.i + 1} {line.text.Trim()}"
        );
    }

    [Fact]
    public void Findings_are_named_in_the_catalogue_alone()
    {
        var name = new Regex($"[\"']({string.Join('|', FindingKind.All.Select(f => f.Id))})[\"']");
        Assert.Empty(
            from source in Sources(".cs", ".cshtml", ".js")
            where source.Path.StartsWith("src/", StringComparison.Ordinal)
            where source.Path != "src/Mordel.Core/Catalogue/FindingKind.cs"
            from line in source.Lines.Select((text, i) => (text, i))
            where name.IsMatch(line.text)
            // A fault of a kit bears the same name as what is found of it.
            where !line.text.Contains("FaultKind.HosesSwapped", StringComparison.Ordinal)
            select $"{source.Path}:{line.i + 1} {line.text.Trim()}"
        );
    }

    [Fact]
    public void No_script_knows_a_step_a_part_or_a_limit() =>
        Assert.Empty(
            from source in Sources(".js")
            where source.Path.StartsWith("src/", StringComparison.Ordinal)
            from line in source.Lines.Select((text, i) => (text, i))
            where StepOrPart().IsMatch(line.text)
            select $"{source.Path}:{line.i + 1} {line.text.Trim()}"
        );

    [Fact]
    public void What_the_scripts_of_the_bench_call_is_exported()
    {
        var exported = Sources(".cs")
            .Where(s => s.Path.StartsWith("src/Mordel.Browser/", StringComparison.Ordinal))
            .SelectMany(s => Exported().Matches(string.Join('\n', s.Lines)).Select(m => m.Groups[1].Value))
            .ToHashSet();
        var called =
            from source in Sources(".js", ".mjs")
            where source.Path.Contains("/wwwroot/js/", StringComparison.Ordinal)
            from line in source.Lines
            from Match call in Called().Matches(line)
            select call.Groups[1].Value;
        Assert.NotEmpty(called);
        Assert.Empty(called.Distinct().Except(exported));
    }

    [GeneratedRegex(@"\[JSExport\][\s\S]*?\bpublic static \S+ (\w+)\(")]
    private static partial Regex Exported();

    [GeneratedRegex(@"\bdoor\.([A-Z]\w*)\(")]
    private static partial Regex Called();

    // A step's id, a part's name, an item's.
    [GeneratedRegex(
        "['\"`](?:[a-z0-9]+\\.(?:read|shut|fill|leave|hook|test|feed|flush|so[12])|so[12]|tc[1-4]|t[1-3]|cv[12]|rv|ai|"
            + "vent-screw|(?:high|low|bypass)-(?:hose|control|bleed)|sight-tube|bleed-off|check-[12]|relief-opening)['\"`]"
    )]
    private static partial Regex StepOrPart();
}
