using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;

namespace Mordel.Core.Tests;

/// <summary>Scenarios as people write them, rightly and wrongly.</summary>
public class ScenarioTests
{
    private static string With(string more, string assembly = "\"type\":\"DC\"") =>
        $$"""{"format":"mordel.scenario/1","assembly":{{{assembly}}},"procedure":"dc-sight-tube","kit":"five-valve"{{(more.Length > 0 ? "," + more : "")}}}""";

    [Fact]
    public void What_is_left_out_is_usual()
    {
        var scenario = ScenarioFormat.Read(With(""), out var errors)!;
        Assert.Empty(errors);
        Assert.Equal(
            ("psid-standard", 60.0, SitePlumbing.Closed, 2.1),
            (
                scenario.Profile.Id,
                scenario.Situation.Supply.Psi,
                scenario.Situation.SiteBehind.Plumbing,
                scenario.Situation.Springs.Cv1
            )
        );
    }

    [Fact]
    public void Everything_that_can_be_said_is_read()
    {
        var scenario = ScenarioFormat.Read(
            """
            {"format":"mordel.scenario/1","assembly":{"type":"RP","body":"three-tap","springs":{"cv1":7.5,"cv2":1.4,"rv":2.5},"strainer":true},"supply":{"value":400,"unit":"kPa","swing":{"value":10,"unit":"kPa"},"seconds":30},
             "site":{"demand":"open","outlet":{"value":-0.5,"unit":"m"}},"faults":[{"part":"cv1","fault":"leaks","size":"gush"},{"part":"t2","fault":"blocked"},{"part":"kit","fault":"zero-offset","by":-0.4},{"part":"kit","fault":"gauge-height","inches":3}],
             "procedure":"rp-isolation-first","kit":"three-valve","profile":"kpa-isolation-first","seed":7,"scale":{"leaks":2}}
            """,
            out var errors
        )!;
        Assert.Empty(errors);
        var it = scenario.Situation;
        Assert.Equal(58.0151, it.Supply.Psi, 3);
        Assert.Equal(-19.685, it.SiteBehind.OutletHeight, 3);
        Assert.Equal(100 / 6.894757, it.FullScale, 6);
        Assert.Equal((4, 7, 0.06), (it.Faults.Length, it.Seed, it.Sizes.Small));
        Assert.Equal(
            (4.0, -0.4, 3.0),
            (it.Leak(Rigs.Parts.Cv1), it.Kit(FaultKind.ZeroOffset), it.Kit(FaultKind.GaugeHeight))
        );
    }

    [Theory]
    [InlineData("\"faults\":[{\"part\":\"cv9\",\"fault\":\"leaks\"}]", "faults[0].part")]
    [InlineData("\"faults\":[{\"part\":\"rv\",\"fault\":\"leaks\"}]", "faults[0].part")]
    [InlineData("\"faults\":[{\"part\":\"gauge\",\"fault\":\"zero-offset\",\"by\":1}]", "faults[0].part")]
    [InlineData("\"faults\":[{\"part\":\"cv1\",\"fault\":\"blocked\"}]", "faults[0].fault")]
    [InlineData("\"faults\":[{\"part\":\"cv1\",\"fault\":\"leaks\",\"size\":\"huge\"}]", "faults[0].size")]
    [InlineData("\"faults\":[{\"part\":\"tc2\",\"fault\":\"blocked\",\"size\":\"small\"}]", "faults[0].size")]
    [InlineData(
        "\"faults\":[{\"part\":\"cv1\",\"fault\":\"leaks\"},{\"part\":\"cv1\",\"fault\":\"leaks\",\"size\":\"weep\"}]",
        "faults[1]"
    )]
    [InlineData("\"faults\":[{\"part\":\"kit\",\"fault\":\"zero-offset\"}]", "faults[0].by")]
    [InlineData("\"faults\":[{\"part\":\"kit\",\"fault\":\"gauge-height\",\"inches\":900}]", "faults[0].inches")]
    [InlineData("\"faults\":{\"part\":\"cv1\"}", "faults")]
    [InlineData("\"supply\":{\"value\":9000,\"unit\":\"psi\"}", "supply.value")]
    [InlineData("\"supply\":{\"value\":-5,\"unit\":\"psi\"}", "supply.value")]
    [InlineData("\"supply\":{\"value\":60,\"unit\":\"bar\"}", "supply.unit")]
    [InlineData("\"site\":{\"back-pressure\":{\"value\":70,\"unit\":\"psi\"},\"demand\":\"none\"}", "site.demand")]
    [InlineData("\"site\":{\"demand\":\"some\"}", "site.demand")]
    [InlineData("\"site\":{\"demand\":\"none\",\"outlet\":{\"value\":1,\"unit\":\"ft\"}}", "site.outlet")]
    [InlineData("\"site\":{\"demand\":\"open\",\"outlet\":{\"value\":900,\"unit\":\"ft\"}}", "site.outlet.value")]
    [InlineData("\"profile\":\"psid-check-first\"", "procedure")]
    [InlineData("\"profile\":\"mine\"", "profile")]
    [InlineData("\"seed\":-1", "seed")]
    [InlineData("\"scale\":{\"leaks\":0}", "scale.leaks")]
    [InlineData("\"wether\":\"dry\"", "wether")]
    public void What_cannot_be_is_named_with_its_place(string more, string place)
    {
        Assert.Null(ScenarioFormat.Read(With(more), out var errors));
        Assert.Contains(place, errors.Select(f => f.Place));
        Assert.All(errors, f => Assert.NotEmpty(f.Says));
    }

