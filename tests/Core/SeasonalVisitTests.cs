using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>
/// A seasonal line is found off, charged, tested, and left as it was agreed: on, off and drained, or as it was found.
/// </summary>
public class SeasonalVisitTests
{
    private static readonly Leaving?[] Agreements = [Leaving.InService, Leaving.Drained, Leaving.AsFound, null];

    private static readonly Arrival[] Found =
    [
        Arrival.Drained,
        Arrival.Named("shut at both"),
        Arrival.Named("shut at SO1"),
        Arrival.InService,
        Arrival.NotEntered,
    ];

    public static TheoryData<string, string> Bodies
    {
        get
        {
            var data = new TheoryData<string, string>();
            foreach (var school in SchoolCatalogue.All)
            foreach (
                var body in Catalogue.Bodies.Choices(school.Type).Where(b => school.Body is null || school.Body == b)
            )
                data.Add(school.Id, body);
            return data;
        }
    }

    [Trait("Turn", "2")]
    [Theory]
    [MemberData(nameof(Bodies))]
    public void However_it_was_found_the_line_is_left_as_agreed_and_each_valve_is_written_down(
        string school,
        string body
    )
    {
        var all =
            from kit in Kit.All.Where(k => SchoolCatalogue.Named(school)!.Kits.Contains(k.Kind))
            from found in Found
            from leave in Agreements
            select (kit, found, leave);
        foreach (var (kit, found, leave) in Cases.Of([.. all], school + body))
        {
            var how = $"{kit.Name}, found {found.Name}, left {leave?.Says() ?? "as nobody said"}: ";
            var (plan, situation) = Visit(school, body, kit, found);
            WaterModel? water = null;
            var moved = new List<Move>();
            var result = new SimulatedTester(
                plan,
                situation,
                t => water = t.Water,
                (_, move) => moved.Add(move),
                visit: new() { Leave = leave }
            ).Perform();
            Assert.True(result.Finished, how + "it does not end");
            Assert.Equal((how, Overall.Pass), (how, result.Verdict.Overall));
            Assert.All(ValvePositions.WrittenDownFor(plan.Rig.Body), valve =>
            {
                var wanted = Wanted(valve, plan.Rig, found, leave);
                Assert.Equal((how, valve, wanted), (how, valve, water!.Rig[valve].AsPosition()));
                Assert.Equal((how, valve, wanted), (how, valve, result.State.AsLeft[valve.Value].Position));
            });
            // What is drained is shut off from the main before anything is opened.
            if (leave == Leaving.Drained)
            {
                var turns = moved.OfType<Move.Turn>().ToList();
                var last = turns.FindLastIndex(t => t.Part == Parts.So1);
                Assert.False(turns[last].To.IsOpen, how);
                Assert.Contains(turns.Skip(last), t => t.Part == Parts.So2 && t.To.IsOpen);
            }

            var fact = EnteredFacts.Collect(plan, result.State).Single(f => f.Id == "leave");
            Assert.Equal((how, leave?.Says()), (how, fact.Text));
        }
    }

    [Fact]
    public void A_line_found_off_is_charged_after_it_was_walked_and_before_anything_is_read()
    {
        var (plan, situation) = Visit("pvb-inlet-first", "PVB", Kit.FiveValve, Arrival.Drained);
        var state = new SimulatedTester(plan, situation, visit: new() { Leave = Leaving.InService }).Perform().State;
        var steps = state.Behind.Select(b => b.Planned.Step.Id).ToList();
        Assert.True(steps.IndexOf("before.season") >= 0);
        Assert.True(steps.IndexOf("before.season") < steps.IndexOf("charge.line"));
        Assert.True(
            steps.IndexOf("charge.line") < steps.FindIndex(s => plan.Sheet.Steps[plan.Sheet.At(s)].Step.Capture != null)
        );
        Assert.DoesNotContain("finish.so1-shut", steps);
    }

    [Fact]
    public void What_was_agreed_can_be_changed_until_it_is_done()
    {
        var (plan, situation) = Visit("dc-sight-tube", "DC", Kit.FiveValve, Arrival.Drained);
        var log = new SimulatedTester(plan, situation, visit: new() { Leave = Leaving.Drained }).Perform().Log;
        var at = log.Entries.ToList().FindIndex(e => e.Body is EntryBody.ToBeLeft);
        var before = log.Entries.Take(at + 1).ToList();
        var next = before[^1].Tick + 1;
        var changed = before.Append(
            new Entry(new(Guid.NewGuid()), next, before[^1].At, new EntryBody.ToBeLeft(Leaving.InService))
        );
        static IEnumerable<string> Ahead(RunState state) => state.Ahead.Select(p => p.Step.Id);
        var first = Replay.Run(plan, RunLog.Empty.With(before));
        var second = Replay.Run(plan, RunLog.Empty.With(changed));
        Assert.Contains("finish.so1-shut", Ahead(first));
        Assert.Contains("finish.tc4-open", Ahead(first));
        Assert.DoesNotContain("finish.so1-shut", Ahead(second));
        Assert.DoesNotContain("finish.tc4-open", Ahead(second));
        Assert.Contains("finish.so1", Ahead(second));
    }

    [Fact]
    public void An_ordinary_test_asks_nothing_about_the_season()
    {
        foreach (var school in SchoolCatalogue.All)
        {
            var sheet = SchoolCatalogue.Sheet(school, Kit.All.First(k => k.Kind == school.Kits[0]));
            Assert.DoesNotContain(sheet.Steps, s => s.Step.Asks == Question.Leaving);
            Assert.DoesNotContain(sheet.Steps, s => s.Step.OnlyIf.Any(o => o.WhenLeft));
        }
    }

    [Fact]
    public void A_seasonal_sheet_and_its_log_come_back_as_they_were_written()
    {
        foreach (var school in SchoolCatalogue.All)
        {
            var kit = Kit.All.First(k => k.Kind == school.Kits[0]);
            var sheet = SchoolCatalogue.Sheet(school, kit, seasonal: true);
            var json = RunSheetFormat.Json(sheet, indented: false);
            var again = RunSheetReader.ReadKept(json, sheet.Setup);
            Assert.Equal(json, RunSheetFormat.Json(again!, indented: false));
        }

        foreach (var leave in Enum.GetValues<Leaving>())
        {
            var entry = new Entry(
                new(Guid.NewGuid()),
                1,
                DateTimeOffset.UnixEpoch.AddYears(60),
                new EntryBody.ToBeLeft(leave)
            );
            Assert.Null(EntryFormat.WhyNotKept(entry));
        }
    }

    private static ValvePosition Wanted(PartId valve, Rig rig, Arrival found, Leaving? leave) =>
        leave switch
        {
            Leaving.InService => rig[valve].Normal.AsPosition(),
            Leaving.Drained => Arrival.Drained.At(valve, rig.Body),
            _ => found.At(valve, rig.Body),
        };

    private static (RunPlan Plan, Situation Situation) Visit(string school, string body, Kit kit, Arrival found)
    {
        var procedure = SchoolCatalogue.Named(school)!;
        var profile = BuiltInProfiles.All.First(p => p.School(school) is not null);
        var assembly = Catalogue.Bodies.Find(procedure.Type, body);
        var situation = new Situation
        {
            Rig = new(assembly, kit),
            Springs = Springs.Healthy(procedure.Type),
            FoundPositions = [.. found.Of(assembly)],
        };
        var ordinary = new Scenario(situation, procedure, profile).Plan;
        return (
            ordinary with
            {
                Sheet = procedure.For(new(situation.Rig, profile.School(school)!) { Seasonal = true }),
            },
            situation
        );
    }
}
