using CsCheck;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;

namespace Mordel.Core.Tests;

/// <summary>
/// A run carries its own setup: from it and the log alone it is played, judged and reported, whatever the schools look
/// like by then.
/// </summary>
public class SetupTests
{
    private static readonly System.Text.Json.JsonSerializerOptions Wide = new() { WriteIndented = true };

    public static TheoryData<string, string> SchoolsAndKits => SchoolsTests.SchoolsAndKits;

    [Theory]
    [MemberData(nameof(SchoolsAndKits))]
    public void A_setup_comes_back_from_both_its_forms_with_every_step_as_it_was(string school, string kit)
    {
        foreach (var plan in SchoolsTests.Plans(school, kit))
        {
            var setup = SampleSetup.For(plan);
            var (own, complete) = (RunSetupFormat.Write(setup), RunSetupFormat.WriteComplete(setup));
            var fromOwn = RunSetupFormat.Read(own, SampleSetup.Shelf(setup), out var errors);
            Assert.Empty(errors);
            var fromComplete = RunSetupFormat.Read(complete, null, out errors);
            Assert.Empty(errors);
            foreach (var read in new[] { fromOwn!, fromComplete! })
            {
                Assert.Equal((own, complete), (RunSetupFormat.Write(read), RunSetupFormat.WriteComplete(read)));
                Assert.Equal(
                    (setup.Assembly, setup.Place, setup.Kit, setup.Tester, setup.Profile),
                    (read.Assembly, read.Place, read.Kit, read.Tester, read.Profile)
                );
                Assert.Equal(RunSheetText.Write(setup.Sheet), RunSheetText.Write(read.Sheet));
            }
        }
    }

    [Fact]
    public void A_consent_comes_back_as_it_was_given_and_a_setup_without_one_says_nothing_of_it()
    {
        var bare = SampleSetup.For(SampleRun.PlanWith(Kit.FiveValve));
        Assert.DoesNotContain("consent", RunSetupFormat.Write(bare), StringComparison.Ordinal);
        var setup = bare with
        {
            Consent = new("Ada \"Holm\"", SampleSetup.Begun, new(2031, 4, 2), new(0, 0), new(23, 59)),
        };
        var text = RunSetupFormat.WriteComplete(setup);
        Assert.Equal(setup.Consent, RunSetupFormat.Read(text, null, out _)!.Consent);
        foreach (var (right, wrong) in new[] { ("\"00:00\"", "\"24:00\""), ("\"2031-04-02\"", "\"2031-04-31\"") })
        {
            Assert.Null(
                RunSetupFormat.Read(text.Replace(right, wrong, StringComparison.Ordinal), null, out var errors)
            );
            Assert.StartsWith("consent.", errors[0].ToString(), StringComparison.Ordinal);
        }
    }

    [Fact]
    public void A_run_played_by_its_kept_sheet_goes_where_it_went_whatever_was_tapped() =>
        ReplayTests.Taps.Sample(
            taps =>
            {
                var run = ReplayTests.Tapped(taps);
                var kept = RunSetupFormat.Read(RunSetupFormat.WriteComplete(SampleSetup.For(run.Plan)), null, out _)!;
                return ReplayTests.Fingerprint(kept.Plan, run.Log) == ReplayTests.Fingerprint(run.Plan, run.Log);
            },
            iter: Cases.Of(300)
        );

    [Fact]
    public void A_sealed_run_comes_back_as_it_was_sealed_and_is_judged_again_to_the_same_verdict() =>
        ReplayTests.Taps.Sample(
            taps =>
            {
                var run = ReplayTests.Tapped(taps);
                var made = SampleSetup.Sealed(run.Plan, run.Log);
                var text = SealedRunFormat.Write(made);
                var read = SealedRunFormat.Read(text, SampleSetup.Shelf(made.Setup), out var errors)!;
                Assert.Empty(errors);
                Assert.Equal(text, SealedRunFormat.Write(read));
                Assert.Equal(made.Report, read.Report);
                Assert.Equal(
                    made.Verdict.Items.Select(i => (i.Item, i.Result, i.Limit, i.Margin, i.Why)),
                    read.Verdict.Items.Select(i => (i.Item, i.Result, i.Limit, i.Margin, i.Why))
                );
                Assert.Equal(VerdictFormat.Write(made.Verdict), VerdictFormat.Write(read.JudgeAgain()));
            },
            iter: Cases.Of(300)
        );

    [Fact]
    public void Compact_text_is_the_same_however_it_was_laid_out()
    {
        var text = RunSetupFormat.WriteComplete(SampleSetup.For(SampleRun.PlanWith(Kit.FiveValve)));
        using var document = System.Text.Json.JsonDocument.Parse(text);
        var wide = System.Text.Json.JsonSerializer.Serialize(document.RootElement, Wide);
        Assert.NotEqual(text, wide);
        Assert.Equal(text, JsonText.Compact(wide));
        Assert.InRange(RunSetupFormat.Write(SampleSetup.For(SampleRun.PlanWith(Kit.FiveValve))).Length, 500, 2_500);
    }

    [Theory]
    [InlineData("\"type\":\"DC\"", "\"type\":\"XY\"", "assembly.type")]
    [InlineData("\"kind\":\"five-valve\"", "\"kind\":\"spoon\"", "kit.kind")]
    [InlineData("\"number\":\"F-1010/20310402-0759\",", "", "number: is missing")]
    [InlineData(
        "\"procedure\":\"dc-sight-tube\",\"profile\"",
        "\"procedure\":\"rp-relief-first\",\"profile\"",
        "procedure"
    )]
    [InlineData("{\"turn\":\"tc2\"", "{\"turn\":\"tc9\"", "is not a part of this rig")]
    [InlineData("{\"closed\":\"tc2\"}", "{\"shut\":\"tc2\"}", "is no condition that is known here")]
    [InlineData("\"step\":\"ready.flush\"", "\"step\":\"before.notify\"", "stands twice")]
    public void A_bent_setup_is_refused_with_its_place(string right, string wrong, string says)
    {
        var text = RunSetupFormat.WriteComplete(SampleSetup.For(SampleRun.PlanWith(Kit.FiveValve)));
        Assert.Contains(right, text, StringComparison.Ordinal);
        Assert.Null(RunSetupFormat.Read(text.Replace(right, wrong, StringComparison.Ordinal), null, out var errors));
        Assert.Contains(errors, f => f.ToString().Contains(says, StringComparison.Ordinal));
    }

    [Fact]
    public void A_sealed_run_whose_sheet_is_gone_says_so()
    {
        var made = SampleSetup.Sealed(SampleRun.PlanWith(Kit.FiveValve), RunLog.Empty);
        Assert.Null(SealedRunFormat.Read(SealedRunFormat.Write(made), SampleSetup.Shelf(), out var errors));
        Assert.Contains(errors, f =>
            f.Says.Contains("the hash of a profile that is kept here", StringComparison.Ordinal)
        );
    }
}
