using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>What water does, whatever anybody turns in whatever order.</summary>
public class WaterTests
{
    private static WaterModel HookedUpRp(string words = "")
    {
        var water = Bench.Water("rp-relief-first", words);
        water.HookUpTwoHoses();
        water.Turn(10, (Parts.So2, 0));
        return water;
    }

    private static void Balanced(WaterModel water, double before, double inBefore = 0, double outBefore = 0)
    {
        var through = Math.Max(1, Math.Max(water.CameIn, water.WentOut));
        Assert.InRange(
            Math.Abs(water.CameIn - inBefore - (water.WentOut - outBefore) - (water.Stored - before)) / through,
            0,
            1e-9
        );
    }

    public static TheoryData<string, string> AnyRig
    {
        get
        {
            var data = new TheoryData<string, string>();
            foreach (var school in Cases.Rows(Schools.SchoolCatalogue.All, nameof(AnyRig)))
            foreach (
                var words in new[]
                {
                    "",
                    "so1 leaks, so2 leaks; open -60",
                    "so2 leaks gush; pressure 120",
                    "kit air-in-hoses; supply 25",
                    "cv1 leaks; pressure 30; supply 150",
                }
            )
                data.Add(school.Id, words);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(AnyRig))]
    public void Whatever_is_turned_at_random_no_water_is_made_or_lost_and_every_number_stays_a_number(
        string school,
        string words
    )
    {
        var random = new Random(school.Length + (31 * words.Length));
        var water = Bench.Water(school, words);
        var before = water.Stored;
        for (var i = 0; i < 250; i++)
        {
            var part = water.Rig.Rig.Parts[random.Next(water.Rig.Rig.Parts.Length)];
            Move move =
                part.Turns
                    ? new Move.Turn(
                        part.Id,
                        new Opening(
                            random.Next(4) switch
                            {
                                0 => 0m,
                                1 => 1m,
                                _ => (decimal)Math.Round(random.NextDouble(), 3),
                            }
                        )
                    )
                : part.Attaches && water.Rig.Connections.ContainsKey(part.Id) && random.Next(2) == 0
                    ? new Move.TakeOff(part.Id)
                : part.Attaches
                    ? new Move.Connect(
                        part.Id,
                        water.Rig.Rig.Body.AllCocks[random.Next(water.Rig.Rig.Body.AllCocks.Length)]
                    )
                : new Move.Hold(new(water.Rig.Rig.Body.AllCocks[0]));
            water.Set(water.Rig.Apply(move).State);
            if (random.Next(20) == 0)
                water.TapOpen = !water.TapOpen;
            water.Run(random.NextDouble() * 3);
            Assert.All(water.Chambers, c => Assert.InRange(water.PressureIn(c), -15, 160));
            Assert.InRange(water.Needle, -2.1, 15.1);
            Balanced(water, before);
        }

        Assert.InRange(water.Steps, 1000, 300_000);
    }

    [Fact]
    public void The_same_moves_give_the_same_water_to_the_last_bit_and_a_moment_can_be_gone_back_to()
    {
        var (one, two) = (HookedUpRp("cv1 leaks weep"), HookedUpRp("cv1 leaks weep"));
        Assert.Equal(one.Moment().Numbers, two.Moment().Numbers);
        var moment = one.Moment();
        one.Turn(20, (Parts.LowControl, 0.02m), (Parts.HighControl, 1));
        var after = one.Moment().Numbers;
        one.Return(moment);
        Assert.Equal(moment.Numbers, one.Moment().Numbers);
        one.Turn(20, (Parts.LowControl, 0.02m), (Parts.HighControl, 1));
        Assert.Equal(after, one.Moment().Numbers);
        two.Return(moment);
        two.Turn(20, (Parts.LowControl, 0.02m), (Parts.HighControl, 1));
        Assert.Equal(after, two.Moment().Numbers);
    }

