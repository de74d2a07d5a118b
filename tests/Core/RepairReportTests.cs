using Mordel.Core.Reports;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Xunit;

namespace Mordel.Core.Tests;

/// <summary>The report of a test after a repair: before, work, and after, all of it under the seal.</summary>
public class RepairReportTests
{
    private static RepairFacts Repair { get; } =
        new()
        {
            Repair = new("0a6f4f43-5d0f-4c5e-9d0e-0f2b6f6f0009"),
            BegunAt = SampleSetup.Begun.AddHours(-2),
            ClosedAt = SampleSetup.Begun.AddMinutes(-5),
            By = "Ines Tarrow",
            Permission = "Signe Ost",
            Failed = new(
                "F-1010/20310401-0800",
                SampleSetup.Begun.AddDays(-1),
                "fail",
                [new("CV1 differential", "0.0 psid", "1.0 psid", "fail"), new("SO1", "leaks", "–", "recorded")]
            ),
            Found = ["CV1, seal disc: grit or “debris”"],
            Done = ["CV1, seal disc: cleaned"],
            Used = ["2 × O-ring"],
            Stopgaps = ["CV2: seal disc turned, to be put right by 2 May 2031"],
            Notes = ["The pit was wet."],
            Photos = [new(new string('a', 64), "CV1, seal disc")],
        };

    private static SealedRun Sealed(RepairFacts? repair)
    {
        var run = SampleRun.Begun();
        run.Says(new EntryBody.Taken("cv1.read", new(Differential.Psid(2.1m))));
        var made = SampleSetup.Sealed(run.Plan, run.Log);
        var setup = made.Setup with { Repair = repair };
        var report = new ReportWriter(setup, run.State, run.Verdict, [.. made.Log], made.Signing, TimeZoneInfo.Utc);
        return made with { Setup = setup, Report = report.Write(simulated: false) };
    }

    [Fact]
    public void It_names_the_test_that_failed_what_was_found_done_used_and_what_holds_for_a_while_only()
    {
        var printed = Sealed(Repair).Report.Repair!;
        Assert.Equal("Repaired after report F-1010/20310401-0800 of 1 Apr 2031, which said: fail.", printed.After);
        Assert.Equal(["0.0 psid", "leaks"], printed.Initial.Select(i => i.Value));
        Assert.Equal(
            ["Repaired", "Permission", "Found", "Done", "Parts", "Stopgap", "Notes"],
            printed.Lines.Select(l => l.Label)
        );
        Assert.Contains("no lasting repair", printed.Lines[5].Text, StringComparison.Ordinal);
        Assert.Equal("CV1, seal disc: cleaned.", Sealed(Repair).Report.Repairs);
    }

    [Fact]
    public void What_nobody_entered_of_a_repair_is_said_not_to_be()
    {
        var bare = Repair with { Permission = null, Failed = null, Found = [], Done = [], Used = [], Stopgaps = [] };
        var printed = Sealed(bare).Report.Repair!;
        Assert.Equal("", printed.After);
        Assert.Empty(printed.Initial);
        Assert.Equal(
            ["not entered", "nothing entered", "nothing entered", "none used"],
            printed.Lines.Skip(1).Take(4).Select(l => l.Text)
        );
    }

    [Fact]
    public void A_record_with_a_repair_comes_back_as_it_was_and_one_without_says_no_word_of_it()
    {
        foreach (var repair in new[] { Repair, Repair with { Failed = null, Permission = null, Photos = [] }, null })
        {
            var made = Sealed(repair);
            var text = SealedRunFormat.Write(made);
            var read = SealedRunFormat.Read(text, SampleSetup.Shelf(made.Setup), out var errors);
            Assert.Empty(errors);
            Assert.Equal(made.Setup.Repair, read!.Setup.Repair);
            Assert.Equal(made.Report, read.Report);
            Assert.Equal(repair is null, !text.Contains("\"repair\"", StringComparison.Ordinal));
        }
    }
}
