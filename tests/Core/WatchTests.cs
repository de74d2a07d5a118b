using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>Watches over a still needle, approach speed, the gauge's height: what a careful tester weighs.</summary>
public class WatchTests
{
    private static Reading Psid(decimal value) => new(Differential.Psid(value));

    private static SampleRun AtBackPressure() =>
        SampleRun.Of("rp-relief-first", Kit.FiveValve, BuiltInProfiles.PsidStrict).OnTo("bp.test");

    private static RunView View(SampleRun run) => RunViews.Build(run.Plan, run.Log, FlowDirection.LeftToRight, false);

    [Fact]
    public void Where_the_profile_wants_a_watch_a_still_needle_counts_only_after_it()
    {
        var run = AtBackPressure().Sees("holds");
        Assert.Equal("bp.test", run.Now.Step.Id);
        Assert.Contains("120 s", run.State.SetAside.Single().Why, StringComparison.Ordinal);
        run.Says(new EntryBody.HoldStarted(run.Now.Key, Psid(7.2m)))
            .Waits(120)
            .Says(new EntryBody.HoldEnded(run.Now.Key, null, null))
            .Sees("holds");
        Assert.Equal(new ItemValue.Tightness(true), run.State.Results()[TestItem.Check2BackPressure]);
    }

    [Fact]
    public void What_should_not_be_seen_can_be_said_without_waiting() =>
        Assert.Contains("cv2-leaks", AtBackPressure().Sees("sinks").Findings);

    [Fact]
    public void A_watch_is_cut_short_only_with_a_reason()
    {
        var run = AtBackPressure();
        run.Says(new EntryBody.HoldStarted(run.Now.Key, null))
            .Waits(20)
            .Says(new EntryBody.HoldEnded(run.Now.Key, null, null));
        Assert.Contains("of 120 s", run.State.SetAside.Single().Why, StringComparison.Ordinal);
        run.Says(new EntryBody.HoldEnded(run.Now.Key, null, "the window is over")).Sees("holds");
        Assert.Equal("the window is over", run.State.Holds.Values.Last().CutShort);
        Assert.Equal("cv1.read", run.Now.Step.Id);
    }

    [Theory]
    [InlineData(7.1, true)]
    [InlineData(7.2, true)]
    [InlineData(7.0, false)]
    public void A_needle_that_moved_by_more_than_the_kit_can_tell_is_not_still(double end, bool still)
    {
        var run = AtBackPressure();
        run.Says(new EntryBody.HoldStarted(run.Now.Key, Psid(7.2m)))
            .Waits(121)
            .Says(new EntryBody.HoldEnded(run.Now.Key, Psid((decimal)end), null));
        // Still decides by itself; not still waits for what was seen, and is not taken for tight.
        Assert.Equal(still, run.State.Results()[TestItem.Check2BackPressure] is not null);
        if (!still)
            Assert.Contains("not still", run.Sees("holds").State.SetAside.Single().Why, StringComparison.Ordinal);
    }

    [Fact]
    public void What_was_seen_in_between_counts_in_the_change()
    {
        var run = AtBackPressure();
        run.Says(new EntryBody.HoldStarted(run.Now.Key, Psid(7.2m)))
            .Says(new EntryBody.HoldWatched(run.Now.Key, Psid(6.6m)))
            .Waits(121)
            .Says(new EntryBody.HoldEnded(run.Now.Key, Psid(7.2m), null));
        Assert.Equal(0.6m, run.State.Holds.Values.Last().Change);
        Assert.Contains("not still", View(run).Now!.Hold!.Outcome, StringComparison.Ordinal);
    }

    [Fact]
    public void A_watched_number_is_itself_the_reading()
    {
        var run = SampleRun.Of("dc-sight-tube", Kit.FiveValve, BuiltInProfiles.PsidStrict).OnTo("cv1.read");
        run.Says(new EntryBody.HoldStarted(run.Now.Key, Psid(1.8m)))
            .Waits(121)
            .Says(new EntryBody.HoldEnded(run.Now.Key, Psid(1.7m), null));
        Assert.Equal(1.7m, run.Value(TestItem.Check1));
        Assert.Equal("cv1.leave", run.Now.Step.Id);
    }

