using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Tests;

public class RigTests
{
    private static readonly Rig DoubleCheck = new(Bodies.Find(AssemblyTypes.DC), Kit.FiveValve);

    [Fact]
    public void The_parts_of_a_double_check_stand_in_flow_order() =>
        Assert.Equal(
            ["supply", "tc1", "so1", "tc2", "cv1", "tc3", "cv2", "tc4", "so2", "site"],
            DoubleCheck.Body.Parts.Select(p => p.Id.Value)
        );

    [Fact]
    public void TC1_is_live_whatever_SO1_does() =>
        Assert.Equal(DoubleCheck.At(new(Parts.Supply, "out")), DoubleCheck.At(new(Parts.Tc1, "in")));

    [Fact]
    public void Each_cock_between_the_shutoffs_opens_into_a_space_of_its_own() =>
        Assert.Equal(
            ["before-cv1", "between-checks", "behind-cv2"],
            new[] { Parts.Tc2, Parts.Tc3, Parts.Tc4 }.Select(c => DoubleCheck.At(new(c, "in"))!.Id)
        );

    [Fact]
    public void The_other_sides_of_all_controls_meet_in_one_manifold() =>
        Assert.All(Kit.All.Where(k => k.Kind != KitKind.TwoValve), kit =>
            Assert.Equal(3, kit.Chambers.Single(c => c.Id == "manifold").Ports.Length)
        );

    [Fact]
    public void A_hose_feeds_its_own_gauge_port() =>
        Assert.Equal(DoubleCheck.At(new(Parts.HighHose, "kit")), DoubleCheck.At(new(Parts.Gauge, "high")));