    [Fact]
    public void A_moment_in_which_running_water_carries_air_off_goes_on_to_the_last_bit()
    {
        var water = new WaterModel(HookedUpRp("").Situation);
        // Drained between the shutoffs, shut in with its air, then filled and run through.
        water.Turn(6, (Parts.So2, 0), (Parts.So1, 0), (Parts.Tc2, 1));
        water.Turn(6, (Parts.Tc3, 1), (Parts.Tc4, 1));
        water.Turn(1, (Parts.Tc2, 0), (Parts.Tc3, 0), (Parts.So1, 0.05m));
        for (var i = 0; i < 20; i++)
        {
            var moment = water.Moment();
            water.Run(0.05);
            var after = water.Fingerprint();
            water.Return(moment);
            water.Run(0.05);
            Assert.Equal(after, water.Fingerprint());
        }
    }

    [Fact]
    public void Nothing_is_allocated_while_the_water_runs()
    {
        var water = HookedUpRp("so2 leaks; open");
        water.Run(5);
        var before = GC.GetAllocatedBytesForCurrentThread();
        water.Run(200);
        Assert.Equal(before, GC.GetAllocatedBytesForCurrentThread());
    }

    [Fact]
    public void A_train_of_checks_at_rest_keeps_each_spring() =>
        Gen.Select(Gen.Double[5, 11], Gen.Double[1.0, 2.5], Gen.Double[25, 150])
            .Sample(
                (cv1, cv2, supply) =>
                {
                    var water = Bench.Water(
                        "rp-relief-first",
                        $"; springs cv1={cv1:0.000} cv2={cv2:0.000} rv=2.5; supply {supply:0.00}"
                    );
                    water.Run(300);
                    Assert.InRange(water.PressureIn("before-cv1") - water.PressureIn("zone"), cv1 - 0.002, cv1 + 0.002);
                    Assert.InRange(water.PressureIn("zone") - water.PressureIn("behind-cv2"), cv2 - 0.002, cv2 + 0.002);
                },
                iter: Cases.Of(60)
            );

    [Fact]
    public void The_relief_dumps_when_TC2_is_opened_on_a_thin_supply_with_nothing_running_and_not_with_TC4_running()
    {
        var thin = new Situation
        {
            Rig = new(ReducedPressureZone.FourCock, Kit.FiveValve),
            Springs = new(6, 1.5, 3, 0),
            Supply = new(40),
            Sizes = Sizes.Usual with { Main = 6 },
        };
        double MostSpilled(WaterModel water)
        {
            var most = 0.0;
            for (var open = 0.02m; open <= 1; open += 0.02m)
            {
                water.Turn(0.1, (Parts.Tc2, open));
                most = Math.Max(most, water.Spills(Parts.Relief));
            }

            return most;
        }

        Assert.InRange(MostSpilled(new(thin)), 0.01, 20);
        var careful = new WaterModel(thin);
        careful.Turn(2, (Parts.Tc4, 1));
        Assert.Equal(0, MostSpilled(careful));
    }

    [Fact]
    public void The_relief_pours_when_the_low_control_is_flung_open()
    {
        var water = HookedUpRp();
        water.Turn(3, (Parts.HighControl, 1), (Parts.LowControl, 1));
        Assert.True(water.Spills(Parts.Relief) > 0.5, $"{water.Spills(Parts.Relief)}");
        Assert.True(water.Needle < 2.5, "with the control wide open the hoses take their share and it reads low");
    }

    [Fact]
    public void Hoses_swapped_lay_the_needle_at_its_stop()
    {
        var water = Bench.Water("rp-relief-first", "");
        water.Put(Parts.LowHose, Parts.Tc2);
        water.Put(Parts.HighHose, Parts.Tc3);
        water.Turn(5, (Parts.Tc2, 1), (Parts.Tc3, 1), (Parts.HighBleed, 1), (Parts.LowBleed, 1));
        water.Turn(5, (Parts.HighBleed, 0), (Parts.LowBleed, 0));
        Assert.Equal(-2, water.Needle, 3);
    }

