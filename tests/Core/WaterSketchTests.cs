using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Tests;

/// <summary>The coarse water: what is joined to the main, shut in, open to air, running.</summary>
public class WaterSketchTests
{
    private static readonly Rig FiveValve = new(DoubleCheck.Body, Kit.FiveValve),
        ThreeValve = new(DoubleCheck.Body, Kit.ThreeValve);

    private static (RigState State, WaterSketch Water) After(Rig rig, params Move[] moves)
    {
        var state = rig.InService();
        var water = WaterSketch.Nothing.After(state);
        foreach (var move in moves)
        {
            state = state.ApplyAll([move]);
            water = water.After(state);
        }

        return (state, water);
    }

    private static Move.Turn Open(PartId part) => new(part, Opening.Full);

    private static Move.Turn Close(PartId part) => new(part, Opening.Closed);

    [Fact]
    public void In_service_everything_from_main_to_site_is_live_and_nothing_runs()
    {
        var (state, water) = After(FiveValve);
        Assert.All(state.Rig.Body.Chambers, c => Assert.Equal(Filling.Live, water.In(c.Id)));
        Assert.Empty(water.Running);
    }

    [Fact]
    public void A_flushed_cock_lets_the_main_run_through_everything_before_it()
    {
        var (_, water) = After(FiveValve, Open(Parts.Tc3));
        Assert.Superset(new HashSet<PartId> { Parts.So1, Parts.Cv1, Parts.Tc3 }, water.Running.ToHashSet());
        Assert.DoesNotContain(Parts.Cv2, water.Running);
    }

    [Fact]
    public void Behind_a_closed_SO1_water_is_shut_in_and_TC1_stays_live()
    {
        var (_, water) = After(FiveValve, Close(Parts.So2), Close(Parts.So1));
        Assert.Equal(
            (Filling.Live, Filling.Held, Filling.Held, Filling.Held),
            (water.In("inlet"), water.In("before-cv1"), water.In("between-checks"), water.In("behind-cv2"))
        );
    }

    [Fact]
    public void A_check_lets_nothing_back()
    {
        // The space behind CV2 is opened: the spaces before it keep what the springs hold.
        var (_, water) = After(FiveValve, Close(Parts.So1), Close(Parts.So2), Open(Parts.Tc4));
        Assert.Equal(
            (Filling.Held, Filling.Held, Filling.Open),
            (water.In("before-cv1"), water.In("between-checks"), water.In("behind-cv2"))
        );
        // The space before CV1 is opened: those behind it keep theirs.
        (_, water) = After(FiveValve, Close(Parts.So1), Close(Parts.So2), Open(Parts.Tc2));
        Assert.Equal(
            (Filling.Open, Filling.Held, Filling.Held),
            (water.In("before-cv1"), water.In("between-checks"), water.In("behind-cv2"))
        );
    }

    [Fact]
    public void A_loose_hose_holds_air_and_a_connected_one_the_water_of_its_cock()
    {
        var (_, water) = After(FiveValve);
        Assert.Equal(Filling.Air, water.In("high-side"));
        (_, water) = After(FiveValve, new Move.Connect(Parts.HighHose, Parts.Tc2), Open(Parts.Tc2));
        Assert.Equal(Filling.Live, water.In("high-side"));
        Assert.DoesNotContain("high-side", water.Purged);
    }

    [Fact]
    public void Opening_the_bleed_purges_and_taking_the_hose_off_undoes_it()
    {
        Move[] purged =
        [
            new Move.Connect(Parts.HighHose, Parts.Tc2),
            Open(Parts.Tc2),
            Open(Parts.HighBleed),
            Close(Parts.HighBleed),
        ];
        Assert.Contains("high-side", After(FiveValve, purged).Water.Purged);
        Assert.DoesNotContain(
            "high-side",
            After(FiveValve, [.. purged, new Move.TakeOff(Parts.HighHose)]).Water.Purged
        );
    }

    [Fact]
    public void A_three_valve_kit_purges_through_its_bypass_hose()
    {
        var (_, water) = After(
            ThreeValve,
            new Move.Connect(Parts.HighHose, Parts.Tc2),
            Open(Parts.Tc2),
            Open(Parts.BypassControl),
            Open(Parts.HighControl)
        );
        Assert.Superset(
            new HashSet<PartId> { Parts.HighHose, Parts.HighControl, Parts.BypassControl, Parts.BypassHose },
            water.Running.ToHashSet()
        );
        Assert.Contains("high-side", water.Purged);
        Assert.DoesNotContain("low-side", water.Purged);
    }

    [Fact]
    public void An_open_tee_spills_what_SO1_lets_in()
    {
        var (_, water) = After(
            FiveValve,
            new Move.Connect(Parts.BleedOff, Parts.Tc2),
            new Move.Connect(Parts.HighHose, Parts.BleedOff),
            Open(Parts.Tc2),
            Open(Parts.BleedOff)
        );
        Assert.Contains(Parts.BleedOff, water.Running);
    }

    public static TheoryData<string> Kits => [.. Kit.All.Select(k => k.Name)];

    [Theory]
    [MemberData(nameof(Kits))]
    public void Every_instruction_of_every_kit_is_a_sentence_about_parts_that_the_kit_has(string kit)
    {
        var rig = new Rig(DoubleCheck.Body, Kit.Named(kit)!);
        var instructions = SampleRun
            .PlanWith(rig.Kit)
            .Sheet.EveryStep()
            .SelectMany(s => s.Step.Acts)
            .Select(a => a.For(rig))
            .ToList();
        Assert.All(instructions, i => Assert.True(char.IsUpper(i.Say[0]) && i.Say.EndsWith('.'), i.Say));
        Assert.All(instructions.SelectMany(i => i.Touches), part => Assert.True(rig.Has(part), part.Value));
        if (!rig.Has(Parts.HighBleed))
            Assert.DoesNotContain(instructions, i => i.Say.Contains(" bleed ", StringComparison.Ordinal));
        if (!rig.Has(Parts.BypassControl))
            Assert.DoesNotContain(instructions, i =>
                i.Say.Contains("bypass control", StringComparison.Ordinal)
                || i.Say.Contains("bypass hose", StringComparison.Ordinal)
            );
    }
}
