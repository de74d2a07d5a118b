using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Tests;

/// <summary>
/// The bodies of all types: parts in flow order, what opens into what, where water goes, how they are drawn.
/// </summary>
public class BodiesTests
{
    private static RigState On(AssemblyBody body, Kit? kit = null) => new Rig(body, kit ?? Kit.FiveValve).InService();

    private static RigState Turned(RigState state, params (PartId Part, Opening To)[] turns) =>
        state.ApplyAll(turns.Select(t => new Move.Turn(t.Part, t.To)));

    private static string Draw(RigState state, FlowDirection flow) =>
        RigDrawing.Draw(new(state, WaterSketch.Nothing.After(state), flow, [], ShowKit: true, Touchable: true, "Test"));

    [Theory]
    [InlineData("RP", "four-cock", "tc1 so1 tc2 cv1 tc3 rv cv2 tc4 so2")]
    [InlineData("RP", "three-tap", "so1 t1 cv1 t2 rv cv2 t3 so2")]
    [InlineData("DC", null, "tc1 so1 tc2 cv1 tc3 cv2 tc4 so2")]
    [InlineData("PVB", null, "so1 tc1 cv1 ai tc2 so2")]
    [InlineData("SVB", null, "so1 tc1 cv1 ai vent-screw so2")]
    public void The_parts_stand_in_flow_order(string type, string? body, string parts) =>
        Assert.Equal(
            parts,
            string.Join(
                ' ',
                Bodies.Find(new(type), body).Parts.Select(p => p.Id.Value).Where(p => p is not ("supply" or "site"))
            )
        );

    [Fact]
    public void The_taps_of_a_three_tap_body_stand_where_the_working_cocks_of_a_four_cock_body_stand()
    {
        var (four, three) = (
            new Rig(ReducedPressureZone.FourCock, Kit.FiveValve),
            new Rig(ReducedPressureZone.ThreeTap, Kit.FiveValve)
        );
        Assert.Equal(
            ReducedPressureZone.FourCock.Cocks.Select(c => four.At(new(c, "in"))!.Id),
            ReducedPressureZone.ThreeTap.Cocks.Select(c => three.At(new(c, "in"))!.Id)
        );
        Assert.Equal(
            (Parts.Tc1, Parts.T1),
            (ReducedPressureZone.FourCock.SupplyCock, ReducedPressureZone.ThreeTap.SupplyCock)
        );
    }

    [Fact]
    public void TC1_of_a_four_cock_body_stays_live_when_SO1_is_shut_and_T1_does_not()
    {
        Assert.Equal("inlet", new Rig(ReducedPressureZone.FourCock, Kit.FiveValve).At(new(Parts.Tc1, "in"))!.Id);
        Assert.Equal("before-cv1", new Rig(ReducedPressureZone.ThreeTap, Kit.FiveValve).At(new(Parts.T1, "in"))!.Id);
    }

    [Fact]
    public void A_strainer_stands_behind_SO1_and_divides_nothing()
    {
        var body = Bodies.Find(AssemblyTypes.RP, "three-tap", new(Strainer: true));
        Assert.Equal(
            body.Parts.IndexOf(body.Parts.First(p => p.Id == Parts.So1)) + 1,
            body.Parts.IndexOf(body.Parts.First(p => p.Id == Parts.Strainer))
        );
        Assert.Equal(ReducedPressureZone.ThreeTap.Chambers.Length, body.Chambers.Length);
    }

    [Fact]
    public void The_relief_keeps_shut_in_service_and_opens_when_the_zone_is_fed_from_the_supply_side()
    {
        var state = Turned(On(ReducedPressureZone.FourCock), (Parts.So2, Opening.Closed))
            .ApplyAll([new Move.Connect(Parts.HighHose, Parts.Tc2), new Move.Connect(Parts.LowHose, Parts.Tc3)]);
        state = Turned(state, (Parts.Tc2, Opening.Full), (Parts.Tc3, Opening.Full));
        Assert.DoesNotContain(Parts.Relief, WaterSketch.Nothing.After(state).Running);
        var fed = Turned(state, (Parts.HighControl, Opening.Full), (Parts.LowControl, Opening.QuarterTurn));
        Assert.Contains(Parts.Relief, WaterSketch.Nothing.After(fed).Running);
    }

    [Fact]
    public void The_relief_opens_when_the_supply_side_is_let_down_with_SO1_shut()
    {
        var state = Turned(
            On(ReducedPressureZone.FourCock),
            (Parts.So2, Opening.Closed),
            (Parts.So1, Opening.Closed),
            (Parts.Tc2, Opening.Full)
        );
        var water = WaterSketch.Nothing.After(On(ReducedPressureZone.FourCock)).After(state);
        Assert.NotEqual(Filling.Live, water.In("zone"));
        Assert.Equal(Filling.Open, water.In("before-cv1"));
    }

