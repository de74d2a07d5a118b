using System.Text.RegularExpressions;

namespace Mordel.Web.Tests;

/// <summary>What the documents say of the sources is so.</summary>
public partial class DocsTests
{
    public static TheoryData<string> Documents =>
        [
            .. new[] { "README.md", "CONTRIBUTING.md", "CHANGELOG.md", "bench/README.md" }.Concat(
                Directory
                    .EnumerateFiles(Repository.At("docs"), "*.md", SearchOption.AllDirectories)
                    .Select(f => Path.GetRelativePath(Repository.Root, f))
            ),
        ];

    [Theory]
    [MemberData(nameof(Documents))]
    public void Every_file_and_page_that_a_document_names_is_there(string document)
    {
        var text = File.ReadAllText(Repository.At(document));
        var folder = Path.GetDirectoryName(Repository.At(document))!;
        var files = Source().Matches(text).Select(m => Repository.At(m.Groups[1].Value));
        var links = Link().Matches(text).Select(m => Path.Combine(folder, m.Groups[1].Value));
        Assert.All(files.Concat(links), p => Assert.True(Path.Exists(p), $"{p} is not there"));
    }

    [Fact]
    public void A_reading_goes_from_the_tap_to_the_PDF_through_fewer_than_40_files_and_each_room_once()
    {
        var text = File.ReadAllText(Repository.At("docs", "architecture.md"));
        var trace = text[text.IndexOf("## A reading", StringComparison.Ordinal)..];
        trace = trace[..trace.IndexOf("## What is sealed", StringComparison.Ordinal)];
        var files = Source().Matches(trace).Select(m => m.Groups[1].Value).ToList();
        Assert.InRange(files.Count, 20, 39);
        Assert.Equal(files.Count, files.Distinct().Count());
        var rooms = Room().Matches(trace).Select(m => m.Groups[1].Value).ToList();
        Assert.Equal(rooms.Distinct(), rooms);
    }

    [Fact]
    public void The_floors_of_the_core_are_drawn_as_they_are_held()
    {
        var text = File.ReadAllText(Repository.At("docs", "architecture.md"));
        var drawn = text[text.IndexOf("## The floors of the core", StringComparison.Ordinal)..];
        drawn = drawn[..drawn.IndexOf("`Data` has folders too", StringComparison.Ordinal)];
        Assert.Equal(
            ArrowsTests.InOrder.Select(f => f.Replace('.', '/')),
            Room().Matches(drawn).Select(m => m.Groups[1].Value).Where(c => c[0] == '`').Select(c => c.Trim('`'))
        );
    }

    // What stands in backquotes and begins with a folder of the sources.
    [GeneratedRegex("`((?:src|tests|bench|tools|docs|\\.ci)/[\\w./-]+)`")]
    private static partial Regex Source();

    [GeneratedRegex(@"\]\((?!https?:|#)([^)#]+)")]
    private static partial Regex Link();

    // The first cell of a row, where it says something.
    [GeneratedRegex(@"^\| ([A-Za-z`][^|]*?) \|", RegexOptions.Multiline)]
    private static partial Regex Room();
}
