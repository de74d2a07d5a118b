using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;

namespace Mordel.Core.Simulation;

/// <summary>A simulated test: what is true of the rig, and by which school and rules it is tested.</summary>
/// <param name="Situation">What is true of the rig.</param>
/// <param name="Procedure">The school.</param>
/// <param name="Profile">The rules.</param>
public sealed record Scenario(Situation Situation, Procedure Procedure, Profile Profile)
{
    /// <summary>The run that the tester makes.</summary>
    public RunPlan Plan
    {
        get
        {
            var psid = Profile.School(Procedure.Id)?.Unit is not DifferentialUnit.Kpa;
            return new(
                Procedure,
                Situation.Rig,
                Profile,
                Differential.Psid(0.2m),
                psid ? Differential.Psid(0.1m) : Differential.Kpa(1m),
                psid ? Differential.Psid(15m) : Differential.Kpa(100m)
            );
        }
    }

    /// <summary>Performs it.</summary>
    /// <param name="trace">Told of every quarter of a second.</param>
    /// <param name="budget">What may be spent on the water; null for as much as it takes.</param>
    public SimulatedTest Perform(Action<TraceMoment>? trace = null, WorkBudget? budget = null) =>
        new SimulatedTester(Plan, Situation, trace, null, budget).Perform();
}
