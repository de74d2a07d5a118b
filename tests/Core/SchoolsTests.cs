using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>
/// Every school is proved by doing it on the rig: with every kit it allows, under every profile that has it, with and
/// without what a site may add.
/// </summary>
public class SchoolsTests
{
    private const int ShortWatch = 10;

    private static readonly BodyFeatures[] Sites =
    [
        default,
        new(FittedCocks: true),
        new(Strainer: true),
        new(BypassLine: true),
        new(true, true, true),
    ];

    private static readonly System.Collections.Concurrent.ConcurrentDictionary<
        (string School, string Kit),
        RunPlan[]
    > Written = new();

    private static IEnumerable<RunPlan> Plans() => SchoolsAndKits.SelectMany(x => Plans((string)x[0], (string)x[1]));

    // A sheet is written once; runs of it are many.
    internal static IEnumerable<RunPlan> Plans(string school, string kit) =>
        Written.GetOrAdd((school, kit), _ =>
            [
                .. from profile in BuiltInProfiles
                    .All.Where(p => p.School(school) is not null)
                    .SelectMany(p => new[] { p, Everything(p) })
                from body in Bodies.Choices(SchoolCatalogue.Named(school)!.Type)
                from site in Sites
                select SampleRun.PlanWith(Kit.Named(kit)!, profile, school, site, body),
            ]
        );

    // The same profile with every optional step switched on and short watches.
    private static Profile Everything(Profile profile) =>
        profile with
        {
            Schools =
            [
                .. profile.Schools.Select(s =>
                    s with
                    {
                        HoldSeconds = ShortWatch,
                        RestAboveReliefIsTight = true,
                        Variants = [.. StepVariant.LeftOpenBy(s.ProcedureId)],
                        Items = [.. s.Items.Select(i => i with { Asked = true })],
                    }
                ),
            ],
        };

    public static TheoryData<string, string> SchoolsAndKits
    {
        get
        {
            var data = new TheoryData<string, string>();
            foreach (
                var (school, kit) in Cases.Rows(
                    SchoolCatalogue.All.SelectMany(s =>
                        Kit.All.Where(k => s.Kits.Contains(k.Kind)).Select(k => (s.Id, k.Name))
                    ),
                    nameof(SchoolsAndKits)
                )
            )
                data.Add(school, kit);
            return data;
        }
    }

    private static void FindsTheRigAsItNeedsIt(SampleRun run, string how)
    {
        if (run.State.Current is not { } now)
            return;
        foreach (var need in now.Step.Needs)
            Assert.True(
                need.Holds(run.State.Rig, run.State.Water),
                $"{run.Plan.Procedure.Id}, {run.Plan.Rig.Kit.Name}, {run.Plan.Rig.Body.Name}, {how}: {now.Key} "
                    + $"needs: {need.Text}"
            );
    }

    private static void IsRestored(RigState rig, Arrival arrival)
    {
        Assert.Empty(rig.Connections);
        Assert.All(rig.Rig.Body.Parts.Where(p => p.Turns), p =>
            Assert.Equal((p.Id, arrival.At(p.Id, rig.Rig.Body)), (p.Id, rig[p.Id].AsPosition()))
        );
        Assert.All(rig.Rig.Kit.Parts.Where(p => p.Turns), p => Assert.True(rig[p.Id].IsOpen, p.Label));
    }

