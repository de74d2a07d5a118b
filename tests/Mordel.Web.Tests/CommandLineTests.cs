using System.Text.Json;
using Mordel.Cli;

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
        var (exit, output, error) = await Run("""{"format":"mordel.test-record/1","assembly":{"type":"DC"},"profile":"psid-standard","results":{"check-1":{"value":0.4,"unit":"psid"}}}""", "evaluate", "-");
        using var json = JsonDocument.Parse(output);
        Assert.Equal((0, "", "fail", "mordel.verdict/1"), (exit, error, json.RootElement.GetProperty("overall").GetString(), json.RootElement.GetProperty("format").GetString()));
    }

    [Fact]
    public async Task Bad_input_ends_with_2_one_line_a_fault_and_nothing_on_standard_output()
    {
        var (exit, output, error) = await Run("""{"format":"mordel.test-record/1","assembly":{"type":"DC"},"profile":"psid-standard","results":{"check-1":{"value":1,"unit":"bar"},"check-2":{"value":"x","unit":"psid"}}}""", "evaluate", "-");
        Assert.Equal((2, ""), (exit, output));
        Assert.Equal(["results.check-1.unit: \"bar\" is not a unit of differential pressure; psid or kPa", "results.check-2.value: a number is wanted here"], error.Trim().Split(Environment.NewLine));
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
    public async Task Anything_else_prints_the_usage() => Assert.Contains("usage:", (await Run("", "dance")).Err, StringComparison.Ordinal);
}
