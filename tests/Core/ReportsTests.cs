using CsCheck;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;

namespace Mordel.Core.Tests;

/// <summary>A report says what was entered, and "not entered" where nobody entered it.</summary>
public class ReportsTests
{
    private static TestReport Report(
        SampleRun run,
        Func<Entry, DateTimeOffset>? received = null,
        DateTimeOffset? begun = null,
        GivenConsent? consent = null
    )
    {
        var setup = SampleSetup.For(run.Plan) with { Consent = consent };
        if (begun is { } at)
            setup = setup with { BegunAt = at };
        ReceivedEntry[] log =
        [
            .. run.Log.Entries.Select(e => new ReceivedEntry(e, received?.Invoke(e) ?? e.At.AddSeconds(1))),
        ];
        var signing = new Signing(
            "Ines Tarrow",
            SampleSetup.Certificate,
            Signing.TypedName,
            SampleSetup.Begun.AddHours(1)
        );
        return new ReportWriter(setup, run.State, run.Verdict, log, signing, TimeZoneInfo.Utc).Write(simulated: true);
    }

    private static string Line(TestReport report, string label) =>
        report.Visit.Elements.Single(l => l.Label == label).Text;

    [Fact]
    public void Two_readings_and_a_signature_leave_everything_else_not_entered_item_by_item()
    {
        var run = SampleRun.Begun();
        run.Says(new EntryBody.Taken("cv1.read", new(Units.Differential.Psid(2.1m))))
            .Says(new EntryBody.Taken("cv2.read", new(Units.Differential.Psid(1.7m))));
        var report = Report(run);
        Assert.Equal("pass", report.Outcome);
        Assert.Equal(("not entered", "not entered"), (Line(report, "Permission"), Line(report, "Restored")));
        Assert.Equal(
            "as found: SO1 not entered, SO2 not entered; as left: SO1 not entered, SO2 not entered",
            Line(report, "Shutoffs")
        );
        Assert.Equal("not entered", Line(report, "Confirmed"));
        Assert.Equal(
            ["SO1 as found", "SO1 as left", "SO2 as found", "SO2 as left"],
            report
                .NotEntered.Elements.Where(n =>
                    n.EndsWith(" as found", StringComparison.Ordinal)
                    || n.EndsWith(" as left", StringComparison.Ordinal)
                )
                .Where(n => n.Length < 15)
                .Order()
        );
        Assert.All(new[] { "Permission given by", "Asked before restoring" }, name =>
            Assert.Contains(name, report.NotEntered.Elements)
        );
        Assert.Contains(report.NotEntered.Elements, n => n.StartsWith("Steps passed over: ", StringComparison.Ordinal));
        // Each step before and after the test is one of the missing facts.
        Assert.All(
            run.Plan.Sheet.WholeRun.Where(s => s.Kind is StageKind.Before or StageKind.Finish)
                .SelectMany(s => s.Steps)
                .Where(s => s.Belongs(run.Plan.Rig, LinePositions.NotEntered)),
            step => Assert.Contains(step.Title, report.NotEntered.Elements)
        );
    }