    [Fact]
    public void Without_a_watch_in_the_profile_nothing_has_to_be_waited_for()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("bp.test");
        Assert.Null(View(run).Now!.Hold);
        Assert.Empty(run.Sees("holds").State.SetAside);
    }

    [Fact]
    public void Two_taps_give_the_speed_of_the_needle_and_a_fast_one_is_warned_of()
    {
        var run = SampleRun.Of("rp-relief-first").OnTo("rv.feed");
        run.Says(new EntryBody.Glimpsed(run.Now.Key, Psid(12.6m))).Reads(2.6m);
        Assert.Equal(0.5m, run.State.Readings[TestItem.ReliefOpening].Reading.Speed!.Value.Amount);
        Assert.Contains(run.Verdict.Warnings, w => w.Code == "too-fast");
        var slow = SampleRun.Of("rp-relief-first").OnTo("rv.feed");
        Assert.DoesNotContain(
            slow.Says(new EntryBody.Glimpsed(slow.Now.Key, Psid(2.9m))).Reads(2.6m).Verdict.Warnings,
            w => w.Code == "too-fast"
        );
    }

    [Theory]
    [InlineData(1.1, -3, "fail")]
    [InlineData(1.1, 2, "")]
    [InlineData(0.95, 3, "pass")]
    public void A_gauge_held_low_reads_high_and_the_screen_says_what_it_would_mean(
        double read,
        int inches,
        string turns
    )
    {
        var run = SampleRun
            .Begun()
            .To("cv1.read")
            .Reads((decimal)read)
            .Says(new EntryBody.GaugeOffset(new(inches, LengthUnit.Inch)));
        var note = Assert.Single(View(run).HeightNotes);
        Assert.Equal(turns.Length > 0, note.Contains($"would {turns}", StringComparison.Ordinal) && turns.Length > 0);
        Assert.Equal((decimal)read, run.Value(TestItem.Check1));
    }

    [Fact]
    public void Three_inches_low_is_eleven_hundredths() =>
        Assert.Equal(0.9917m, HeightWhatIf.True(Differential.Psid(1.1m), new(-3, LengthUnit.Inch)).Amount);

    [Fact]
    public void With_the_height_unknown_it_says_how_little_would_turn_the_verdict()
    {
        Assert.Contains(
            "2.8 in low",
            Assert.Single(View(SampleRun.Begun().To("cv1.read").Reads(1.1m)).HeightNotes),
            StringComparison.Ordinal
        );
        Assert.Empty(View(SampleRun.Begun().To("cv1.read").Reads(2.4m)).HeightNotes);
    }

    [Fact]
    public void Two_hose_readings_do_not_depend_on_the_height()
    {
        var run = SampleRun.Of("rp-relief-first").Through();
        Assert.False(View(run).HeightCounts);
        Assert.Empty(View(run).HeightNotes);
    }

    [Theory]
    [InlineData("""{"kind":"hold-started","step":"bp.test","reading":{"value":7.2,"unit":"psid"}}""")]
    [InlineData("""{"kind":"hold-watched","step":"bp.test","reading":{"value":7.1,"unit":"psid"}}""")]
    [InlineData("""{"kind":"hold-ended","step":"bp.test","reason":"window over"}""")]
    [InlineData("""{"kind":"glimpse","step":"rv.feed","reading":{"value":3.0,"unit":"psid"}}""")]
    [InlineData("""{"kind":"gauge-height","offset":{"value":-3,"unit":"in"}}""")]
    [InlineData("""{"kind":"gauge-height"}""")]
    [InlineData("""{"kind":"answer","step":"line.read","item":"line-pressure","value":{"value":62,"unit":"psi"}}""")]
    [InlineData("""{"kind":"mended","part":"cv1","text":"cleaned"}""")]
    [InlineData("""{"kind":"paused","reason":"window over"}""")]
    [InlineData("""{"kind":"resumed"}""")]
    public void Each_kind_of_entry_is_written_as_it_was_read(string members)
    {
        var json =
            $$"""{"id":"0195f2f8-0000-7000-8000-000000000001","tick":4,"at":"2031-04-02T08:00:00Z",{{members[1..]}}""";
        var errors = new List<InputError>();
        var entry = EntryFormat.Read(Node.Root(json, errors)!.Value);
        Assert.Empty(errors);
        var again = EntryFormat.Read(Node.Root(EntryFormat.Write(entry!), errors)!.Value);
        Assert.Equal(entry, again);
    }

    [Theory]
    [InlineData("""{"kind":"gauge-height","offset":{"value":9000,"unit":"mm"}}""", "offset.value")]
    [InlineData("""{"kind":"hold-ended","step":"bp.test","reason":" "}""", "reason")]
    [InlineData("""{"kind":"answer","step":"x","item":"line-pressure","value":"tight"}""", "value")]
    [InlineData("""{"kind":"mended"}""", "text")]
    public void What_is_wrong_in_an_entry_is_named_with_its_place(string members, string place)
    {
        var errors = new List<InputError>();
        EntryFormat.Read(
            Node.Root(
                $$"""{"id":"0195f2f8-0000-7000-8000-000000000001","tick":4,"at":"2031-04-02T08:00:00Z",{{members[1..]}}""",
                errors
            )!.Value
        );
        Assert.Contains(errors, f => f.Place == place);
    }
}
