using Mordel.Core.Procedures;
using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Core.Views;

namespace Mordel.Core.Tests;

/// <summary>A needle that does not stand at zero is said once and never changes a reading.</summary>
public class GaugeNotesTests
{
    private static SampleRun Passing() =>
        SampleRun
            .Begun()
            .Says(new EntryBody.Taken("cv1.read", new(Differential.Psid(1.2m))))
            .Says(new EntryBody.Taken("cv2.read", new(Differential.Psid(1.7m))));

    private static TogetherLine AtTheKit(SampleRun run) =>
        RunViews
            .Build(run.Plan, run.Log, Rigs.FlowDirection.LeftToRight, false)
            .Together!.Lines.Single(l => l.Key == "before.kit");

    private static List<string> Notes(SampleRun run) => [.. GaugeNotes.Zero(run.Plan, run.State, run.Verdict)];

    [Fact]
    public void What_would_read_otherwise_without_it_is_told_and_the_verdict_stands()
    {
        var run = Passing();
        Assert.Empty(Notes(run));
        run.Says(new EntryBody.KitZero(new(Differential.Psid(0.3m))));
        Assert.Equal(Overall.Pass, run.Verdict.Overall);
        Assert.Equal(
            "With both ports open to air the needle stood at 0.3 psid, beyond the gauge’s ±0.2 psid: set it, or take "
                + "another kit. With that taken off, CV1 differential would be 0.9 psid and read fail.",
            Assert.Single(Notes(run))
        );
    }

    [Fact]
    public void Within_the_gauges_accuracy_it_is_only_said()
    {
        var run = Passing().Says(new EntryBody.KitZero(new(Differential.Psid(-0.1m))));
        Assert.Equal("With both ports open to air the needle stood at -0.1 psid.", Assert.Single(Notes(run)));
    }

    [Fact]
    public void That_it_reads_zero_is_known_only_where_somebody_said_so()
    {
        var run = Passing();
        Assert.Null(GaugeNotes.ZeroBefore(run.Plan, run.State));
        var looked = SampleRun.Begun();
        while (looked.State.Current is { } now && now.Stage == "before")
            looked.Says(new EntryBody.Done(now.Key));
        Assert.Equal(0m, GaugeNotes.ZeroBefore(looked.Plan, looked.State)!.Value.Amount);
        Assert.Contains(EnteredFacts.Collect(looked.Plan, looked.State), f => f.Name.StartsWith("Kit reads zero"));
        looked.Says(new EntryBody.KitZero(new(Differential.Kpa(2m))));
        Assert.DoesNotContain(EnteredFacts.Collect(looked.Plan, looked.State), f => f.Name.Contains("reads zero"));
        Assert.Equal(0.290m, decimal.Round(GaugeNotes.ZeroBefore(looked.Plan, looked.State)!.Value.Amount, 3));
    }

    [Fact]
    public void The_screen_asks_for_it_where_the_kit_is_looked_at_and_shows_what_was_said()
    {
        var run = SampleRun.Begun();
        var asked = AtTheKit(run);
        Assert.Equal(("kit-zero", null, null), (asked.Ask!.Kind, asked.Ask.Answer, asked.Ask.Offer));
        run.Says(new EntryBody.KitZero(new(Differential.Psid(0.4m))));
        asked = AtTheKit(run);
        Assert.Equal("stands at 0.4 psid", asked.Ask!.Answer);
    }

    [Fact]
    public void It_is_kept_digit_by_digit_and_refused_without_a_number()
    {
        var entry = new Entry(
            new(Guid.NewGuid()),
            3,
            SampleSetup.Begun,
            new EntryBody.KitZero(new(new Differential(0.20m, DifferentialUnit.Psid)))
        );
        var text = EntryFormat.Write(entry);
        Assert.Equal(entry, EntryFormat.Read(Node.Root(text, [])!.Value));
        EntryFormat.ReadBatch(
            $$"""{"entries":[{"id":"{{Guid.NewGuid()}}","tick":1,"at":"2031-04-02T08:00:00Z","kind":"kit-zero"}]}""",
            out var errors
        );
        Assert.Equal("entries[0].reading", Assert.Single(errors).Place);
    }

    [Fact]
    public void A_report_calls_things_as_the_authoritys_form_does_and_keeps_what_they_are()
    {
        var plain = Passing();
        var words = new Rules.FormWords
        {
            Title = "Annual certificate",
            Declaration = "I tested it as the board asks.",
            Names = [new("pass", "Satisfactory"), new("check-1", "First valve")],
        };
        var run = SampleRun.Of(plain.Plan with { Profile = plain.Plan.Profile with { Words = words } });
        foreach (var entry in plain.Log.Entries)
            run.Says(entry.Body);
        var report = Report(run);
        Assert.Equal("pass", report.Outcome);
        Assert.Equal(("Satisfactory", "Satisfactory"), (report.Word("pass"), report.Title.Split(": ")[^1]));
        Assert.Contains(report.Items.Elements, i => i is { Name: "First valve", Result: "pass" });
        Assert.Equal(words with { Names = [new("pass", "Satisfactory")] }, report.Form);
        Assert.Null(Report(plain).Form);
        Assert.Equal("Not testable", report.Word("not-testable"));
        using var stream = new MemoryStream();
        using (var json = new System.Text.Json.Utf8JsonWriter(stream))
            ReportFormat.Write(json, report);
        Assert.Equal(
            report,
            ReportFormat.Read(Node.Root(System.Text.Encoding.UTF8.GetString(stream.ToArray()), [])!.Value)
        );
    }

    private static TestReport Report(SampleRun run)
    {
        var signing = new Signing(
            "Ines Tarrow",
            SampleSetup.Certificate,
            Signing.TypedName,
            SampleSetup.Begun.AddHours(1)
        );
        return new ReportWriter(
            SampleSetup.For(run.Plan),
            run.State,
            run.Verdict,
            [.. run.Log.Entries.Select(e => new ReceivedEntry(e, e.At))],
            signing,
            TimeZoneInfo.Utc
        ).Write(simulated: false);
    }
}