    [Fact]
    public void What_was_entered_stands_there_with_who_and_when_and_nothing_is_missing()
    {
        var run = SampleRun
            .Begun()
            .Says(new EntryBody.Agreed(Matter.Permission, "House manager"))
            .Says(new EntryBody.AsFound(Parts.So1, ValvePosition.Open))
            .Says(new EntryBody.AsFound(Parts.So2, ValvePosition.Partly))
            .Through();
        run.Says(new EntryBody.Agreed(Matter.Restoring, "Night porter"))
            .Says(new EntryBody.AsLeft(Parts.So1, ValvePosition.Open))
            .Says(new EntryBody.AsLeft(Parts.So2, ValvePosition.Closed));
        var report = Report(run);
        Assert.Empty(report.NotEntered.Elements);
        Assert.Equal("given by House manager, 2 Apr 2031, 08:00", Line(report, "Permission"));
        Assert.Equal("as found: SO1 open, SO2 partly open; as left: SO1 open, SO2 closed", Line(report, "Shutoffs"));
        Assert.StartsWith(
            "after asking Night porter, 2 Apr 2031, 08:",
            Line(report, "Restored"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Who_gave_permission_on_the_owners_page_stands_beside_or_in_place_of_who_was_asked_on_site()
    {
        var consent = new GivenConsent(
            "Ada Holm",
            SampleSetup.Begun.AddDays(-2),
            new(2031, 4, 2),
            new(7, 30),
            new(9, 0)
        );
        const string before = "Ada Holm on the owner’s page, 31 Mar 2031, 07:59, for 2 Apr 2031, 07:30 to 09:00";
        var nobody = Report(SampleRun.Begun(), consent: consent);
        Assert.Equal($"given by {before}", Line(nobody, "Permission"));
        Assert.DoesNotContain("Permission given by", nobody.NotEntered.Elements);
        Assert.Contains("Asked before restoring", nobody.NotEntered.Elements);
        var asked = SampleRun.Begun().Says(new EntryBody.Agreed(Matter.Permission, "House manager"));
        Assert.Equal(
            $"given by House manager, 2 Apr 2031, 08:00; agreed beforehand by {before}",
            Line(Report(asked, consent: consent), "Permission")
        );
    }

    [Fact]
    public void As_left_is_never_copied_from_as_found()
    {
        var report = Report(
            SampleRun
                .Begun()
                .Says(new EntryBody.AsFound(Parts.So1, ValvePosition.Open))
                .Says(new EntryBody.AsFound(Parts.So2, ValvePosition.Open))
                .Through()
        );
        Assert.Contains(
            "as left: SO1 not entered, SO2 not entered",
            Line(report, "Shutoffs"),
            StringComparison.Ordinal
        );
    }

    [Fact]
    public void Whatever_is_tapped_a_fact_is_either_from_an_entry_of_the_log_or_not_entered() =>
        ReplayTests.Taps.Sample(
            taps =>
            {
                var run = ReplayTests.Tapped(taps);
                var known = run.Log.Entries.Select(e => e.Id).ToHashSet();
                return EnteredFacts
                        .Collect(run.Plan, run.State)
                        .All(f => f.Id == "steps" || f.IsEntered == (f.By is not null))
                    && EnteredFacts.Collect(run.Plan, run.State).All(f => f.By is null || known.Contains(f.By.Id));
            },
            iter: Cases.Of(500)
        );

    [Theory]
    [InlineData(-30, 1, "dated before the run began")]
    [InlineData(0, -10, "the device's clock was ahead")]
    [InlineData(0, 60, "kept on the device, or its clock was behind")]
    public void Entries_dated_far_from_the_run_or_from_their_arrival_are_shown_as_such(
        int madeMinutes,
        int receivedMinutes,
        string says
    )
    {
        var run = SampleRun.Begun().Through();
        var report = Report(
            run,
            e => e.At.AddMinutes(receivedMinutes),
            run.Log.Entries.First().At.AddMinutes(-madeMinutes).AddSeconds(-30)
        );
        Assert.Contains(report.Times.Elements, t =>
            t.Contains(says, StringComparison.Ordinal)
            && t.StartsWith($"{run.Log.Count} entries are", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Honest_clocks_a_minute_apart_are_not_mentioned()
    {
        var run = SampleRun.Begun().Through();
        Assert.Empty(Report(run, e => e.At.AddMinutes(-1)).Times.Elements);
        Assert.Empty(Report(run, e => e.At.AddMinutes(14)).Times.Elements);
    }

    [Fact]
    public void A_test_faster_than_hands_and_water_is_asked_about_and_the_answer_stands_on_the_report()
    {
        var run = SampleRun.Begun();
        for (var i = 0; i < 200 && run.State.Current is not null; i++)
        {
            run.Waits(-20);
            run.GoesOn();
        }

        var hasty = Pace.FindHasty(run.Plan, run.State, SampleSetup.Begun.AddMinutes(1));
        Assert.Equal([TestItem.Check1, TestItem.Check2], hasty.Select(h => h.Item));
        Assert.All(hasty, h => Assert.True(h.Seconds < h.Least));
        Assert.Contains(Report(run, begun: SampleSetup.Begun.AddMinutes(1)).Times.Elements, t =>
            t.EndsWith("Nobody explained it.", StringComparison.Ordinal)
        );
        run.Says(new EntryBody.Explained(Oddity.Pace, "Entered from the paper sheet."));
        Assert.Contains(Report(run, begun: SampleSetup.Begun.AddMinutes(1)).Times.Elements, t =>
            t.EndsWith("The tester: Entered from the paper sheet.", StringComparison.Ordinal)
        );
    }

    [Fact]
    public void Time_that_went_by_is_never_counted_against_the_tester() =>
        Gen.Select(Gen.Int[0, 400], Gen.Int[0, 400])
            .Sample(
                (wait, more) =>
                {
                    int Hasty(int seconds)
                    {
                        var run = SampleRun.Begun();
                        run.Waits(seconds).Says(new EntryBody.Taken("cv1.read", new(Units.Differential.Psid(2.1m))));
                        return Pace.FindHasty(run.Plan, run.State, SampleSetup.Begun.AddMinutes(1)).Length;
                    }

                    return Hasty(wait + more) <= Hasty(wait);
                },
                iter: Cases.Of(100)
            );

    [Fact]
    public void A_report_of_a_run_that_was_mended_tells_the_set_before_and_what_was_done()
    {
        var run = SampleRun
            .Begun()
            .OnTo("cv1.read")
            .Reads(0.4m)
            .Says(new EntryBody.Mended(null, "CV1 cleaned"))
            .Through();
        var report = Report(run);
        Assert.Equal("pass", report.Outcome);
        Assert.Contains(report.Before.Elements, b =>
            b.StartsWith("Before the repair, ", StringComparison.Ordinal)
            && b.Contains("CV1", StringComparison.Ordinal)
            && b.Contains("0.4 psid", StringComparison.Ordinal)
        );
        Assert.Contains("CV1 cleaned", report.Repairs, StringComparison.Ordinal);
    }
}
