using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>
/// A simulated tester who stops at a step, and another who goes on from there on the water as it stands.
/// </summary>
public class TakeOverTests
{
    public static TheoryData<string> Schools => [.. SchoolCatalogue.All.Select(s => s.Id)];

    private static SimulatedTest Whole(Scenario scenario) => scenario.Perform();

    private static SimulatedTest InTwoParts(Scenario scenario, int steps)
    {
        var water = new WaterModel(scenario.Situation);
        var first = new SimulatedTester(scenario.Plan, water, RunLog.Empty);
        for (var i = 0; i < steps; i++)
            first.Step();
        return new SimulatedTester(scenario.Plan, water, first.Log).Perform();
    }

    [Theory]
    [MemberData(nameof(Schools))]
    public void Whoever_takes_over_at_any_step_comes_to_the_same_verdict(string school)
    {
        var scenario = Bench.Set(school, Bench.KitsOf(school).First(), "");
        var whole = Whole(scenario);
        Assert.Equal(Overall.Pass, whole.Verdict.Overall);
        var problems = new System.Collections.Concurrent.ConcurrentBag<string>();
        Parallel.ForEach(Cases.Of([.. Enumerable.Range(1, whole.State.Behind.Length - 1)], school), steps =>
        {
            var parts = InTwoParts(scenario, steps);
            if (!parts.Finished || parts.Verdict.Overall != Overall.Pass || parts.Findings.Count > 0)
                problems.Add(
                    $"after {steps} steps, {whole.State.Behind[steps - 1].Planned.Key}: {parts.Verdict.Reason}"
                );
        });
        Assert.Empty(problems);
    }

    [Theory]
    [MemberData(nameof(Schools))]
    public void A_leaking_check_is_found_by_whoever_takes_over_before_it_is_read(string school)
    {
        var scenario = Bench.Set(school, Bench.KitsOf(school).First(), "cv1 leaks");
        var water = new WaterModel(scenario.Situation);
        var first = new SimulatedTester(scenario.Plan, water, RunLog.Empty);
        first.Perform(until: step => step.Stage is not ("before" or "ready"));
        Assert.False(first.IsDone);
        var second = new SimulatedTester(scenario.Plan, water, first.Log).Perform();
        Assert.Contains(FindingKind.Cv1Leaks, second.Findings);
        Assert.Equal(Overall.Fail, second.Verdict.Overall);
        Assert.True(second.Log.Count > first.Log.Count);
        Assert.Equal(first.Log.Entries, second.Log.Entries.Take(first.Log.Count));
    }

    // The log says that half of the test is done; the rig stands in service, as if somebody had put it all back.
    [Fact]
    public void A_rig_that_stands_otherwise_than_the_log_says_is_first_brought_to_where_it_should_be()
    {
        var scenario = Bench.Set("dc-sight-tube", "five-valve", "");
        var first = new SimulatedTester(scenario.Plan, scenario.Situation);
        first.Perform(until: step => step.Step.Id == "cv2.read");
        var fresh = new WaterModel(scenario.Situation);
        var second = new SimulatedTester(scenario.Plan, fresh, first.Log);
        Assert.Equal(first.State.Rig.Connections, fresh.Rig.Connections);
        Assert.Equal(Overall.Pass, second.Perform().Verdict.Overall);
    }

    [Fact]
    public void A_visit_enters_who_was_asked_how_the_valves_stood_and_when()
    {
        var scenario = Bench.Set("pvb-inlet-first", "five-valve", "");
        var start = new DateTimeOffset(2031, 4, 2, 8, 0, 0, TimeSpan.Zero);
        var visit = new SimulatedVisit
        {
            Start = start,
            Contact = "Ane Kolb",
            Papers = 20,
        };
        var test = new SimulatedTester(scenario.Plan, scenario.Situation, visit: visit).Perform();
        Assert.All(EnteredFacts.Collect(test.Plan, test.State), f => Assert.True(f.IsEntered, f.Name));
        Assert.Equal(2, test.State.AsFound.Count);
        Assert.All(test.Log.Entries, e => Assert.True(e.At >= start));
        Assert.Equal(test.Log.Entries.Order(Comparer<Entry>.Create((a, b) => a.At.CompareTo(b.At))), test.Log.Entries);
        Assert.Empty(Pace.FindHasty(test.Plan, test.State, start));
    }

    [Fact]
    public void Every_sight_says_what_is_observed_and_every_question_has_an_answer_when_nothing_shows()
    {
        static IEnumerable<Step> Deep(Step step) =>
            [step, .. step.Offers.SelectMany(Deep), .. step.Sights.SelectMany(s => s.Branch).SelectMany(Deep)];
        var steps =
            from school in SchoolCatalogue.All
            from kit in Rigs.Kit.All.Where(k => school.Kits.Contains(k.Kind))
            from profile in BuiltInProfiles.All.Where(p => p.School(school.Id) is not null)
            from step in SchoolCatalogue.Sheet(school, kit, profile).Steps.SelectMany(s => Deep(s.Step))
            select step;
        Assert.All(steps, step =>
        {
            Assert.All(step.Sights, s => Assert.NotEqual(ObservationKind.NotKept, s.Shows.Kind));
            Assert.All(step.Sights, s => Assert.Equal(s.Good, s.Shows.IsGood));
            // Two sights that are the same observation could not be told apart.
            var seen = step.Sights.Where(s =>
                s.Shows.Kind is not (ObservationKind.OwnDoing or ObservationKind.PutRight)
            );
            Assert.Equal(seen.Count(), seen.Select(s => s.Shows).Distinct().Count());
        });
    }
}
