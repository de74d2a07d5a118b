using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Drawing;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Training;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>The bench: a rig under hands, its way back, its recording, the sheet beside it.</summary>
public sealed class BenchTests
{
    private const int Second = Recording.PerSecond;

    private static Scenario Rig(string type, string procedure, string kit = "five-valve", string more = "") =>
        RecordingFormat.ReadRig(
            $$"""{"format":"mordel.scenario/1","assembly":{"type":"{{type}}"},"procedure":"{{procedure}}","kit":"{{kit}}"{{more}}}""",
            out _
        )!;

    private static Scenario Dc => Rig("DC", "dc-sight-tube");

    private static BenchAction.Turn Turn(PartId part, double to, int ticks = 0) => new(part, new((decimal)to), ticks);

    private static Gen<T> OneOf<T>(params T[] all) => Gen.Int[0, all.Length - 1].Select(i => all[i]);

    // Anything that hands can do, sensible or not.
    private static readonly Gen<BenchAction> AnyDeed = Gen.OneOf(
        Gen.Select(
            OneOf(
                Parts.So1,
                Parts.So2,
                Parts.Tc1,
                Parts.Tc2,
                Parts.Tc3,
                Parts.Tc4,
                Parts.HighBleed,
                Parts.LowBleed,
                Parts.HighControl,
                Parts.LowControl,
                Parts.BleedOff
            ),
            Gen.Double[0, 1],
            Gen.Int[0, 150],
            (part, to, over) => (BenchAction)Turn(part, Math.Round(to, 4), over)
        ),
        Gen.Select(
            OneOf(Parts.HighHose, Parts.LowHose, Parts.BypassHose, Parts.SightTube, Parts.BleedOff),
            OneOf(Parts.Tc2, Parts.Tc3, Parts.Tc4, Parts.BleedOff),
            (item, to) => (BenchAction)new BenchAction.Connect(item, to)
        ),
        OneOf(Parts.HighHose, Parts.LowHose, Parts.SightTube, Parts.BleedOff)
            .Select(item => (BenchAction)new BenchAction.TakeOff(item)),
        Gen.Int[-14, 14].Select(i => (BenchAction)new BenchAction.Lift(i)),
        Gen.Bool.Select(open => (BenchAction)new BenchAction.DrawOff(open))
    );

    private static readonly Gen<(int Wait, BenchAction What)[]> Hands = Gen.Select(Gen.Int[1, 90], AnyDeed).Array[
        5,
        25
    ];

    [Fact]
    public void Whatever_hands_do_a_tape_played_again_gives_the_same_water_to_the_last_bit() =>
        Hands.Sample(
            hands =>
            {
                var live = new LiveRig(Dc.Situation);
                foreach (var (wait, what) in hands)
                {
                    live.Advance(wait);
                    live.Do(what);
                }

                live.Advance(30);
                var recording = new Recording(Dc, [.. live.Actions], live.Tick);
                Assert.Equal(live.Water.Fingerprint(), recording.Play().Water.Fingerprint());
                // The same through its text.
                var read = RecordingFormat.Read(
                    RecordingFormat.Write(
                        recording,
                        """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"procedure":"dc-sight-tube","kit":"five-valve"}"""
                    ),
                    out var faults
                );
                Assert.Empty(faults);
                Assert.Equal(recording.Actions.AsEnumerable(), read!.Actions);
                Assert.Equal(live.Water.Fingerprint(), read.Play().Water.Fingerprint());
            },
            iter: 12
        );

    [Fact]
    public void A_step_back_to_any_moment_and_the_same_again_leads_to_the_same_water() =>
        Gen.Select(Hands, Gen.Double[0, 1])
            .Sample(
                (hands, part) =>
                {
                    var live = new LiveRig(Dc.Situation);
                    foreach (var (wait, what) in hands)
                    {
                        live.Advance(wait);
                        live.Do(what);
                    }

                    live.Advance(700);
                    var (print, end, actions) = (live.Water.Fingerprint(), live.Tick, live.Actions.ToArray());
                    var back = (int)(part * end);
                    live.Back(back);
                    Assert.Equal(back, live.Tick);
                    Assert.Equal(actions.Where(d => d.At <= back), live.Actions);
                    foreach (var (at, what) in actions.Where(d => d.At > back))
                    {
                        live.Advance(at - live.Tick);
                        live.Do(what);
                    }

                    live.Advance(end - live.Tick);
                    Assert.Equal(print, live.Water.Fingerprint());
                },
                iter: 10
            );

