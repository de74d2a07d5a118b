using System.Globalization;
using System.Text.Json;
using Microsoft.EntityFrameworkCore;
using Mordel.Cli;
using Mordel.Core.Catalogue;
using Mordel.Data;
using Mordel.Data.Moving;

namespace Mordel.Web.Tests;

public class CommandLineTests
{
    private static async Task<(int Exit, string Out, string Err)> Run(string input, params string[] args)
    {
        using var reader = new StringReader(input);
        using var output = new StringWriter();
        using var error = new StringWriter();
        return (await CommandLine.Run(args, reader, output, error), output.ToString(), error.ToString());
    }

    [Fact]
    public async Task Evaluate_prints_a_verdict_whatever_it_is_and_ends_with_0()
    {
        var (exit, output, error) = await Run(
            """{"format":"mordel.test-record/1","assembly":{"type":"DC"},"profile":"psid-standard","results":{"check-1":{"value":0.4,"unit":"psid"}}}""",
            "evaluate",
            "-"
        );
        using var json = JsonDocument.Parse(output);
        Assert.Equal(
            (0, "", "fail", "mordel.verdict/1"),
            (
                exit,
                error,
                json.RootElement.GetProperty("overall").GetString(),
                json.RootElement.GetProperty("format").GetString()
            )
        );
    }

    [Fact]
    public async Task Diagnose_prints_what_may_be_wrong_and_refuses_evidence_of_another_type_with_its_place()
    {
        const string Evidence = """
            {"format":"mordel.evidence/1","assembly":{"type":"RP"},"looks":[{"look":"in-service","outlet":"runs"}]}
            """;
        var (exit, output, error) = await Run(Evidence, "diagnose", "-");
        using var json = JsonDocument.Parse(output);
        Assert.Equal((0, ""), (exit, error));
        Assert.True(json.RootElement.GetProperty("hypotheses").GetArrayLength() > 1);
        var (bad, nothing, says) = await Run(Evidence.Replace("RP", "DC", StringComparison.Ordinal), "diagnose", "-");
        Assert.Equal((2, ""), (bad, nothing));
        Assert.StartsWith("looks[0].look: ", says, StringComparison.Ordinal);
    }

    [Fact]
    public async Task Atlas_refuses_a_type_that_is_none_and_makes_nothing()
    {
        var folder = Path.Combine(Path.GetTempPath(), Guid.NewGuid().ToString());
        var (exit, output, error) = await Run("", "atlas", "XY", "--into", folder);
        Assert.Equal((2, ""), (exit, output));
        Assert.Contains("RP/three-tap", error, StringComparison.Ordinal);
        Assert.False(Directory.Exists(folder));
    }

    [Fact]
    public async Task Bad_input_ends_with_2_one_line_a_fault_and_nothing_on_standard_output()
    {
        var (exit, output, error) = await Run(
            """{"format":"mordel.test-record/1","assembly":{"type":"DC"},"profile":"psid-standard","results":{"check-1":{"value":1,"unit":"bar"},"check-2":{"value":"x","unit":"psid"}}}""",
            "evaluate",
            "-"
        );
        Assert.Equal((2, ""), (exit, output));
        Assert.Equal(
            [
                "results.check-1.unit: \"bar\" is not a unit of differential pressure; psid or kPa",
                "results.check-2.value: a number is wanted here",
            ],
            error.Trim().Split(Environment.NewLine)
        );
    }

    private const string Leaking =
        """{"format":"mordel.scenario/1","assembly":{"type":"DC","springs":{"cv1":2.1,"cv2":1.7}},"supply":{"value":62,"unit":"psi"},"site":{"back-pressure":{"value":70,"unit":"psi"}},"faults":[{"part":"so2","fault":"leaks"}],"procedure":"dc-sight-tube","kit":"five-valve","profile":"psid-standard","seed":1}""";