    [Fact]
    public void A_two_valve_kit_has_two_hoses_and_a_bleed_for_each()
    {
        Assert.Equal(
            ["gauge", "high-hose", "low-hose", "high-bleed", "low-bleed"],
            Kit.TwoValve.Parts.Select(p => p.Id.Value)
        );
        Assert.DoesNotContain(
            "data-part=\"bypass",
            Draw(new Rig(DoubleCheck.Body, Kit.TwoValve).InService(), FlowDirection.Upward),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void A_digital_kit_moves_as_a_three_valve_kit() =>
        Assert.Equal(Kit.ThreeValve.Parts.AsEnumerable(), Kit.Digital.Parts.AsEnumerable());

    [Fact]
    public void Moves_that_hands_cannot_make_are_refused_in_words()
    {
        var state = DoubleCheck.InService();
        Assert.NotNull(state.Apply(new Move.Connect(Parts.HighHose, Parts.BleedOff)).Refusal);
        Assert.NotNull(state.Apply(new Move.Turn(Parts.Cv1, Opening.Full)).Refusal);
        Assert.NotNull(state.Apply(new Move.TakeOff(Parts.HighHose)).Refusal);
        Assert.NotNull(state.Apply(new Move.Turn(new("tc9"), Opening.Full)).Refusal);
        var taken = state.ApplyAll([new Move.Connect(Parts.HighHose, Parts.Tc2)]);
        Assert.Contains(
            "already carries",
            taken.Apply(new Move.Connect(Parts.LowHose, Parts.Tc2)).Refusal,
            StringComparison.Ordinal
        );
    }

    [Theory]
    [InlineData(-0.01)]
    [InlineData(1.01)]
    public void A_valve_is_between_closed_and_fully_open(double fraction) =>
        Assert.Throws<ArgumentOutOfRangeException>(() => new Opening((decimal)fraction));

    [Fact]
    public void With_the_downstream_cock_open_between_shut_valves_only_the_water_before_the_check_is_held()
    {
        var run = SampleRun.Begun().To("cv1.read");
        var open = run.State.Rig.ApplyAll([new Move.Turn(Parts.Tc3, Opening.Full)]);
        var water = run.State.Water.After(open);
        Assert.Equal(
            (Filling.Held, Filling.Open, Filling.Held, Filling.Live),
            (water.In("before-cv1"), water.In("between-checks"), water.In("behind-cv2"), water.In("inlet"))
        );
        Assert.Empty(water.Running);
    }

    [Fact]
    public void With_SO1_open_the_water_runs_from_the_main_to_the_tube()
    {
        var state = DoubleCheck
            .InService()
            .ApplyAll([new Move.Connect(Parts.SightTube, Parts.Tc3), new Move.Turn(Parts.Tc3, Opening.Full)]);
        Assert.Superset(
            new HashSet<PartId> { Parts.So1, Parts.Cv1, Parts.Tc3, Parts.SightTube },
            WaterSketch.Nothing.After(state).Running.ToHashSet()
        );
    }

    [Fact]
    public void A_hose_is_purged_only_when_water_has_run_through_it_since_it_was_connected()
    {
        var run = SampleRun.Begun().To("cv1.fill");
        Assert.DoesNotContain("high-side", run.State.Water.Purged);
        run.Done();
        Assert.Contains("high-side", run.State.Water.Purged);
    }

    [Theory]
    [InlineData(FlowDirection.LeftToRight, true)]
    [InlineData(FlowDirection.RightToLeft, false)]
    public void The_drawing_mirrors_with_the_flow(FlowDirection flow, bool so1First)
    {
        var svg = Draw(DoubleCheck.InService(), flow);
        double X(string label) =>
            double.Parse(
                System
                    .Text.RegularExpressions.Regex.Match(
                        svg,
                        $"class=\"name\" x=\"([0-9.]+)\" y=\"[0-9.]+\" text-anchor=\"middle\">{label}<"
                    )
                    .Groups[1]
                    .Value
            );
        Assert.Equal(so1First, X("SO1") < X("SO2"));
    }

    [Theory]
    [InlineData(FlowDirection.Upward)]
    [InlineData(FlowDirection.Downward)]
    public void An_upright_assembly_is_drawn_upright(FlowDirection flow) =>
        Assert.Contains("class=\"rig stands\"", Draw(DoubleCheck.InService(), flow), StringComparison.Ordinal);

    [Fact]
    public void A_closed_valve_is_a_bar_and_an_open_one_a_gap()
    {
        string So1(Opening to) =>
            Draw(DoubleCheck.InService().ApplyAll([new Move.Turn(Parts.So1, to)]), FlowDirection.LeftToRight)
                .Split("data-part=\"so1\"")[1]
                .Split("</g>")[0];
        Assert.Contains("class=\"bar\"", So1(Opening.Closed), StringComparison.Ordinal);
        Assert.DoesNotContain("class=\"bar\"", So1(Opening.Full), StringComparison.Ordinal);
    }

    [Fact]
    public void Hoses_are_told_apart_by_letter_and_line()
    {
        var svg = Draw(DoubleCheck.InService(), FlowDirection.LeftToRight);
        Assert.All(new[] { ("hose-h", ">H<"), ("hose-l", ">L<"), ("hose-b", ">B<") }, x =>
            Assert.True(
                svg.Contains(x.Item1, StringComparison.Ordinal) && svg.Contains(x.Item2, StringComparison.Ordinal)
            )
        );
    }

    [Fact]
    public void What_is_to_be_turned_carries_the_number_of_its_instruction()
    {
        var instructions = new Act[]
        {
            new Act.Do(new Move.Turn(Parts.So2, Opening.Closed)),
            new Act.Do(new Move.Turn(Parts.So1, Opening.Closed)),
        }.Select(a => a.For(DoubleCheck));
        var svg = RigDrawing.Draw(
            new(
                DoubleCheck.InService(),
                WaterSketch.Nothing,
                FlowDirection.LeftToRight,
                [.. instructions],
                true,
                true,
                "t"
            )
        );
        Assert.Contains(">1</text>", svg.Split("data-part=\"so2\"")[1].Split("</g>")[0], StringComparison.Ordinal);
        Assert.Contains(">2</text>", svg.Split("data-part=\"so1\"")[1].Split("</g>")[0], StringComparison.Ordinal);
    }

    private static string Draw(RigState state, FlowDirection flow) =>
        RigDrawing.Draw(new(state, WaterSketch.Nothing.After(state), flow, [], ShowKit: true, Touchable: true, "Test"));
}