    [Fact]
    public void Supply_pressure_led_behind_CV2_does_not_open_the_relief_of_a_sound_body()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("so2.test");
        Assert.Equal(Filling.Live, run.State.Water.In("behind-cv2"));
        Assert.DoesNotContain(Parts.Relief, run.State.Water.Running);
    }

    [Fact]
    public void A_vent_screw_opens_the_body_behind_the_check_to_air_and_keeps_the_water_before_it()
    {
        var service = On(SpillResistantBreaker.Body);
        var shut = Turned(service, (Parts.So2, Opening.Closed), (Parts.So1, Opening.Closed));
        var open = Turned(shut, (Parts.VentScrew, Opening.Full));
        var water = WaterSketch.Nothing.After(service).After(shut).After(open);
        Assert.Equal((Filling.Held, Filling.Open), (water.In("before-cv1"), water.In("body")));
    }

    [Fact]
    public void The_inlet_of_a_spill_resistant_breaker_is_drawn_shut_while_the_supply_side_holds_it()
    {
        string Inlet(SampleRun run) =>
            RigDrawing
                .Draw(new(run.State.Rig, run.State.Water, FlowDirection.LeftToRight, [], true, true, "t"))
                .Split("data-part=\"ai\"")[1]
                .Split("</g>")[0]
                .Split("class=\"disc\"")[1];
        var full = Inlet(SampleRun.Of("svb-check-first").OnTo("cv1.read"));
        Assert.Equal(full, Inlet(SampleRun.Of("svb-check-first").OnTo("ai.read")));
        Assert.NotEqual(
            Inlet(SampleRun.Of("pvb-inlet-first").OnTo("ai.lower")),
            Inlet(SampleRun.Of("pvb-inlet-first").OnTo("ai.close"))
        );
    }

    public static TheoryData<string, FlowDirection> Drawings
    {
        get
        {
            var data = new TheoryData<string, FlowDirection>();
            foreach (var body in Bodies.All)
            foreach (var flow in Enum.GetValues<FlowDirection>())
                data.Add($"{body.Type}/{body.Name}", flow);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Drawings))]
    public void Every_part_of_every_body_is_drawn_once_whichever_way_it_lies(string which, FlowDirection flow)
    {
        var body = Bodies.All.Single(b => $"{b.Type}/{b.Name}" == which);
        foreach (var kit in Kit.All.Where(k => body.Type != AssemblyTypes.RP || k.Kind != KitKind.TwoValve))
        {
            var svg = Draw(On(Bodies.Find(body.Type, body.Name, new(true, true, true)), kit), flow);
            Assert.All(body.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site)), p =>
                Assert.Equal(2, svg.Split($"data-part=\"{p.Id}\"").Length)
            );
            Assert.All(kit.Parts.Where(p => p.Turns), p => Assert.Equal(2, svg.Split($"data-part=\"{p.Id}\"").Length));
            Assert.Contains(">bypass<", svg, StringComparison.Ordinal);
            Assert.DoesNotContain("NaN", svg, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void Each_hose_has_its_own_casing_so_that_it_can_take_the_colour_of_the_kit()
    {
        var svg = Draw(On(ReducedPressureZone.FourCock), FlowDirection.LeftToRight);
        Assert.All(new[] { "hose-h-wall", "hose-l-wall", "hose-b-wall" }, c =>
            Assert.Contains(c, svg, StringComparison.Ordinal)
        );
    }

    [Theory]
    [InlineData("five-valve", "low bleed")]
    [InlineData("three-valve", "bypass and low controls")]
    public void Restoring_the_zone_is_said_in_the_words_of_the_kit(string kit, string words) =>
        Assert.Contains(
            words,
            new Act.RestoreZone(Parts.Tc4).For(new Rig(ReducedPressureZone.FourCock, Kit.Named(kit)!)).Say,
            StringComparison.Ordinal
        );

    [Fact]
    public void A_kit_without_bleeds_takes_the_bypass_hose_to_the_drain_before_the_zone_is_restored()
    {
        var rig = new Rig(ReducedPressureZone.FourCock, Kit.ThreeValve);
        var state = rig.InService()
            .ApplyAll([
                new Move.Connect(Parts.BypassHose, Parts.Tc4),
                new Move.Turn(Parts.Tc4, Opening.Full),
                .. new Act.RestoreZone(Parts.Tc4).MovesFor(rig),
            ]);
        Assert.Equal(
            (false, false, false),
            (state[Parts.Tc4].IsOpen, state.Connections.ContainsKey(Parts.BypassHose), state[Parts.LowControl].IsOpen)
        );
    }
}
