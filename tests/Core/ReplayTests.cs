using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

public class ReplayTests
{
    [Fact]
    public void A_tester_who_knows_the_sequence_types_only_numbers()
    {
        var run = SampleRun.Begun();
        run.Says(new EntryBody.Taken("cv1.read", new Reading(Differential.Psid(1.8m))))
            .Says(new EntryBody.Taken("cv2.read", new Reading(Differential.Psid(1.5m))))
            .ToTheEnd();
        Assert.Equal(Overall.Pass, run.Verdict.Overall);
        Assert.Contains(run.State.Behind, b => b is { How: Passing.PassedOver, Planned.Step.Id: "cv1.fill" });
        Assert.Contains(run.State.Behind, b => b is { How: Passing.Done, Planned.Step.Id: "cv1.read" });
    }

    [Fact]
    public void The_second_number_cannot_be_typed_before_the_first()
    {
        var run = SampleRun.Begun().Says(new EntryBody.Taken("cv2.read", new Reading(Differential.Psid(1.5m))));
        Assert.Empty(run.State.Readings);
        Assert.Contains("comes first", run.State.SetAside.Single().Why, StringComparison.Ordinal);
    }

    [Fact]
    public void A_second_reading_from_another_screen_is_set_aside_and_the_first_stands()
    {
        var run = SampleRun.Begun().To("cv1.read");
        var key = run.Now.Key;
        run.Reads(1.8m).Says(new EntryBody.Taken(key, new Reading(Differential.Psid(2.4m))));
        Assert.Equal(1.8m, run.Value(TestItem.Check1));
        Assert.Single(run.State.SetAside);
    }