    [Theory]
    [InlineData("\"type\":\"DC\",\"springs\":{\"cv1\":-2}", "assembly.springs.cv1")]
    [InlineData("\"type\":\"DC\",\"springs\":{\"rv\":2}", "assembly.springs.rv")]
    [InlineData("\"type\":\"DC\",\"springs\":{\"cv3\":2}", "assembly.springs.cv3")]
    [InlineData("\"type\":\"DC\",\"springs\":{\"cv1\":1e99}", "assembly.springs.cv1")]
    [InlineData("\"type\":\"DC\",\"body\":\"three-tap\"", "assembly.body")]
    [InlineData("\"type\":\"RP\"", "procedure")]
    [InlineData("\"type\":\"XX\"", "assembly.type")]
    public void An_assembly_that_cannot_be_is_named_with_its_place(string assembly, string place)
    {
        Assert.Null(ScenarioFormat.Read(With("", assembly), out var errors));
        Assert.Contains(place, errors.Select(f => f.Place));
    }

    [Fact]
    public void A_kit_that_cannot_do_the_school_is_refused_kindly()
    {
        Assert.Null(
            ScenarioFormat.Read(
                """{"format":"mordel.scenario/1","assembly":{"type":"RP"},"kit":"two-valve"}""",
                out var errors
            )
        );
        Assert.Contains("bypass hose", Assert.Single(errors).Says, StringComparison.Ordinal);
    }

    [Fact]
    public void A_trace_has_a_column_for_every_chamber_and_every_opening()
    {
        var scenario = ScenarioFormat.Read(With("\"faults\":[{\"part\":\"so1\",\"fault\":\"leaks\"}]"), out _)!;
        string? header = null;
        var lines = new List<string>();
        scenario.Perform(m =>
        {
            header ??= OutcomeFormat.TraceHeader(scenario.Situation.Rig, m.Water);
            lines.Add(OutcomeFormat.TraceLine(m));
        });
        var columns = header!.Split(',');
        Assert.Contains("p:between-checks", columns);
        Assert.Contains("q:sight-tube", columns);
        Assert.All(lines, l => Assert.Equal(columns.Length, l.Split(',').Length));
        Assert.Contains(lines, l =>
            double.Parse(
                l.Split(',')[Array.IndexOf(columns, "q:sight-tube")],
                System.Globalization.CultureInfo.InvariantCulture
            ) > 0.1
        );
    }

    [Fact]
    public void Whatever_a_form_offers_for_a_body_is_read_as_a_scenario_and_nothing_else_is_a_fault()
    {
        using var offered = System.Text.Json.JsonDocument.Parse(RigChoices.Json);
        foreach (var body in Bodies.All)
        {
            var rig = offered.RootElement.GetProperty(body.Name);
            var errors = rig.GetProperty("faults").EnumerateArray().ToList();
            Assert.True(errors.Count > 8);
            foreach (var error in errors)
            {
                var named = body.Type == AssemblyTypes.RP ? $",\"body\":\"{body.Name}\"" : "";
                var text =
                    $$$"""{"format":"mordel.scenario/1","assembly":{"type":"{{{body.Type}}}"{{{named}}},"springs":{"{{{rig.GetProperty("springs")[0]}}}":2}},"kit":"five-valve","faults":[{{{error.GetProperty("fault").GetRawText()}}}]}""";
                var read = ScenarioFormat.Read(text, out var wrong);
                Assert.True(wrong.IsEmpty, $"{body.Name} {error.GetProperty("value")}: {string.Join("; ", wrong)}");
                Assert.Single(read!.Situation.Faults);
                Assert.Equal(error.GetProperty("sized").GetBoolean(), read.Situation.Faults[0].Kind == FaultKind.Leaks);
            }

            Assert.All(FaultCatalogue.All, f =>
                Assert.All(body.Parts, p =>
                    Assert.Equal(f.On.Contains(p.Kind), FaultCatalogue.Named(f.Id, p.Kind) == f)
                )
            );
        }
    }
}