    [Fact]
    public async Task Simulate_performs_the_test_and_says_what_was_read_found_and_judged()
    {
        var (exit, output, error) = await Run(Leaking, "simulate", "-");
        using var json = JsonDocument.Parse(output);
        var outcome = json.RootElement;
        Assert.Equal((0, ""), (exit, error));
        Assert.Equal(
            ["so2-leaks-back-pressure"],
            outcome.GetProperty("findings").EnumerateArray().Select(f => f.GetString())
        );
        Assert.Equal(
            (2.1m, "psid", "leaks", "pass"),
            (
                outcome.GetProperty("results").GetProperty("check-1").GetProperty("value").GetDecimal(),
                outcome.GetProperty("results").GetProperty("check-1").GetProperty("unit").GetString(),
                outcome.GetProperty("results").GetProperty("shutoff-2").GetString(),
                outcome.GetProperty("verdict").GetProperty("overall").GetString()
            )
        );
        Assert.InRange(
            outcome.GetProperty("results").GetProperty("check-2").GetProperty("exact").GetDouble(),
            1.68,
            1.72
        );
    }

    [Fact]
    public async Task A_trace_is_written_whole_or_not_at_all()
    {
        var file = Path.Combine(Path.GetTempPath(), $"mordel-{Guid.NewGuid():N}.csv");
        var (exit, _, _) = await Run(Leaking, "simulate", "-", "--trace", file);
        Assert.Equal(0, exit);
        Assert.StartsWith("seconds,step,needle", (await File.ReadAllLinesAsync(file))[0], StringComparison.Ordinal);
        File.Delete(file);
        var (failed, output, error) = await Run(Leaking, "simulate", "-", "--trace", "/nowhere/trace.csv");
        Assert.Equal((1, ""), (failed, output));
        Assert.Contains("cannot be written", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_scenario_that_cannot_be_ends_with_2_and_a_place()
    {
        var (exit, output, error) = await Run(
            Leaking.Replace("\"cv1\":2.1", "\"cv1\":-2.1", StringComparison.Ordinal),
            "simulate",
            "-"
        );
        Assert.Equal((2, "", "assembly.springs.cv1: -2.1 is outside 0 to 20 psid"), (exit, output, error.Trim()));
    }

    [Fact]
    public async Task A_file_that_cannot_be_read_ends_with_1()
    {
        var (exit, _, error) = await Run("", "evaluate", "/nowhere/at/all.json");
        Assert.Equal(1, exit);
        Assert.Contains("/nowhere/at/all.json: cannot be read", error, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("five-valve", "high bleed")]
    [InlineData("three-valve", "bypass hose runs without air")]
    public async Task Procedure_prints_the_sheet_of_a_kit(string kit, string says)
    {
        var (exit, output, _) = await Run("", "procedure", "dc-sight-tube", "--kit", kit);
        Assert.Equal(0, exit);
        Assert.Contains(says, output, StringComparison.Ordinal);
    }

    [Fact]
    public async Task An_unknown_procedure_or_kit_is_named_with_what_there_is()
    {
        var (exit, output, error) = await Run("", "procedure", "dc-none", "--kit", "six-valve");
        Assert.Equal((2, ""), (exit, output));
        Assert.Contains("dc-sight-tube", error, StringComparison.Ordinal);
        Assert.Contains("five-valve, three-valve", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_sheet_is_written_for_a_body_and_what_it_has()
    {
        var (exit, output, error) = await Run(
            "",
            "procedure",
            "rp-isolation-first",
            "--kit",
            "three-valve",
            "--body",
            "three-tap",
            "--with",
            "strainer,fitted-cocks"
        );
        Assert.Equal((0, ""), (exit, error));
        Assert.Contains("Open, clean and close the strainer", output, StringComparison.Ordinal);
        Assert.DoesNotContain("Adapters in", output, StringComparison.Ordinal);
        Assert.Contains("T3", output, StringComparison.Ordinal);
        Assert.Contains("CV1 differential, at least 35 kPa", output, StringComparison.Ordinal);
        (exit, _, error) = await Run(
            "",
            "procedure",
            "dc-sight-tube",
            "--kit",
            "five-valve",
            "--body",
            "three-tap",
            "--with",
            "soup"
        );
        Assert.Equal(2, exit);
        Assert.Contains("--body: \"three-tap\" is not a body of the type DC", error, StringComparison.Ordinal);
        Assert.Contains(
            "--with: \"soup\" names something else than strainer, fitted-cocks, bypass-line",
            error,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData("dance", "'dance'")]
    [InlineData("simulate", "'simulate'")]
    [InlineData("procedure dc-sight-tube", "'--kit'")]
    [InlineData("procedure dc-sight-tube --kit", "'--kit'")]
    [InlineData("evaluate - --trace x", "'--trace'")]
    [InlineData("verify one two", "'two'")]
    public async Task What_cannot_be_understood_ends_with_2_names_the_word_and_prints_the_usage(
        string typed,
        string word
    )
    {
        var (exit, output, error) = await Run("", typed.Split(' '));
        Assert.Equal((2, ""), (exit, output));
        Assert.Contains(word, error.Split(Environment.NewLine + "usage:")[0], StringComparison.Ordinal);
        Assert.Contains("usage:", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_file_may_have_a_name_that_begins_with_an_at_sign()
    {
        var (exit, _, error) = await Run("", "evaluate", "@nowhere");
        Assert.Equal(1, exit);
        Assert.Contains("@nowhere: cannot be read", error, StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_command_explains_itself_and_the_version_is_that_of_the_build()
    {
        var (exit, output, _) = await Run("", "procedure", "--help");
        Assert.Equal(0, exit);
        Assert.Contains("--body", output, StringComparison.Ordinal);
        Assert.Matches(@"^\d+\.\d+\.\d+", (await Run("", "--version")).Out);
    }

    [Fact]
    public async Task A_years_reports_are_written_as_one_file_that_verify_takes_and_a_year_without_any_is_refused()
    {
        await using var hamlet = new ServedInstallation();
        await hamlet.Filled(AssemblyTypes.DC);
        await hamlet.Signed();
        var file = Path.Combine(hamlet.Folder, "year.zip");
        var year = hamlet.Clock.GetLocalNow().Year.ToString(CultureInfo.InvariantCulture);
        Assert.Equal((0, "", ""), await Run("", ["archive", year, file, .. hamlet.Named()]));
        var (exit, output, _) = await Run("", ["verify", file, .. hamlet.Named()]);
        Assert.Equal(0, exit);
        Assert.Contains("The seal holds.", output, StringComparison.Ordinal);
        (exit, _, var error) = await Run("", ["archive", "1999", file, .. hamlet.Named()]);
        Assert.Equal(2, exit);
        Assert.Contains(year, error, StringComparison.Ordinal);
        (exit, _, error) = await Run("", ["archive", year, Path.Combine(hamlet.Folder, "no", "x"), .. hamlet.Named()]);
        Assert.Equal(1, exit);
        Assert.Contains("cannot be written", error, StringComparison.Ordinal);
    }

    [Trait("Turn", "0")]
    [Fact]
    public async Task A_backup_of_a_running_installation_goes_on_in_another_folder_and_a_slip_is_told()
    {
        await using var hamlet = new ServedInstallation();
        await hamlet.Filled(AssemblyTypes.DC);
        await hamlet.Signed();
        var place = Directory.CreateTempSubdirectory("mordel-put-back-").FullName;
        try
        {
            var (file, words, into) = (
                Path.Combine(place, "all"),
                Path.Combine(place, "words"),
                Path.Combine(place, "into")
            );
            await File.WriteAllTextAsync(words, "seven brass cocks\n");
            var (exit, output, error) = await Run("", ["backup", file, "--passphrase-file", words, .. hamlet.Named()]);
            Assert.Equal((0, ""), (exit, error));
            Assert.Contains("1 signed runs, 1 assemblies", output, StringComparison.Ordinal);
            (exit, output, error) = await Run("", "restore", file, "--data", into);
            Assert.Equal((1, ""), (exit, output));
            Assert.Contains("--passphrase-file", error, StringComparison.Ordinal);
            (exit, output, error) = await Run("", "restore", file, "--passphrase-file", words, "--data", into);
            Assert.Equal((0, ""), (exit, error));
            Assert.Contains("All 1 seals over 1 runs hold.", output, StringComparison.Ordinal);
            (exit, _, error) = await Run("", "restore", file, "--passphrase-file", words, "--data", into);
            Assert.Equal(1, exit);
            Assert.Contains("--replace", error, StringComparison.Ordinal);
            (exit, output, _) = await Run("", "rebuild", "--data", into);
            Assert.Equal(0, exit);
            Assert.Contains("1 signed runs, 0 of them", output, StringComparison.Ordinal);
            (exit, _, error) = await Run("", ["rebuild", .. hamlet.Named()]);
            Assert.Equal(1, exit);
            Assert.Contains("Another Mordel is running", error, StringComparison.Ordinal);
            var moved = Path.Combine(place, "moved");
            string[] move = ["move", "--from", $"sqlite:{into}", "--to", $"sqlite:{moved}"];
            (exit, output, error) = await Run("", move);
            Assert.Equal(0, exit);
            Assert.Contains("each as it was", output, StringComparison.Ordinal);
            Assert.Contains("All 1 seals over 1 runs hold.", output, StringComparison.Ordinal);
            Assert.Contains("Runs: 1", error, StringComparison.Ordinal);
            (exit, _, error) = await Run("", move);
            Assert.Equal(1, exit);
            Assert.Contains("installation there already", error, StringComparison.Ordinal);
            (exit, _, error) = await Run("", "move", "--from", $"sqlite:{into}", "--to", "mysql:there");
            Assert.Equal(2, exit);
            Assert.Contains("--to: A store is sqlite:FOLDER", error, StringComparison.Ordinal);
            (exit, _, error) = await Run("", "backup", Path.Combine(words, "x"), "--data", into);
            Assert.Equal(1, exit);
            Assert.NotEmpty(error);
        }
        finally
        {
            Directory.Delete(place, recursive: true);
        }
    }

    [Fact]
    public async Task A_key_is_rotated_only_while_no_server_runs_and_then_every_seal_still_holds()
    {
        await using var hamlet = new ServedInstallation();
        await hamlet.Filled(AssemblyTypes.DC);
        await hamlet.Signed();
        var (exit, output, error) = await Run("", ["rotate-key", .. hamlet.Named()]);
        Assert.Equal((1, ""), (exit, output));
        Assert.Contains("another", error, StringComparison.OrdinalIgnoreCase);
        var resting = Directory.CreateTempSubdirectory("mordel-rest-").FullName;
        try
        {
            await using (var from = hamlet.Address.Open())
            await using (var to = new StoreAddress(resting).Open())
                await new MoveStore(from, to).Run(_ => { }, CancellationToken.None);
            foreach (var key in Directory.EnumerateFiles(hamlet.Folder, "*.pem"))
                File.Copy(key, Path.Combine(resting, Path.GetFileName(key)));
            (exit, output, error) = await Run("", "rotate-key", "--data", resting);
            Assert.Equal((0, ""), (exit, error));
            Assert.Contains("signs with", output, StringComparison.Ordinal);
            (exit, output, error) = await Run("", "verify", "--data", resting);
            Assert.Equal((0, "All 1 seals over 1 runs hold."), (exit, output.Trim()));
            await using (
                var store = new Microsoft.Data.Sqlite.SqliteConnection(
                    $"Data Source={Path.Combine(resting, "mordel.db")};Pooling=False"
                )
            )
            {
                await store.OpenAsync();
                await using var spoil = store.CreateCommand();
                spoil.CommandText = "UPDATE Results SET Result = 'fail'";
                await spoil.ExecuteNonQueryAsync();
            }

            (exit, output, _) = await Run("", "verify", "--data", resting);
            Assert.Equal(1, exit);
            Assert.Contains("BROKEN: ", output, StringComparison.Ordinal);
        }
        finally
        {
            Microsoft.Data.Sqlite.SqliteConnection.ClearAllPools();
            Directory.Delete(resting, recursive: true);
        }
    }
}