    // A step for a line that was found shut comes in a run of which that is so.
    private static Arrival ArrivalFor(RunPlan plan, string stepId)
    {
        var step = plan.Sheet.Steps[plan.Sheet.At(stepId)].Step;
        return Arrival.All.First(a => step.Belongs(plan.Rig, a.On(plan.Rig.Body)));
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void However_the_line_was_found_each_step_finds_the_rig_as_it_needs_it_and_the_end_is_as_entered(
        string school,
        string kit
    )
    {
        foreach (var arrival in Arrival.All)
            Assert.All(
                Plans(school, kit)
                    .Where(p =>
                        arrival == Arrival.NotEntered
                        || (p.Rig.Body.Features == default && p.School.HoldSeconds != ShortWatch)
                    ),
                plan =>
                {
                    var run = SampleRun.Of(plan).Found(arrival);
                    while (run.State.Current is not null)
                    {
                        FindsTheRigAsItNeedsIt(run, arrival.Name);
                        run.GoesOn();
                    }

                    IsRestored(run.State.Rig, arrival);
                    Assert.Empty(run.State.SetAside);
                    Assert.Equal(Overall.Pass, run.Verdict.Overall);
                }
            );
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void SO1_is_opened_on_a_shut_line_only_with_SO2_and_every_cock_shut(string school, string kit)
    {
        foreach (var arrival in Arrival.All.Where(a => a.So1 == ValvePosition.Closed))
        {
            var run = SampleRun.Of(Plans(school, kit).First()).Found(arrival).Through();
            var charged = run.State.RigHistory.First(s => s[Parts.So1].IsOpen);
            Assert.False(charged[Parts.So2].IsOpen);
            Assert.All(ValvePositions.Drains(run.Plan.Rig.Body), c => Assert.False(charged[c].IsOpen));
        }
    }

    [Fact]
    public void What_is_entered_late_or_taken_back_still_decides_the_end()
    {
        var late = SampleRun.Begun().OnTo("cv2.read").Found(Arrival.Named("shut at SO2")).Through();
        Assert.False(late.State.Rig[Parts.So2].IsOpen);
        Assert.Empty(late.State.SetAside);
        var takenBack = SampleRun.Begun().Found(new("only SO1", ValvePosition.Closed));
        Assert.Contains(takenBack.State.Ahead, p => p.Step.Id == "charge.line");
        Assert.DoesNotContain(takenBack.Says(new EntryBody.TookBack(takenBack.Log.Entries.First().Id)).State.Ahead, p =>
            p.Step.Id == "charge.line"
        );
        var nowhere = SampleRun.Begun().Says(new EntryBody.AsFound(Parts.T1, ValvePosition.Open));
        Assert.Single(nowhere.State.SetAside);
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void No_step_asks_for_a_move_that_cannot_be_made(string school, string kit)
    {
        Assert.All(Plans(school, kit), plan =>
        {
            var state = plan.Rig.InService();
            foreach (var move in plan.Sheet.Steps.SelectMany(s => plan.Sheet.MovesOf(s.Step)))
            {
                var made = state.Apply(move);
                Assert.Null(made.Refusal);
                state = made.State;
            }
        });
    }

    // Every way a run can go with one thing seen that should not be: the path of sights that leads to each.
    private static IEnumerable<(string StepId, string[] Path)> SightObservations(Step step, string[] path)
    {
        foreach (var sight in step.Sights.Where(s => !s.Good))
        {
            string[] to = [.. path, sight.Id];
            yield return (step.Id, to);
            foreach (var branch in sight.Branch)
            foreach (var (_, deeper) in SightObservations(branch, to))
                yield return (step.Id, deeper);
        }
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void Whatever_is_seen_the_rig_is_as_the_next_step_needs_it_and_the_tester_comes_to_the_end(
        string school,
        string kit
    )
    {
        foreach (var plan in Plans(school, kit).Where(p => p.Rig.Body.Features == default))
        foreach (var (stepId, path) in plan.Sheet.Steps.SelectMany(s => SightObservations(s.Step, [])))
        {
            var arrival = ArrivalFor(plan, stepId);
            var run = SampleRun.Of(plan).Found(arrival);
            var how = $"{stepId}: {string.Join(", then ", path)}";
            var left = new Queue<string>(path);
            for (var i = 0; run.State.Current is { } now; i++)
            {
                Assert.True(i < 300, $"{how} does not end");
                FindsTheRigAsItNeedsIt(run, how);
                var reached =
                    left.Count == path.Length
                        ? now.Step.Id == stepId
                        : now.Step.SightNamed(left.TryPeek(out var next) ? next : "") is not null;
                if (left.Count > 0 && reached && now.Step.SightNamed(left.Peek()) is not null)
                    run.Sees(left.Dequeue());
                else
                    run.GoesOn();
            }

            Assert.Empty(left);
            IsRestored(run.State.Rig, arrival);
            Assert.Empty(run.State.SetAside);
            Assert.True(run.Verdict.Items.Length > 0);
        }
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void From_any_step_one_can_go_back_to_any_step_that_was_reached_and_finds_the_rig_there_as_it_was(
        string school,
        string kit
    )
    {
        var plan = Plans(school, kit).First();
        foreach (var arrival in new[] { Arrival.NotEntered, Arrival.Drained })
        {
            var steps = plan
                .Sheet.Steps.Where(s => s.Step.Belongs(plan.Rig, arrival.On(plan.Rig.Body)))
                .Select(s => s.Step.Id)
                .ToList();
            // From the last step of each stage: between stages hoses and valves differ most.
            foreach (
                var from in plan
                    .Sheet.WholeRun.Skip(1)
                    .Select(s => steps.IndexOf(s.Steps.Last(x => steps.Contains(x.Id)).Id))
                    .TakeLast(arrival == Arrival.Drained ? 2 : 99)
            )
                for (var to = 0; to < from; to++)
                {
                    var run = SampleRun
                        .Of(plan)
                        .Found(arrival)
                        .OnTo(steps[from])
                        .Says(new EntryBody.WentBack(steps[to]));
                    Assert.Empty(run.State.SetAside);
                    for (var i = 0; i < 12 && run.State.Current is not null; i++)
                    {
                        FindsTheRigAsItNeedsIt(run, $"{arrival.Name}, back from {steps[from]} to {steps[to]}");
                        run.GoesOn();
                    }

                    IsRestored(run.Through().State.Rig, arrival);
                }
        }
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void Every_step_says_why_every_sight_what_it_means_and_names_are_unique(string school, string kit)
    {
        foreach (var plan in Plans(school, kit))
        {
            var steps = plan.Sheet.EveryStep().ToList();
            Assert.All(steps, s => Assert.False(string.IsNullOrWhiteSpace(s.Step.Why), s.Path));
            Assert.All(steps.SelectMany(s => s.Step.Sights), s =>
                Assert.False(string.IsNullOrWhiteSpace(s.Means), s.Id)
            );
            Assert.All(steps, s =>
                Assert.Equal(s.Step.Sights.Length, s.Step.Sights.Select(x => x.Id).Distinct().Count())
            );
            Assert.All(steps.Where(s => s.Step.MustAnswer), s => Assert.NotEmpty(s.Step.Sights));
            Assert.All(steps.SelectMany(s => s.Step.Sights).Where(s => s.Again is not null), s =>
                Assert.True(plan.Sheet.At(s.Again!) >= 0, s.Again)
            );
            Assert.All(steps.SelectMany(s => s.Step.Sights).SelectMany(s => s.Findings), f =>
                Assert.Contains(f.Id, KnownFindings)
            );
            Assert.Equal(steps.Count, steps.Select(s => s.Path).Distinct().Count());
        }
    }

    private static readonly string[] KnownFindings =
    [
        "cv1-leaks",
        "cv2-leaks",
        "relief-leaks",
        "relief-low",
        "relief-stuck",
        "inlet-stuck",
        "inlet-not-full",
        "so1-leaks",
        "so2-leaks-with-flow",
        "so2-leaks-back-pressure",
        "not-static",
        "cock-blocked",
        "hoses-swapped",
    ];

    [Fact]
    public void All_eight_schools_are_there_and_each_required_item_has_its_step() => Assert.All(Plans(), plan =>
        {
            var taken = plan
                .Sheet.EveryStep()
                .SelectMany(s =>
                    s.Step.Sights.SelectMany(x => x.Gives.Select(g => g.Item)).Append(s.Step.Capture?.Item)
                )
                .OfType<TestItem>()
                .ToHashSet();
            TestItem[] derived = [TestItem.ReliefBuffer, TestItem.CheckAboveInlet];
            Assert.All(
                plan.School.Items.Where(i => i.Requirement == Requirement.Required && !derived.Contains(i.Item)),
                i => Assert.Contains(i.Item, taken)
            );
        });

    [Fact]
    public void An_RP_is_not_tested_with_a_two_valve_kit_and_is_told_so_kindly()
    {
        Assert.All(SchoolCatalogue.All.Where(s => s.Type == AssemblyTypes.RP), s =>
            Assert.Contains("bypass hose", s.Unfit(Kit.TwoValve), StringComparison.Ordinal)
        );
        Assert.Null(SchoolCatalogue.Named("pvb-inlet-first")!.Unfit(Kit.TwoValve));
    }

    private static int Line(string text, string words) =>
        text.IndexOf(words, StringComparison.Ordinal) is >= 0 and var at
            ? at
            : throw new InvalidOperationException($"The sheet does not say \"{words}\".");

    private static string Sheet(string school, Kit kit) =>
        RunSheetText.Write(SchoolCatalogue.Sheet(SchoolCatalogue.Named(school)!, kit));

    [Fact]
    public void Relief_first_reads_CV2_before_CV1_with_bleeds_and_CV1_first_without_them()
    {
        var (five, three) = (Sheet("rp-relief-first", Kit.FiveValve), Sheet("rp-relief-first", Kit.ThreeValve));
        Assert.True(Line(five, "CV2 HOLDS AGAINST") < Line(five, "CV1 HOLDS"));
        Assert.True(Line(three, "CV1 HOLDS") < Line(three, "CV2 HOLDS AGAINST"));
        Assert.True(Line(five, "RELIEF VALVE OPENS") < Line(five, "CV2 HOLDS AGAINST"));
    }

    [Fact]
    public void In_relief_first_SO1_stays_open_throughout()
    {
        var run = SampleRun.Of("rp-relief-first").Through();
        Assert.All(run.State.RigHistory, s => Assert.True(s[Parts.So1].IsOpen));
    }

    [Fact]
    public void While_the_relief_is_read_the_high_control_is_open_and_the_low_one_barely()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("rv.feed").GoesOn();
        Assert.Equal(
            (Opening.Full, Opening.QuarterTurn, false),
            (
                run.State.Rig[Parts.HighControl],
                run.State.Rig[Parts.LowControl],
                run.State.Rig[Parts.BypassControl].IsOpen
            )
        );
    }

    [Fact]
    public void On_a_vacuum_breaker_SO2_is_shut_before_SO1()
    {
        var run = SampleRun.Of("pvb-inlet-first", Kit.TwoValve).Through();
        var shut = run.State.RigHistory.First(s => !s[Parts.So1].IsOpen || !s[Parts.So2].IsOpen);
        Assert.True(shut[Parts.So1].IsOpen && !shut[Parts.So2].IsOpen);
    }

    [Fact]
    public void With_CV2_against_back_pressure_the_bypass_stays_open_and_closing_the_first_cock_tests_SO2()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("so2.test").GoesOn();
        Assert.Equal(
            (true, true, false),
            (
                run.State.Rig[Parts.BypassControl].IsOpen,
                run.State.Rig[Parts.Tc4].IsOpen,
                run.State.Rig[Parts.Tc2].IsOpen
            )
        );
    }

    [Fact]
    public void The_draw_down_school_opens_the_cock_before_the_check_and_leaves_SO2_shut_between_the_two()
    {
        var run = SampleRun.Of("dc-draw-down", Kit.ThreeValve).OnTo("cv2.read");
        Assert.False(run.State.Rig[Parts.So2].IsOpen);
        Assert.True(run.GoesOn().State.Rig[Parts.Tc3].IsOpen);
    }

    [Fact]
    public void The_isolation_school_moves_the_high_hose_from_the_last_tap_to_the_first_and_then_to_the_zone()
    {
        var run = SampleRun.Of("rp-isolation-first", Kit.ThreeValve).Through();
        var at = run
            .State.RigHistory.Select(s => s.Connections.GetValueOrDefault(Parts.HighHose).Value)
            .Where(v => v is not null)
            .Aggregate(new List<string>(), (seen, v) =>
            {
                if (seen.LastOrDefault() != v)
                    seen.Add(v);
                return seen;
            });
        Assert.Equal(["t3", "t1", "t2"], at);
    }

    [Fact]
    public void A_strainer_is_cleaned_only_with_the_upstream_valve_shut()
    {
        var run = SampleRun
            .Of(SampleRun.PlanWith(Kit.ThreeValve, null, "rp-isolation-first", new(Strainer: true)))
            .OnTo("iso.strainer");
        Assert.False(run.State.Rig[Parts.So1].IsOpen);
        Assert.DoesNotContain(
            "strainer",
            Sheet("rp-isolation-first", Kit.ThreeValve).Split("ISOLATION VALVES ARE TIGHT")[1],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void The_profile_switches_steps_on_and_off()
    {
        Assert.Equal(
            -1,
            SampleRun.PlanWith(Kit.FiveValve, BuiltInProfiles.PsidStandard, "rp-relief-first").Sheet.At("line.read")
        );
        Assert.True(
            SampleRun.PlanWith(Kit.FiveValve, BuiltInProfiles.PsidStrict, "rp-relief-first").Sheet.At("line.read") > 0
        );
        Assert.True(
            SampleRun
                .PlanWith(Kit.FiveValve, Everything(BuiltInProfiles.PsidStandard), "rp-relief-first")
                .Sheet.At("flow.read") > 0
        );
    }

    [Fact]
    public void Every_sheet_prints_as_text_and_JSON_with_its_caution_and_defers_to_local_code() =>
        Assert.All(SchoolsAndKits, x =>
        {
            var ((school, kit), sheet) = (
                ((string)x[0], (string)x[1]),
                SchoolCatalogue.Sheet(SchoolCatalogue.Named((string)x[0])!, Kit.Named((string)x[1])!)
            );
            Assert.Contains("local code", RunSheetText.Write(sheet), StringComparison.Ordinal);
            Assert.Contains("Caution:", RunSheetText.Write(sheet), StringComparison.Ordinal);
            Assert.Equal(
                (school, kit),
                (
                    Node.Root(RunSheetFormat.Json(sheet), [])!.Value.Required("procedure")!.Value.Text(),
                    Node.Root(RunSheetFormat.Json(sheet), [])!.Value.Required("kit")!.Value.Text()
                )
            );
        });

    // Of every sheet that a version of a school writes. A sealed run names the version; whoever changes a sheet counts
    // it up and adds a line.
    private static readonly Dictionary<(string School, int Version), string> Published = new()
    {
        [("dc-draw-down", 1)] = "763ec73a0a3ca720",
        [("dc-draw-down", 2)] = "a23f552f513f221b",
        [("dc-draw-down", 3)] = "b8d8f30674a2cc80",
        [("dc-sight-tube", 1)] = "7b1768d8a8a84917",
        [("dc-sight-tube", 2)] = "bc601e788ebcc22f",
        [("dc-sight-tube", 3)] = "3271d769df140d4e",
        [("pvb-inlet-first", 1)] = "4a13233bbde10e91",
        [("pvb-inlet-first", 2)] = "88bed0c8c01b1fc1",
        [("pvb-inlet-first", 3)] = "c278b14b9f7bfea8",
        [("rp-check-first", 1)] = "7f541ca10d7956d8",
        [("rp-check-first", 2)] = "f9e43f6504478bee",
        [("rp-check-first", 3)] = "c0669da0d562e9f6",
        [("rp-isolation-first", 1)] = "0b5ac1ab4e3ecc22",
        [("rp-isolation-first", 2)] = "186fe801f24cb513",
        [("rp-isolation-first", 3)] = "d4c401a3256d1695",
        [("rp-isolation-first", 4)] = "46f352783ce0d16c",
        [("rp-relief-first", 1)] = "a81c586e47e8d0e4",
        [("rp-relief-first", 2)] = "e839d47d26687213",
        [("rp-relief-first", 3)] = "ae750d799ae22916",
        [("svb-check-first", 1)] = "d7cc78bdcf172738",
        [("svb-check-first", 2)] = "fd432211e0f6e7f2",
        [("svb-check-first", 3)] = "3047422588afbc54",
        [("svb-static-first", 1)] = "5eb5b8825636a8cf",
        [("svb-static-first", 2)] = "81081ff7d7a6eb7c",
        [("svb-static-first", 3)] = "4adfeb89b6b51fc5",
    };

    [Fact]
    public void A_school_that_writes_another_sheet_has_another_version()
    {
        Assert.All(SchoolCatalogue.All, school =>
        {
            var sheets = string.Join(
                "\n",
                Kit.All.Where(k => school.Unfit(k) is null)
                    .SelectMany(k => Plans(school.Id, k.Name))
                    .Select(p => RunSheetFormat.Json(p.Sheet, indented: false))
            );
            var hash = ContentHash.Compute(sheets)[..16];
            Assert.True(
                Published.GetValueOrDefault((school.Id, school.Version)) == hash,
                $"[(\"{school.Id}\", {school.Version})] = \"{hash}\" is not what is published under this version: "
                    + $"count it up."
            );
        });
    }

    [Fact]
    public void At_each_reading_and_gate_the_sheet_says_the_limit_of_the_rules()
    {
        Assert.All(Plans(), plan =>
        {
            var text = RunSheetText.Write(plan.Sheet);
            using var json = System.Text.Json.JsonDocument.Parse(RunSheetFormat.Json(plan.Sheet));
            var steps = json
                .RootElement.GetProperty("stages")
                .EnumerateArray()
                .SelectMany(s => s.GetProperty("steps").EnumerateArray())
                .ToDictionary(s => s.GetProperty("step").GetString()!);
            foreach (var (_, step) in plan.Sheet.Steps.Where(s => s.Step.Capture is not null))
            {
                var limit = plan.Sheet.Rules.For(step.Capture!.Item)?.LimitText;
                Assert.Equal(limit, steps[step.Id].TryGetProperty("limit", out var said) ? said.GetString() : null);
                if (limit is not null)
                    Assert.Contains(
                        $"{step.Capture.Item.Name}, "
                            + $"{limit}{(step.Capture.MustMeetToGoOn ? ", or the test does not go on" : "")}",
                        text,
                        StringComparison.Ordinal
                    );
            }

            // What is kept and sealed names its profile beside it and holds no limit of its own.
            Assert.DoesNotContain(
                "\"limit\"",
                RunSheetFormat.Json(plan.Sheet, indented: false),
                StringComparison.Ordinal
            );
        });
        Assert.Contains(Plans("rp-check-first", "three-valve"), p =>
            p.Sheet.Steps.Any(s => s.Step.Capture is { MustMeetToGoOn: true })
        );
    }

    [Fact]
    public void Isolation_first_relieves_the_high_hose_before_it_is_moved_and_shuts_every_tap_after_the_strainer()
    {
        var plan = SampleRun.PlanWith(
            Kit.ThreeValve,
            BuiltInProfiles.KpaIsolationFirst,
            "rp-isolation-first",
            new(Strainer: true),
            "three-tap"
        );
        var run = SampleRun.Of(plan).OnTo("iso.open");
        Assert.All(plan.Rig.Body.Cocks, cock => Assert.False(run.State.Rig[cock].IsOpen, cock.Value));
        var hook = plan.Sheet.Steps.Single(s => s.Step.Id == "cv1.hook").Step;
        var moves = plan.Sheet.MovesOf(hook);
        var relieved = moves.IndexOf(
            moves.First(m => m is Move.Turn t && t.Part == Parts.BypassControl && t.To.IsOpen)
        );
        Assert.InRange(
            relieved,
            0,
            moves.IndexOf(moves.First(m => m is Move.Connect c && c.Item == Parts.HighHose)) - 1
        );
        Assert.Contains(
            "Open C, A and B to relieve the hoses;",
            RunSheetText.Write(plan.Sheet),
            StringComparison.Ordinal
        );
    }

    private static string Text(
        string school,
        Kit kit,
        Func<SchoolRules, SchoolRules> with,
        BodyFeatures features = default
    )
    {
        var profile = BuiltInProfiles.All.First(p => p.School(school) is not null);
        return RunSheetText.Write(
            SampleRun
                .PlanWith(
                    kit,
                    profile with
                    {
                        Schools = [.. profile.Schools.Select(s => s.ProcedureId == school ? with(s) : s)],
                    },
                    school,
                    features
                )
                .Sheet
        );
    }

    private static SchoolRules Without(SchoolRules rules, TestItem item) =>
        rules with
        {
            Items = [.. rules.Items.Where(i => i.Item != item)],
        };

    private static SchoolRules Asking(SchoolRules rules, ItemRule rule) =>
        rules with
        {
            Items = [.. rules.Items.Select(i => i.Item == rule.Item ? rule : i)],
        };

    [Fact]
    public void SO2_of_an_RP_is_by_profile_not_asked_recorded_or_one_of_the_tests_that_fail_the_assembly()
    {
        Assert.Contains("SO2 IS TIGHT", Text("rp-relief-first", Kit.FiveValve, r => r), StringComparison.Ordinal);
        Assert.DoesNotContain(
            "SO2 IS TIGHT",
            Text("rp-relief-first", Kit.FiveValve, r => Without(r, TestItem.Shutoff2)),
            StringComparison.Ordinal
        );
        Profile Standard(Requirement how) =>
            BuiltInProfiles.PsidStandard with
            {
                Schools =
                [
                    .. BuiltInProfiles.PsidStandard.Schools.Select(s =>
                        s.Type == AssemblyTypes.RP
                            ? Asking(
                                s,
                                new(TestItem.Shutoff2, how, how == Requirement.Recorded ? [] : [new Criterion.Tight()])
                            )
                            : s
                    ),
                ],
            };
        SampleRun Leaking(Profile profile) =>
            SampleRun.Of("rp-relief-first", Kit.FiveValve, profile).OnTo("so2.test").Sees("falls").Through();
        Assert.Equal(Overall.Pass, Leaking(Standard(Requirement.Recorded)).Verdict.Overall);
        Assert.Equal(Overall.Fail, Leaking(Standard(Requirement.Required)).Verdict.Overall);
    }

    [Fact]
    public void The_gate_of_5_can_be_asked_without_the_rest_of_the_strict_profile()
    {
        var gate = new ItemRule(
            TestItem.Apparent,
            Requirement.Required,
            new Criterion.AtLeast(Units.Differential.Psid(5m))
        );
        var profile = BuiltInProfiles.PsidStandard with
        {
            Schools =
            [
                .. BuiltInProfiles.PsidStandard.Schools.Select(s => s.Type == AssemblyTypes.RP ? Asking(s, gate) : s),
            ],
        };
        var run = SampleRun.Of("rp-relief-first", Kit.FiveValve, profile).OnTo("hook.so2");
        Assert.DoesNotContain(run.State.Ahead, p => p.Step.Capture?.Item == TestItem.StaticLine);
        Assert.Equal(0, run.Plan.School.HoldSeconds);
        Assert.Equal("finish.ask", run.Reads(4.9m).State.Current!.Stage == "finish" ? "finish.ask" : run.Now.Key);
        Assert.Equal(
            "rv.dry",
            SampleRun.Of("rp-relief-first", Kit.FiveValve, profile).OnTo("hook.so2").Reads(5.0m).Now.Step.Id
        );
    }

    [Fact]
    public void What_a_school_leaves_open_is_done_as_the_profile_has_it()
    {
        var plain = Text("rp-relief-first", Kit.FiveValve, r => r);
        var local = Text("rp-relief-first", Kit.FiveValve, r =>
            r with
            {
                Variants = [.. StepVariant.LeftOpenBy("rp-relief-first")],
            }
        );
        Assert.True(
            Line(local, "- Open TC4") < Line(local, "- Open TC3")
                && Line(local, "- Open TC1.") < Line(local, "- Close TC1.")
                && Line(local, "- Close TC1.") < Line(local, "- Close TC4.")
        );
        Assert.Contains("Hang the bypass hose (B) loose on TC4.", local, StringComparison.Ordinal);
        Assert.DoesNotContain("loose coupling", plain, StringComparison.Ordinal);
        Assert.Contains(
            "Gauge level with TC2, close SO1",
            Text("pvb-inlet-first", Kit.TwoValve, r => r),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "Gauge level with the check, close SO1",
            Text("pvb-inlet-first", Kit.TwoValve, r => r with { Variants = [StepVariant.LevelWithCheck] }),
            StringComparison.Ordinal
        );
        Assert.DoesNotContain(
            "clean the screen",
            Text("rp-isolation-first", Kit.ThreeValve, r => r),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "clean the screen",
            Text("rp-isolation-first", Kit.ThreeValve, r => r with { Variants = [StepVariant.CleanStrainer] }),
            StringComparison.Ordinal
        );
        Assert.Contains(
            "clean the screen",
            Text("rp-isolation-first", Kit.ThreeValve, r => r, new(Strainer: true)),
            StringComparison.Ordinal
        );
        Assert.Throws<ArgumentException>(() =>
            Text("dc-sight-tube", Kit.TwoValve, r => r with { Variants = [StepVariant.LevelWithCheck] })
        );
    }

    [Fact]
    public void Under_the_strict_profile_a_vacuum_breaker_is_watched_twice_and_the_inlet_is_felt_after_the_first()
    {
        var strict = SampleRun.PlanWith(Kit.TwoValve, BuiltInProfiles.PsidStrict, "pvb-inlet-first").Sheet;
        Assert.Equal(["ai.drain", "cv1.read"], strict.Steps.Where(s => s.Step.Holds).Select(s => s.Step.Id));
        Assert.True(strict.At("ai.drain") < strict.At("ai.full"));
        Assert.DoesNotContain(
            SampleRun.PlanWith(Kit.TwoValve, BuiltInProfiles.PsidStandard, "pvb-inlet-first").Sheet.Steps,
            s => s.Step.Id == "ai.drain" && s.Step.Holds
        );
        var shut = strict.MovesOf(strict.Steps[strict.At("ai.shut")].Step);
        Assert.Equal([Parts.So2, Parts.Gauge, Parts.So1], shut.Select(m => m.About));
    }

    [Fact]
    public void The_line_pressure_has_its_moves_and_leaves_a_free_hose()
    {
        foreach (var plan in Plans().Where(p => p.School.Asks(TestItem.StaticLine)))
        {
            var read = plan.Sheet.Steps.Select(s => s.Step).Single(s => s.Capture?.Item == TestItem.StaticLine);
            var run = SampleRun.Of(plan).OnTo(read.Id);
            var rig = run.State.Rig.ApplyAll(plan.Sheet.MovesOf(read));
            Assert.Equal(plan.Rig.Body.SupplyCock, rig.CockOf(Parts.HighHose));
            Assert.True(rig[plan.Rig.Body.SupplyCock].IsOpen, plan.Procedure.Id);
        }
    }

    [Fact]
    public void The_bag_the_digital_kit_the_adapters_and_the_figures_of_a_metric_profile_stand_on_the_sheets()
    {
        foreach (var (school, kit) in SchoolsAndKits.Select(x => ((string)x[0], Kit.Named((string)x[1])!)))
        {
            var text = Text(school, kit, r => r);
            foreach (var thing in new[] { "bucket", "cloth", "wrench", "tape", "hook" })
                Assert.Contains(thing, text.Split('\n')[2], StringComparison.Ordinal);
            Assert.Equal(
                kit.Kind == KitKind.Digital,
                text.Contains("clear its stored values, zero it", StringComparison.Ordinal)
            );
            Assert.Contains("Adapters in", text, StringComparison.Ordinal);
            Assert.DoesNotContain(
                "Adapters in",
                Text(school, kit, r => r, new(FittedCocks: true)),
                StringComparison.Ordinal
            );
        }

        Assert.Contains(
            "Near 70 kPa",
            RunSheetText.Write(
                SampleRun.PlanWith(Kit.FiveValve, BuiltInProfiles.KpaIsolationFirst, "svb-check-first").Sheet
            ),
            StringComparison.Ordinal
        );
        Assert.Contains("bypass hose there", Sheet("svb-check-first", Kit.ThreeValve), StringComparison.Ordinal);
        Assert.Contains("drain tube there", Sheet("svb-check-first", Kit.FiveValve), StringComparison.Ordinal);
    }

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void When_a_test_is_repeated_no_hose_comes_off_before_its_cock_is_shut_and_it_is_relieved(
        string school,
        string kit
    )
    {
        var plan = Plans(school, kit).First();
        var steps = plan.Sheet.Steps.Where(s => s.Step.OnlyIf.IsEmpty).Select(s => s.Step.Id).ToList();
        var comesOff = 0;
        foreach (
            var from in plan.Sheet.WholeRun.Skip(2).Where(s => s.Kind != StageKind.Finish).Select(s => s.Steps[^1].Id)
        )
        foreach (
            var to in plan
                .Sheet.WholeRun.Skip(1)
                .Select(s => s.Steps.First(x => x.OnlyIf.IsEmpty).Id)
                .TakeWhile(id => steps.IndexOf(id) < steps.IndexOf(from))
        )
        {
            var run = SampleRun.Of(plan).OnTo(from).Says(new EntryBody.WentBack(to));
            if (run.Now.Step.Id != "rig.back")
                continue;
            var (rig, relieved) = (run.State.Rig, false);
            foreach (var move in plan.Sheet.MovesOf(run.Now.Step))
            {
                if (
                    move is Move.TakeOff { Item: var hose }
                    && rig.Rig[hose].Kind == PartKind.Hose
                    && rig.CockOf(hose) is { } cock
                )
                {
                    comesOff++;
                    Assert.False(rig[cock].IsOpen, $"{from} to {to}: {hose} comes off open {cock}");
                    Assert.True(relieved || hose == Parts.BypassHose, $"{from} to {to}: {hose} is not relieved");
                }

                relieved |=
                    move is Move.Turn { To.IsOpen: true, Part: var valve }
                    && (valve == Parts.HighBleed || valve == Parts.BypassControl);
                rig = rig.Apply(move).State;
            }
        }

        if (plan.Rig.Body.Type == AssemblyTypes.RP)
            Assert.True(comesOff > 0);
    }
}