    [Fact]
    public void SO1_before_SO2_empties_a_vacuum_breaker_toward_an_open_site_and_drops_the_inlet_unread()
    {
        var wrong = Bench.Water("pvb-inlet-first", "; open -24");
        wrong.Turn(10, (Parts.So1, 0));
        Assert.True(wrong.InletOpen);
        var right = Bench.Water("pvb-inlet-first", "; open -24");
        right.Turn(3, (Parts.So2, 0));
        right.Turn(60, (Parts.So1, 0));
        Assert.False(right.InletOpen);
    }

    private static WaterModel CheckAgainstTheTube(string words)
    {
        var water = Bench.Water("dc-sight-tube", words);
        water.HookUpTheTube();
        return water;
    }

    [Fact]
    public void A_tee_opened_too_far_drops_the_needle()
    {
        var water = CheckAgainstTheTube("");
        water.Turn(30, (Parts.Tc3, 1));
        Assert.Equal(2.1, water.Needle, 1);
        water.Turn(30, (Parts.BleedOff, 0.3m));
        Assert.True(water.Needle < 0.3, $"{water.Needle}");
    }

    [Theory]
    [InlineData(-12, 0.4332)]
    [InlineData(-3, 0.1083)]
    [InlineData(3, -0.1083)]
    public void A_gauge_held_low_reads_high_by_the_water_above_it(double inches, double more)
    {
        var (level, off) = (CheckAgainstTheTube(""), CheckAgainstTheTube($"kit gauge-height {inches}"));
        level.Turn(60, (Parts.Tc3, 1));
        off.Turn(60, (Parts.Tc3, 1));
        Assert.Equal(more, off.Needle - level.Needle, 3);
    }

    [Fact]
    public void Air_left_in_a_hose_makes_the_needle_slow()
    {
        double SecondsToSettle(string words)
        {
            var water = CheckAgainstTheTube(words);
            water.Turn(0, (Parts.Tc3, 0.002m));
            while (water.Needle > 4 && water.Time < 600)
                water.Run(0.1);
            var began = water.Time;
            while (water.Needle > 2.5 && water.Time < 600)
                water.Run(0.1);
            return water.Time - began;
        }

        Assert.InRange(SecondsToSettle("kit air-in-hoses") / SecondsToSettle(""), 1.3, 100);
    }

    [Fact]
    public void An_inlet_of_a_spill_resistant_breaker_is_held_by_the_supply_side_while_the_body_stands_open()
    {
        var water = Bench.Water("svb-check-first", "; springs cv1=3 ai=1.5");
        water.Turn(2, (Parts.So2, 0));
        water.Turn(2, (Parts.So1, 0));
        water.Turn(60, (Parts.VentScrew, 1));
        Assert.False(water.InletOpen);
        water.Turn(0, (Parts.Tc1, 0.001m));
        while (!water.InletOpen && water.Time < 2000)
            water.Run(0.05);
        Assert.Equal(1.5, water.PressureIn("before-cv1") - (1.5 * Sizes.PsiPerInch), 1);
    }

    [Fact]
    public void A_zone_without_supply_empties_through_its_relief()
    {
        var water = Bench.Water("rp-relief-first", "");
        water.Turn(1, (Parts.So1, 0));
        water.Turn(60, (Parts.Tc2, 1));
        Assert.InRange(water.PressureIn("zone"), -0.1, 2.6);
    }

    [Fact]
    public void A_swinging_main_swings_the_gauge_of_one_hose_and_hardly_that_of_two()
    {
        var still = HookedUpRp().Situation;
        var water = new WaterModel(still with { Supply = new(60, 5, 10) });
        var (low, high) = (double.MaxValue, double.MinValue);
        for (var i = 0; i < 400; i++)
        {
            water.Run(0.1);
            (low, high) = (
                Math.Min(low, water.PressureIn("before-cv1")),
                Math.Max(high, water.PressureIn("before-cv1"))
            );
        }

        Assert.InRange(high - low, 4, 10.1);
        Assert.Throws<ArgumentException>(() => water.PressureIn("attic"));
    }
}