    [Fact]
    public void A_replay_goes_to_any_moment_in_any_order()
    {
        var recording = Demonstration.Record(Dc);
        var desk = new BenchSession(Dc, guided: false);
        desk.Load(recording);
        desk.Seek(recording.End);
        var print = desk.Live.Water.Fingerprint();
        var straight = new Dictionary<int, double>();
        foreach (var tick in new[] { 900, 12_345, 4_000, recording.End / 2, 61 })
        {
            desk.Seek(tick);
            Assert.Equal(tick, desk.Live.Tick);
            straight[tick] = desk.Live.Water.Needle;
        }

        foreach (var (tick, needle) in straight)
            Assert.Equal(
                (recording with { Actions = [.. recording.Actions.Where(d => d.At <= tick)], End = tick })
                    .Play()
                    .Water.Needle,
                needle
            );
        desk.Seek(recording.End);
        Assert.Equal(print, desk.Live.Water.Fingerprint());
    }

    [Fact]
    public void A_valve_turns_as_long_as_the_hand_takes_and_stops_where_the_next_hand_stops_it()
    {
        var live = new LiveRig(Dc.Situation);
        live.Do(Turn(Parts.So2, 0, 2 * Second));
        live.Advance(Second);
        Assert.Equal(0.5m, live.Rig[Parts.So2].Fraction);
        live.Do(Turn(Parts.So2, 0.8));
        live.Advance(Second);
        Assert.Equal(0.8m, live.Rig[Parts.So2].Fraction);
    }

    [Theory]
    [InlineData("so9", "no handle")]
    [InlineData("cv1", "no handle")]
    [InlineData("bleed-off", "Fit the bleed-off tee")]
    public void What_cannot_be_turned_says_why(string part, string why)
    {
        var live = new LiveRig(Dc.Situation);
        Assert.Contains(why, live.Do(Turn(new(part), 1)), StringComparison.Ordinal);
        Assert.Empty(live.Actions);
    }

    [Fact]
    public void A_gauge_lifted_by_hand_reads_what_its_height_adds()
    {
        var actions = Demonstration.Record(Dc).Actions.TakeWhile(d => d.What is not BenchAction.Write).ToArray();
        double Read(decimal off) =>
            new Recording(
                Dc,
                [
                    .. actions.Select(d =>
                        d.What is BenchAction.Lift l ? d with { What = new BenchAction.Lift(l.Inches + off) } : d
                    ),
                ],
                actions[^1].At + (60 * Second)
            )
                .Play()
                .Water.Needle;
        var level = Read(0);
        Assert.Equal(12 * Sizes.PsiPerInch, Read(-12) - level, 0.02);
        Assert.Equal(-3 * Sizes.PsiPerInch, Read(3) - level, 0.02);
    }

