using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Tests;

/// <summary>
/// Every school on the water, from a line as it may be found to a line as it was found: no cock left open, no hose
/// moved under pressure, no water let into a running tap.
/// </summary>
public class ArrivalTests
{
    // psi: what a coupling may hold when it is undone; a check's spring holds a couple in a hose that hangs before it.
    private const double Harmless = 8;

    public static TheoryData<string, string, string, string> Schools
    {
        get
        {
            var data = new TheoryData<string, string, string, string>();
            var all =
                from school in SchoolCatalogue.All
                from kit in Kit.All.Where(k => school.Kits.Contains(k.Kind))
                from profile in BuiltInProfiles.All.Where(p => p.School(school.Id) is not null)
                from body in Bodies.Choices(school.Type)
                select (school.Id, kit.Name, profile.Id, body);
            foreach (var (school, kit, profile, body) in Cases.Rows(all, nameof(Schools)))
                data.Add(school, kit, profile, body);
            return data;
        }
    }

    [Theory]
    [MemberData(nameof(Schools))]
    public void On_the_water_the_end_is_as_it_was_found_and_no_hose_is_moved_under_pressure(
        string school,
        string kit,
        string profile,
        string body
    )
    {
        var procedure = SchoolCatalogue.Named(school)!;
        // Every state of a line with the body that the school is written for; with the other one those that differ
        // most.
        foreach (
            var arrival in procedure.Body is null || procedure.Body == body
                ? Cases.Of([.. Arrival.All], school + kit + profile + body)
                : [Arrival.NotEntered, Arrival.Drained, Arrival.Named("shut at both")]
        )
        {
            var assembly = Bodies.Find(procedure.Type, body);
            var situation = new Situation
            {
                Rig = new(assembly, Kit.Named(kit)!),
                Springs = Springs.Healthy(procedure.Type),
                FoundPositions = [.. arrival.Of(assembly)],
            };
            var scenario = new Scenario(situation, procedure, BuiltInProfiles.Named(profile)!);
            WaterModel? water = null;
            var errors = new List<string>();
            void Moved(double at, Move move)
            {
                var item = move switch
                {
                    Move.Connect c => c.Item,
                    Move.TakeOff o => o.Item,
                    _ => default,
                };
                // Through its bypass hose a kit without bleeds is relieved: that one is loosened slowly, cocks shut.
                var relieves =
                    item == Parts.BypassHose
                    && !situation.Rig.Kit.HasBleeds
                    && ValvePositions.WrittenDownFor(assembly).Skip(2).All(c => !water!.Rig[c].IsOpen);
                if ((item == Parts.HighHose || item == Parts.LowHose || item == Parts.BypassHose) && !relieves)
                {
                    var psi = water!.PressureIn(situation.Rig.At(new(item, "kit"))!.Id);
                    if (psi > Harmless)
                        errors.Add($"{at:0} s: {item} moved at {psi:0.0} psi");
                }

                if (move is Move.Turn { Part: var valve, To.IsOpen: true } && valve == Parts.So2 && water!.TapOpen)
                    errors.Add($"{at:0} s: SO2 opened into a running tap");
            }

            var result = new SimulatedTester(scenario.Plan, situation, t => water = t.Water, Moved).Perform();
            var how = $"{arrival.Name}: ";
            Assert.True(errors.Count == 0, how + string.Join("; ", errors.Distinct()));
            Assert.True(result.Finished, how + "it does not end");
            Assert.True(
                result.Verdict.Overall == Overall.Pass,
                $"{how}{result.Verdict.Overall}: "
                    + $"{string.Join("; ", result.Verdict.Items.Where(i => i.Result is not (ItemResult.Pass or ItemResult.Recorded)).Select(i => i.Why))}; {string.Join(", ", result.Met.Select(m => $"{m.Step}/{m.Sight.Id}"))}"
            );
            Assert.True(result.Findings.Count == 0, how + string.Join(", ", result.Findings));
            Assert.All(assembly.Parts.Where(p => p.Turns), p =>
                Assert.Equal((how, p.Id, arrival.At(p.Id, assembly)), (how, p.Id, water!.Rig[p.Id].AsPosition()))
            );
            Assert.All(ValvePositions.WrittenDownFor(assembly), p =>
                Assert.Equal((how, p, arrival.At(p, assembly)), (how, p, result.State.AsLeft[p.Value].Position))
            );
        }
    }
}