    [Fact]
    public void A_correction_keeps_the_first_value_and_the_reason()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(8.1m);
        run.Says(
            new EntryBody.Corrected(run.Log.Entries.Last().Id, new Reading(Differential.Psid(1.8m)), "typed wrongly")
        );
        var taken = run.State.Readings[TestItem.Check1];
        Assert.Equal(
            (1.8m, 8.1m, "typed wrongly"),
            (taken.Reading.Value.Amount, taken.First!.Value.Value.Amount, taken.Reason)
        );
        Assert.Equal(2, run.Log.Entries.Count(e => e.Body is EntryBody.Taken or EntryBody.Corrected));
    }

    [Fact]
    public void A_zero_that_came_from_a_sight_can_be_corrected_too()
    {
        var run = SampleRun.Begun().To("cv1.read").Sees("runs-to-zero");
        run.Says(
            new EntryBody.Corrected(run.Log.Entries.Last().Id, new Reading(Differential.Psid(0.2m)), "looked again")
        );
        Assert.Equal(0.2m, run.Value(TestItem.Check1));
    }

    [Fact]
    public void Undo_is_an_entry_and_can_itself_be_undone()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(1.8m);
        var count = run.Log.Count;
        run.TakesBackLast();
        Assert.Null(run.Value(TestItem.Check1));
        Assert.Equal("cv1.read", run.Now.Step.Id);
        run.TakesBackLast();
        Assert.Equal(1.8m, run.Value(TestItem.Check1));
        Assert.Equal(count + 2, run.Log.Count);
    }

    [Fact]
    public void Going_back_keeps_the_old_number_beside_the_new_one()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(1.8m).Says(new EntryBody.WentBack("cv1.fill"));
        Assert.Equal("rig.back", run.Now.Step.Id);
        Assert.Equal(("cv1.fill", 2), (run.Done().Now.Step.Id, run.Now.Attempt));
        run.To("cv1.read").Reads(1.6m);
        Assert.Equal(1.6m, run.Value(TestItem.Check1));
        Assert.Equal(1.8m, run.State.Repeated.Single().Reading.Reading.Value.Amount);
    }

    [Fact]
    public void Playing_on_entry_by_entry_gives_the_same_state_as_playing_the_whole_log() =>
        Taps.Sample(
            taps =>
            {
                var run = Tapped(taps);
                if (run.Log.Entries.Any(e => Replay.Rewrites(e.Body)))
                    return true;
                var session = new Replay(run.Plan);
                foreach (var entry in run.Log.Entries)
                    session.Add(entry);
                return session
                    .State.Ahead.Select(a => a.Key)
                    .SequenceEqual(Replay.Run(run.Plan, run.Log).Ahead.Select(a => a.Key));
            },
            iter: Cases.Of(300)
        );

    [Fact]
    public void Going_on_to_a_later_test_with_hoses_just_hooked_up_again_purges_them_first()
    {
        var run = SampleRun
            .Of("rp-relief-first")
            .OnTo("bp.hook")
            .GoesOn()
            .Says(new EntryBody.WentBack("hook.hoses"))
            .OnTo("hook.purge")
            .Says(new EntryBody.WentBack("rv.dry"))
            .OnTo("rv.feed");
        Assert.All(run.Now.Step.Needs, need => Assert.True(need.Holds(run.State.Rig, run.State.Water), need.Text));
    }

    [Fact]
    public void One_cannot_go_back_to_what_has_not_been_reached()
    {
        var run = SampleRun.Begun().Says(new EntryBody.WentBack("cv2.fill"));
        Assert.Equal("before.notify", run.Now.Step.Id);
        Assert.Single(run.State.SetAside);
    }

    [Fact]
    public void Stopping_leads_to_closing_up_and_keeps_what_was_read()
    {
        var run = SampleRun.Begun().To("cv1.read").Reads(1.8m).Says(new EntryBody.Stopped("SO2 does not shut off"));
        Assert.Equal("finish.ask", run.Now.Step.Id);
        Assert.Equal(
            (Overall.NotTestable, "SO2 does not shut off"),
            (run.ToTheEnd().Verdict.Overall, run.Verdict.Reason)
        );
        Assert.Equal(1.8m, run.Value(TestItem.Check1));
    }

    [Fact]
    public void Shutoffs_are_recorded_tight_when_both_tubes_stood_still_and_not_otherwise()
    {
        var still = SampleRun.Begun().To("cv1.read").Reads(1.8m).To("cv2.read").Reads(1.5m).State.Results();
        Assert.Equal((ItemValue)new ItemValue.Tightness(true), still[TestItem.Shutoff1]);
        var zero = SampleRun.Begun().To("cv1.read").Sees("runs-to-zero").To("cv2.read").Reads(1.5m).State.Results();
        Assert.Null(zero[TestItem.Shutoff1]);
    }

    [Fact]
    public void Own_remarks_take_the_place_of_the_suggested_ones()
    {
        var run = SampleRun.Begun().To("cv1.read").Sees("runs-to-zero").Says(new EntryBody.Remarks("Grit in CV1."));
        Assert.Equal("Grit in CV1.", run.State.Remarks);
        Assert.Equal("CV1 leaks.", run.State.SuggestedRemarks.Single());
    }

    [Fact]
    public void What_was_found_on_a_part_names_the_part()
    {
        var run = SampleRun.Begun().Says(new EntryBody.Found(Parts.Tc3, "handle missing"));
        Assert.Equal("TC3: handle missing", run.State.Remarks);
    }

    [Fact]
    public void The_same_entry_twice_is_once()
    {
        var run = SampleRun.Begun().To("cv1.fill");
        Assert.Equal(run.Log.Count, run.Log.With(run.Log.Entries).Count);
    }

    // A tester who taps anything the screen offers, wisely or not.
    internal static Gen<int[]> Taps => Gen.Int[0, 9_999].Array[0, 70];

    private static string First(SampleRun run, int stage) =>
        run.Plan.Sheet.WholeRun[stage % run.Plan.Sheet.WholeRun.Length].Steps[0].Id;

    internal static SampleRun Tapped(int[] taps)
    {
        // Any school, either kit; the strict profile where it has the school.
        var school = SchoolCatalogue.All[taps.Length % SchoolCatalogue.All.Length];
        var profile =
            taps.Length % 3 == 0 && BuiltInProfiles.PsidStrict.School(school.Id) is not null
                ? BuiltInProfiles.PsidStrict
                : null;
        var run = SampleRun.Of(school.Id, taps.Length % 2 == 0 ? Kit.FiveValve : Kit.ThreeValve, profile);
        foreach (var tap in taps)
        {
            if (run.State.Current is not { } now)
                break;
            var (step, choice) = (now.Step, tap % 100);
            EntryBody body = choice switch
            {
                < 6 when run.Log.Count > 0 => new EntryBody.TookBack(run.Log.Entries.ElementAt(tap % run.Log.Count).Id),
                < 10 => new EntryBody.WentBack(First(run, tap / 100 % 5)),
                < 12 => new EntryBody.Noted(now.Key, "something else"),
                12 when tap / 100 % 10 == 0 => new EntryBody.Stopped("no access"),
                13 when tap / 100 % 6 == 0 => new EntryBody.Paused("window over"),
                13 when tap / 100 % 6 == 1 => new EntryBody.Resumed(),
                13 when tap / 100 % 6 == 2 => new EntryBody.Mended(null, "cleaned"),
                13 => new EntryBody.GaugeOffset(new(tap / 100 % 7 - 3, LengthUnit.Inch)),
                14 => new EntryBody.HoldStarted(now.Key, new Reading(Differential.Psid(tap % 40 / 10m))),
                15 => new EntryBody.HoldEnded(
                    now.Key,
                    new Reading(Differential.Psid(tap % 40 / 10m)),
                    tap % 2 == 0 ? "cut short" : null
                ),
                16 => new EntryBody.Glimpsed(now.Key, new Reading(Differential.Psid(tap % 40 / 10m))),
                17 when step.Offers.Length > 0 => new EntryBody.TookOffer(now.Key, step.Offers[0].Id),
                46 => new EntryBody.Agreed(tap / 100 % 2 == 0 ? Matter.Permission : Matter.Restoring, "the porter"),
                47 => tap / 100 % 2 == 0
                    ? new EntryBody.AsFound(Parts.So2, (ValvePosition)(tap / 100 % 3))
                    : new EntryBody.AsLeft(Parts.So1, (ValvePosition)(tap / 100 % 3)),
                48 => new EntryBody.Explained(Oddity.Pace, "written on paper first"),
                < 18 when run.Log.Count > 0 => new EntryBody.Corrected(
                    run.Log.Entries.ElementAt(tap % run.Log.Count).Id,
                    new Reading(Differential.Psid(1.1m)),
                    "misread"
                ),
                < 22 => new EntryBody.Taken(
                    run.State.Ahead.FirstOrDefault(a => a.Step.Capture is not null)?.Key ?? now.Key,
                    new Reading(Differential.Psid(tap % 40 / 10m))
                ),
                < 45 when step.Sights.Length > 0 => new EntryBody.Saw(
                    now.Key,
                    step.Sights[tap % step.Sights.Length].Id
                ),
                _ when step.Capture is not null => new EntryBody.Taken(
                    now.Key,
                    new Reading(Differential.Psid(tap % 40 / 10m))
                ),
                _ when step.MustAnswer => new EntryBody.Saw(now.Key, step.Sights[tap % step.Sights.Length].Id),
                _ => new EntryBody.Done(now.Key),
            };
            run.Says(body);
        }

        return run;
    }

    internal static string Fingerprint(RunPlan plan, RunLog log) =>
        System.Text.Json.JsonSerializer.Serialize(RunViews.Build(plan, log, FlowDirection.LeftToRight, false))
        + VerdictFormat.Write(Judge.Weigh(plan.Subject, Replay.Run(plan, log).Results()));

    [Fact]
    public void Whatever_is_tapped_the_tester_can_go_on_to_the_end() =>
        Taps.Sample(
            taps =>
            {
                var run = Tapped(taps);
                for (var i = 0; i < 300 && run.State.Current is not null; i++)
                    run.GoesOn();
                return run.State.Current is null && run.State.Rig.Connections.IsEmpty && run.Verdict.Items.Length > 0;
            },
            iter: Cases.Of(600)
        );

    [Fact]
    public void Whatever_is_tapped_the_step_at_hand_finds_the_rig_as_it_needs_it() =>
        Taps.Sample(
            taps =>
            {
                var state = Tapped(taps).State;
                return state.Current is not { } now || now.Step.Needs.All(n => n.Holds(state.Rig, state.Water));
            },
            iter: Cases.Of(1500)
        );

    [Fact]
    public void A_log_gives_the_same_state_whatever_the_batches_and_the_order_it_arrives_in() =>
        Gen.Select(Taps, Gen.Int[1, 9], Gen.Int)
            .Sample(
                (taps, batch, seed) =>
                {
                    var run = Tapped(taps);
                    var arriving = run.Log.Entries.Concat(run.Log.Entries.Take(batch)).ToArray();
                    new Random(seed).Shuffle(arriving);
                    var log = arriving.Chunk(batch).Aggregate(RunLog.Empty, (l, chunk) => l.With(chunk));
                    return Fingerprint(run.Plan, log) == Fingerprint(run.Plan, run.Log);
                },
                iter: Cases.Of(400)
            );

    [Fact]
    public void Two_logs_merge_to_the_same_log_in_either_order() =>
        Gen.Select(Taps, Gen.Int)
            .Sample(
                (taps, seed) =>
                {
                    var all = Tapped(taps).Log.Entries.ToArray();
                    new Random(seed).Shuffle(all);
                    var (a, b) = (all.Take(all.Length * 2 / 3), all.Skip(all.Length / 3));
                    return RunLog.Empty.With(a).With(b).Entries.SequenceEqual(RunLog.Empty.With(b).With(a).Entries);
                },
                iter: Cases.Of(500)
            );

    [Fact]
    public void A_replayed_log_survives_being_written_and_read() =>
        Taps.Sample(
            taps =>
            {
                var run = Tapped(taps);
                var read = run.Log.Entries.Select(e =>
                {
                    var errors = new List<InputError>();
                    return EntryFormat.Read(Node.Root(EntryFormat.Write(e), errors)!.Value)!;
                });
                return Fingerprint(run.Plan, RunLog.Empty.With(read)) == Fingerprint(run.Plan, run.Log);
            },
            iter: Cases.Of(300)
        );

    [Fact]
    public void Every_entry_is_either_in_effect_or_set_aside_with_a_reason() =>
        Taps.Sample(taps => Tapped(taps).State.SetAside.All(s => s.Why.EndsWith('.')), iter: Cases.Of(300));
}