    [Fact]
    public void What_happens_is_told_once_in_the_fields_words()
    {
        var live = new LiveRig(Rig("PVB", "pvb-inlet-first").Situation);
        foreach (
            var action in new BenchAction[]
            {
                new BenchAction.Connect(Parts.HighHose, Parts.Tc2),
                Turn(Parts.Tc2, 1),
                Turn(Parts.HighBleed, 1),
            }
        )
        {
            live.Do(action);
            live.Advance(6 * Second);
        }

        foreach (
            var action in new BenchAction[]
            {
                Turn(Parts.HighBleed, 0),
                new BenchAction.Lift(3),
                Turn(Parts.So2, 0, 120),
                Turn(Parts.So1, 0, 120),
                Turn(Parts.HighBleed, 0.015),
            }
        )
        {
            live.Do(action);
            live.Advance(4 * Second);
        }

        live.Advance(240 * Second);
        var said = live.EventLog.All.Select(e => Narrator.Say(e, live.Rig.Rig)).ToList();
        Assert.True(
            said.Count(s => s.StartsWith("The air inlet opens at ", StringComparison.Ordinal)) == 1,
            string.Join(" ", said)
        );
        Assert.InRange(live.EventLog.Last(RigEventKind.InletOpens, Parts.AirInlet)!.Value.Needle, 1.5, 2.2);
        Assert.Single(said, "The high hose (H) is free of air.");
        Assert.Contains("Water runs from the drain tube of the high bleed.", said);
        Assert.DoesNotContain(live.EventLog.All, e => e.What is RigEventKind.Hammer or RigEventKind.SpraysOff);
        Assert.All(live.EventLog.All.Select(e => Narrator.Say(e, live.Rig.Rig, numbers: false)), s =>
            Assert.DoesNotContain("psid", s, StringComparison.Ordinal)
        );
        var words = Narrator.Describe(live);
        foreach (
            var wanted in new[]
            {
                "SO1 closed. SO2 closed.",
                "High hose (H) on TC2.",
                "Air inlet open.",
                "3 inches above",
            }
        )
            Assert.Contains(wanted, words, StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("dc-sight-tube", "five-valve")]
    [InlineData("dc-draw-down", "three-valve")]
    [InlineData("pvb-inlet-first", "two-valve")]
    [InlineData("svb-static-first", "three-valve")]
    [InlineData("svb-check-first", "five-valve")]
    [InlineData("rp-relief-first", "five-valve")]
    [InlineData("rp-check-first", "three-valve")]
    [InlineData("rp-isolation-first", "three-valve")]
    public void The_sheet_ticks_itself_while_a_careful_tester_works_beside_it(string school, string kit)
    {
        var procedure = SchoolCatalogue.Named(school)!;
        var scenario = Rig(procedure.Type.ToString(), school, kit);
        var desk = new BenchSession(scenario, guided: true);
        var guide = desk.Guide!;
        var recording = Demonstration.Record(scenario);
        var reads = new Queue<TimedAction>(
            recording.Actions.Where(d => d.What is BenchAction.Write { Value: ItemValue.Measured })
        );
        guide.Confirm();
        var seen = new HashSet<string>();
        void Learner()
        {
            for (var i = 0; i < 4; i++)
            {
                if (guide.State.Current is not { } now)
                    return;
                seen.Add(now.Key);
                if (guide.WaitsForAWord)
                    guide.Confirm();
                else if (now.Step.Capture is { Item.Kind: not ItemKind.Differential })
                    guide.Take(500);
                else if (
                    guide.AllTurned
                    && now.Step.MustAnswer
                    && now.Step.Sights.FirstOrDefault(s => s.Good) is { } good
                )
                    guide.See(good.Id);
                else if (
                    reads.TryPeek(out var next)
                    && next.At <= desk.Live.Tick
                    && now.Step.Capture is not null
                    && next.What is BenchAction.Write { Value: ItemValue.Measured m }
                )
                {
                    reads.Dequeue();
                    guide.Take(m.Reading.Value.Amount);
                }
                else
                    return;
            }
        }

        foreach (var (at, what) in recording.Actions)
        {
            while (desk.Live.Tick < at)
            {
                desk.Advance(Math.Min(10, at - desk.Live.Tick));
                Learner();
            }

            if (what is not (BenchAction.Write or BenchAction.ReportFinding or BenchAction.Conclude))
                desk.Do(what);
        }

        for (var i = 0; i < 120; i++)
        {
            desk.Advance(10);
            Learner();
        }

        Assert.True(
            guide.State.AtTheEnd || guide.State.Current!.Stage == "finish",
            $"the sheet stands at {guide.State.Current?.Key}: "
                + $"{string.Join(" ", guide.Lines.Select(l => $"[{(l.Done ? "x" : " ")}] {l.Say}"))} "
                + $"{string.Join(" ", guide.Astray)}"
        );
        Assert.True(guide.Plan.VerdictOn(guide.State).Overall is Overall.Pass or Overall.Incomplete);
        Assert.True(guide.State.Readings.Count > 0);
    }

    [Fact]
    public void What_stands_otherwise_than_the_sheet_has_it_is_said_and_forbidden_nothing()
    {
        var desk = new BenchSession(Dc, guided: true);
        desk.Guide!.Confirm();
        Assert.Null(desk.Do(Turn(Parts.So2, 0, 60)));
        desk.Advance(2 * Second);
        Assert.Contains("SO2 is closed; here the sheet has it open.", desk.Guide.Astray);
        desk.Do(new BenchAction.Connect(Parts.LowHose, Parts.Tc4));
        Assert.Contains("The low hose (L) is on TC4; here the sheet has it off.", desk.Guide.Astray);
        Assert.NotNull(desk.Guide.Hint);
    }

    [Fact]
    public void Air_in_the_hose_keeps_the_purging_open()
    {
        var desk = new BenchSession(Dc, guided: true);
        var guide = desk.Guide!;
        guide.Confirm();
        void Do(params BenchAction[] actions)
        {
            foreach (var action in actions)
            {
                Assert.Null(desk.Do(action));
                desk.Advance(Second);
            }
        }

        foreach (var cock in new[] { Parts.Tc1, Parts.Tc2, Parts.Tc3, Parts.Tc4 })
            Do(Turn(cock, 1), Turn(cock, 0));
        desk.Advance(6 * Second);
        while (guide.WaitsForAWord)
            guide.Confirm();
        desk.Advance(2 * Second);
        Do(
            new BenchAction.Connect(Parts.SightTube, Parts.Tc3),
            new BenchAction.Connect(Parts.BleedOff, Parts.Tc2),
            new BenchAction.Connect(Parts.HighHose, Parts.BleedOff)
        );
        desk.Advance(2 * Second);
        Assert.Equal("cv1.fill", guide.State.Current!.Key);
        Do(Turn(Parts.Tc2, 1), Turn(Parts.HighBleed, 0.01), Turn(Parts.HighBleed, 0));
        Assert.Contains(guide.Lines, l => l.Say.Contains("high bleed", StringComparison.Ordinal) && !l.Done);
        Do(Turn(Parts.HighBleed, 1));
        desk.Advance(6 * Second);
        Do(Turn(Parts.HighBleed, 0));
        Assert.All(guide.Lines.Where(l => l.Say.Contains("high bleed", StringComparison.Ordinal)), l =>
            Assert.True(l.Done)
        );
    }

    [Fact]
    public void Everything_that_can_be_tried_otherwise_stands_at_a_step_of_its_school_and_changes_the_water()
    {
        foreach (var otherwise in WhatIf.All)
        {
            var procedure = SchoolCatalogue.Named(otherwise.Procedure)!;
            var scenario = Rig(
                procedure.Type.ToString(),
                otherwise.Procedure,
                procedure.Kits.Contains(KitKind.FiveValve) ? "five-valve" : "three-valve"
            );
            Assert.True(
                scenario.Plan.Sheet.At(otherwise.Step) >= 0,
                $"{otherwise.Procedure} has no step {otherwise.Step}"
            );
            var desk = new BenchSession(scenario, guided: false);
            var before = desk.Live.Water.Fingerprint();
            desk.Try(otherwise);
            desk.Advance((otherwise.Seconds + 1) * Second);
            Assert.StartsWith("The needle ", desk.Told, StringComparison.Ordinal);
            desk.StepBack();
            Assert.Equal(0, desk.Live.Tick);
            Assert.Equal(before, desk.Live.Water.Fingerprint());
            Assert.Empty(desk.Live.Actions);
        }
    }

    [Fact]
    public void A_drawn_rig_is_the_same_for_everyone_and_an_exam_sets_at_most_one_fault()
    {
        var kinds = new HashSet<string>();
        foreach (var school in SchoolCatalogue.All)
        {
            for (var seed = 1; seed <= 60; seed++)
            {
                var drawn = new RandomRig(
                    school,
                    Kit.All.First(k => k.Kind == school.Kits[0]),
                    RandomRigRules.Exam,
                    seed
                );
                var (one, again) = (drawn.Scenario.Situation, drawn.Scenario.Situation);
                Assert.Equal(one.Springs, again.Springs);
                Assert.Equal(one.Faults.AsEnumerable(), again.Faults);
                Assert.Equal((one.Supply, one.SiteBehind), (again.Supply, again.SiteBehind));
                var worn = school.Type == AssemblyTypes.RP && one.Springs.Relief < 2 ? 1 : 0;
                Assert.InRange(one.Faults.Length + worn, 0, 1);
                Assert.True(
                    Limits(one, school.Type) || worn == 1,
                    $"{school.Id} {seed}: a healthy spring fails by itself"
                );
                kinds.Add(
                    $"{school.Type} {string.Join(",", one.Faults.Select(d => $"{d.Part} {d.Kind}"))}"
                        + $"{(worn == 1 ? "rv low" : "")} "
                        + $"{(one.Faults.Any(d => d.Part == Parts.So2) ? one.SiteBehind.Plumbing : null)}"
                );
            }
        }

        // Every fault of the chapter's lists comes up, and sound rigs too.
        foreach (
            var wanted in new[]
            {
                "DC  ",
                "DC cv1 Leaks ",
                "DC cv2 Leaks ",
                "DC so1 Leaks ",
                "DC so2 Leaks OpenOutlet",
                "DC so2 Leaks OwnPressure",
                "PVB cv1 Leaks ",
                "PVB so1 Leaks ",
                "PVB so2 Leaks OpenOutlet",
                "PVB ai StuckClosed ",
                "PVB ai Hangs ",
                "RP cv1 Leaks ",
                "RP cv2 Leaks ",
                "RP rv low ",
                "RP so2 Leaks OpenOutlet",
            }
        )
            Assert.Contains(wanted, kinds);
        Assert.Contains(Enumerable.Range(1, 40), s =>
            new RandomRig(SchoolCatalogue.Named("dc-sight-tube")!, Kit.FiveValve, RandomRigRules.Field, s)
                .Scenario
                .Situation
                .Faults
                .Length > 1
        );
        static bool Limits(Situation s, AssemblyType type) =>
            s.Springs.Cv1 >= (type.Facts().Has(Parts.Relief) ? s.Springs.Relief + 3 : 1)
            && (s.Springs.Cv2 >= 1 || !type.Facts().Has(Parts.Cv2))
            && (s.Springs.Inlet >= 1 || !type.Facts().Has(Parts.AirInlet));
    }

    [Theory]
    [InlineData("""{"format":"mordel.tape/1"}""", "rig: is missing")]
    [InlineData("""{"format":"mordel.tape/2","rig":{},"ticks":1,"deeds":[]}""", "mordel.tape/1")]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":99999999,"deeds":[]}""",
        "ticks: a whole number from 0 to 432000"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":20,"turn":"so1","to":0}]}""",
        "deeds[0].at"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"turn":"so1","to":0},{"at":4,"turn":"so1","to":1}]}""",
        "deeds[1].at: a whole number from 5"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"turn":"cv1","to":0}]}""",
        "\"cv1\" is not a valve of this rig; tc1"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"turn":"so1","to":2}]}""",
        "deeds[0].to: how far it is open"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"connect":"high-hose","on":"so1"}]}""",
        "a cock or the tee"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"write":"relief-opening","value":{"value":2,"unit":"psid"}}]}""",
        "an item of this type"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5}]}""",
        "says nothing that can be done"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":RIG,"ticks":10,"deeds":[{"at":5,"verdict":"perhaps"}]}""",
        "a verdict; pass, fail or not-testable"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":{"format":"mordel.drawn/1","procedure":"rp-relief-first","kit":"two-valve","rules":"exam","seed":1},"ticks":10,"deeds":[]}""",
        "cannot be done with a two-valve kit"
    )]
    [InlineData(
        """{"format":"mordel.tape/1","rig":{"format":"mordel.drawn/1","procedure":"dc-sight-tube","kit":"five-valve","rules":"none","seed":-1},"ticks":10,"deeds":[]}""",
        "rules; exam or field"
    )]
    [InlineData("[]", "object")]
    [InlineData("{", "not readable as JSON")]
    public void A_tape_that_cannot_be_read_says_where_and_why(string text, string fault)
    {
        Assert.Null(
            RecordingFormat.Read(
                text.Replace(
                    "RIG",
                    """{"format":"mordel.scenario/1","assembly":{"type":"DC"},"procedure":"dc-sight-tube","kit":"five-valve"}""",
                    StringComparison.Ordinal
                ),
                out var faults
            )
        );
        Assert.Contains(fault, string.Join(" | ", faults), StringComparison.Ordinal);
    }

    [Theory]
    [InlineData("""{"value":1.83,"unit":"psid","rate":-0.02,"battery":0.87}""", null)]
    [InlineData("""{"value":12,"unit":"kPa"}""", null)]
    [InlineData("""{"value":"1.8","unit":"psid"}""", "value: a number")]
    [InlineData("""{"value":1.8,"unit":"bar"}""", "not a unit of differential pressure")]
    [InlineData("""{"value":1.8,"unit":"psid","battery":3}""", "battery: is outside 0 to 1")]
    [InlineData("""{"value":1e9,"unit":"psid"}""", "value: is outside")]
    [InlineData("""{"unit":"psid"}""", "value: is missing")]
    [InlineData("nonsense", "not readable as JSON")]
    public void A_line_of_a_gauge_is_read_or_says_why_not(string text, string? fault)
    {
        var line = GaugeLine.Read(text, out var faults);
        if (fault is null)
        {
            Assert.Empty(faults);
            Assert.Equal(line, GaugeLine.Read(line!.Write(), out _));
        }
        else
        {
            Assert.Null(line);
            Assert.Contains(fault, string.Join(" | ", faults), StringComparison.Ordinal);
        }
    }

    [Fact]
    public void A_line_in_psid_is_shown_in_the_runs_unit()
    {
        var line = GaugeLine.Read("""{"value":2.0,"unit":"psid","rate":-0.1}""", out _)!.In(Units.DifferentialUnit.Kpa);
        Assert.Equal((13.790m, -0.689m), (line.Value.Amount, line.Rate!.Value));
    }

    [Fact]
    public void Every_body_and_kit_is_drawn_with_every_part_that_a_hand_or_the_water_moves()
    {
        foreach (var body in Bodies.All)
        {
            foreach (var kit in Kit.All)
            {
                var rig = new Rig(body, kit);
                foreach (var flow in new[] { FlowDirection.LeftToRight, FlowDirection.RightToLeft })
                {
                    var drawing = BenchDrawing.Draw(rig, flow, out var svg);
                    System.Xml.Linq.XDocument.Parse(svg);
                    foreach (var part in rig.Parts.Where(p => p.Turns && p.Kind != PartKind.BleedOff))
                        Assert.Contains(
                            $"data-part=\"{part.Id}\" tabindex=\"0\" role=\"slider\"",
                            svg,
                            StringComparison.Ordinal
                        );
                    foreach (
                        var part in rig.Parts.Where(p => p.Kind is PartKind.Check or PartKind.Relief or PartKind.Inlet)
                    )
                        Assert.Contains($"data-disc=\"{part.Id}\"", svg, StringComparison.Ordinal);
                    foreach (var chamber in rig.Body.Chambers)
                        Assert.Contains($"data-cell=\"{chamber.Id}\"", svg, StringComparison.Ordinal);
                    Assert.Equal(rig.Parts.Count(p => p.Kind == PartKind.Cock), drawing.Outlets.Count);
                    Assert.All(drawing.Outlets.Values.Concat(drawing.Ports.Values).Concat(drawing.Shelf.Values), spot =>
                        Assert.True(spot.X > 0 && spot.X < drawing.Size.X && spot.Y > 0 && spot.Y < drawing.Size.Y)
                    );
                }
            }
        }

        // Mirrored, the first cock stands at the other end.
        var (right, left) = (
            BenchDrawing.Draw(new(DoubleCheck.Body, Kit.FiveValve), FlowDirection.LeftToRight, out _),
            BenchDrawing.Draw(new(DoubleCheck.Body, Kit.FiveValve), FlowDirection.RightToLeft, out _)
        );
        Assert.True(
            right.Outlets[Parts.Tc1].X < right.Outlets[Parts.Tc4].X
                && left.Outlets[Parts.Tc1].X > left.Outlets[Parts.Tc4].X
        );
        // Level on the sheet is level at the rig: higher is higher, and a cock's outlet is where its cock is drawn.
        for (var i = -14.0; i < 14; i += 0.25)
            Assert.True(BenchDrawing.Level(i + 0.25) < BenchDrawing.Level(i));
        Assert.Equal(right.Outlets[Parts.Tc2].Y, BenchDrawing.Level(1));
    }

    [Fact]
    public void A_screen_is_told_everything_in_text_and_in_rows_of_one_length()
    {
        var desk = new BenchSession(Dc, guided: true);
        var row = desk.View.Row();
        Assert.Equal(
            BenchView.Head + (2 * desk.View.Chambers.Count) + (3 * desk.View.Parts.Count) + desk.View.Hoses.Count,
            row.Length
        );
        Assert.All(row, n => Assert.True(double.IsFinite(n)));
        using var layout = System.Text.Json.JsonDocument.Parse(
            BenchViews.Layout(desk, FlowDirection.LeftToRight, open: false)
        );
        Assert.False(layout.RootElement.TryGetProperty("truth", out _), "an exam does not tell what is wrong");
        Assert.Equal(
            ["check-1", "check-2"],
            layout.RootElement.GetProperty("wanted").EnumerateArray().Select(w => w.GetProperty("id").GetString())
        );
        using var sheet = System.Text.Json.JsonDocument.Parse(BenchViews.Sheet(desk));
        Assert.Equal("Before the test", sheet.RootElement.GetProperty("title").GetString());
        Assert.True(sheet.RootElement.GetProperty("confirm").GetBoolean());
    }

    [Fact]
    public void A_tube_that_fills_and_empties_is_told_and_described()
    {
        var live = new LiveRig(Dc.Situation);
        foreach (
            var action in new BenchAction[] { new BenchAction.Connect(Parts.SightTube, Parts.Tc3), Turn(Parts.Tc3, 1) }
        )
        {
            live.Do(action);
            live.Advance(4 * Second);
        }

        Assert.Contains(live.EventLog.All, e => e.What == RigEventKind.TubeFull);
        Assert.Contains("Tube 100 per cent full.", Narrator.Describe(live), StringComparison.Ordinal);
        Assert.Contains("The sight tube pours.", Narrator.Describe(live), StringComparison.Ordinal);
        live.Do(Turn(Parts.Tc3, 0));
        live.Advance(3 * Second);
        Assert.Equal(RigEventKind.Dry, live.EventLog.Stream(Parts.SightTube));
    }

    [Fact]
    public void A_shutoff_shut_at_a_blow_with_water_running_knocks_and_a_slow_one_does_not()
    {
        foreach (var (ticks, knocks) in new[] { (6, true), (3 * Second, false) })
        {
            var live = new LiveRig(Dc.Situation);
            live.Do(new BenchAction.DrawOff(true));
            live.Advance(2 * Second);
            live.Do(Turn(Parts.So1, 0, ticks));
            live.Advance(5 * Second);
            Assert.Equal(knocks, live.EventLog.All.Any(e => e.What == RigEventKind.Hammer && e.Part == Parts.So1));
        }
    }

    [Fact]
    public void A_vent_screw_taken_out_under_pressure_is_blown_out()
    {
        var live = new LiveRig(Rig("SVB", "svb-check-first").Situation);
        live.Do(Turn(Parts.VentScrew, 1));
        live.Advance(Second);
        var blown = live.EventLog.Last(RigEventKind.BlowsOut, Parts.VentScrew);
        Assert.NotNull(blown);
        Assert.Contains("psi behind it", Narrator.Say(blown.Value, live.Rig.Rig), StringComparison.Ordinal);
    }

    [Fact]
    public void A_step_back_takes_the_sheets_entries_back_too()
    {
        var desk = new BenchSession(Dc, guided: true);
        desk.Advance(2 * Second);
        Assert.Equal("before.notify", desk.Guide!.State.Current!.Key);
        desk.Guide.Confirm();
        Assert.Equal("ready.flush", desk.Guide.State.Current!.Key);
        desk.Advance(Second);
        desk.Back(Second);
        Assert.Equal("before.notify", desk.Guide.State.Current!.Key);
    }

    [Fact]
    public void A_bench_ends_after_its_two_hours_and_says_so()
    {
        var desk = new BenchSession(Dc, guided: false);
        desk.Load(new Recording(Dc, [], Recording.Longest));
        for (var action = 0; action < Recording.Most; action++)
            Assert.Null(desk.Do(new BenchAction.DrawOff(action % 2 == 0)));
        Assert.True(desk.IsOver);
        Assert.Contains("Hand in", desk.Do(new BenchAction.DrawOff(true)), StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_wrong_is_said_in_the_fields_words()
    {
        string Truth(string type, string procedure, string more) =>
            string.Join(". ", SituationText.Describe(Rig(type, procedure, more: more).Situation));
        Assert.Equal("Nothing is wrong with it", Truth("DC", "dc-sight-tube", ""));
        Assert.Equal(
            "SO2 leaks (weep). 70 psi stand behind it",
            Truth(
                "DC",
                "dc-sight-tube",
                ""","faults":[{"part":"so2","fault":"leaks","size":"weep"}],"site":{"back-pressure":{"value":70,"unit":"psi"}}"""
            )
        );
        Assert.Equal(
            "AI opens only partly. The needle rests 0.4 off zero",
            Truth(
                "PVB",
                "pvb-inlet-first",
                ""","faults":[{"part":"ai","fault":"hangs"},{"part":"kit","fault":"zero-offset","by":0.4}]"""
            )
        );
        Assert.Equal(
            [
                "cv1-leaks",
                "cv2-leaks",
                "so1-leaks",
                "so2-leaks-with-flow",
                "so2-leaks-back-pressure",
                "cock-blocked",
                "hoses-swapped",
            ],
            FindingKind.All.Where(f => f.AppliesTo(Bodies.Find(AssemblyTypes.DC))).Select(f => f.Id)
        );
    }

    [Theory]
    [InlineData("RP", FlowDirection.Upward, true)]
    [InlineData("DC", FlowDirection.Downward, true)]
    [InlineData("DC", FlowDirection.RightToLeft, false)]
    [InlineData("PVB", FlowDirection.Upward, false)]
    [InlineData("SVB", FlowDirection.Downward, false)]
    public void An_assembly_that_stands_is_drawn_standing_and_a_vacuum_breaker_never(
        string type,
        FlowDirection flow,
        bool stands
    )
    {
        var rig = new Rig(Bodies.Find(new(type)), Kit.FiveValve);
        var drawing = Drawing.BenchDrawing.Draw(rig, flow, out var svg);
        Assert.Equal(stands, drawing.Stands);
        var cocks = rig.Body.AllCocks.Select(c => drawing.Outlets[c]).ToList();
        Assert.Equal(stands ? 1 : cocks.Count, cocks.Select(c => c.X).Distinct().Count());
        Assert.Equal(stands ? cocks.Count : 1, cocks.Select(c => c.Y).Distinct().Count());
        if (stands)
            Assert.Equal(flow == FlowDirection.Upward, cocks[0].Y > cocks[^1].Y);
        // Nothing lies outside the sheet, and what falls reaches the floor beside the pipe.
        Assert.All(cocks.Concat(drawing.Ports.Values).Concat(drawing.Shelf.Values), spot =>
            Assert.True(spot.X >= 0 && spot.X <= drawing.Size.X && spot.Y >= 0 && spot.Y <= drawing.Size.Y)
        );
        Assert.Equal(stands, svg.Contains("rotate(-90)", StringComparison.Ordinal));
        Assert.All(rig.Body.AllCocks, c => Assert.Contains($"data-spill=\"{c}\"", svg, StringComparison.Ordinal));
    }
}
