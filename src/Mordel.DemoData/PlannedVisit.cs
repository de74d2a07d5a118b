using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Register;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Simulation;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;
using Mordel.Data.Rows;
using Mordel.Data.Setups;
using Procedure = Mordel.Core.Procedures.Procedure;

namespace Mordel.DemoData;

/// <summary>What is true of an assembly on a day, apart from what its type says.</summary>
/// <param name="Springs">Its springs, psid.</param>
/// <param name="Faults">What is wrong with it.</param>
public sealed record Inside(Springs Springs, params Fault[] Faults);

/// <summary>
/// A visit to an assembly that is to be made: who goes when, and what the water will find. Performed by the simulated
/// tester, so that the town's past obeys the physics.
/// </summary>
/// <param name="Id">The run.</param>
/// <param name="Assembly">The assembly.</param>
/// <param name="Team">Who tests it, with the kit as it was calibrated then.</param>
/// <param name="Inside">What is true of it.</param>
/// <param name="Start">When.</param>
/// <param name="Stop">The stop of a round; null for the years before.</param>
/// <param name="Seed">Decides supply, clearance and the entries' ids.</param>
public sealed record PlannedVisit(
    Guid Id,
    AssemblyRow Assembly,
    Team Team,
    Inside Inside,
    DateTimeOffset Start,
    Guid? Stop,
    int Seed
)
{
    /// <summary>Seconds that each question and each look at papers takes.</summary>
    private const double Papers = 25;

    private const int LongestReading = 40;

    /// <summary>The visit that failed, after which it was mended; null where this is no test after that.</summary>
    public PlannedVisit? After { get; init; }

    /// <summary>Whether a seasonal line is put on: found drained, and left in service.</summary>
    public bool IsSeasonal { get; init; }

    /// <summary>The day.</summary>
    public DateOnly Day => DateOnly.FromDateTime(Start.DateTime);

    /// <summary>Whom the tester asks there.</summary>
    public string Contact => Assembly.Place!.Contact.Split(',')[0];

    /// <summary>Everything that its log hangs on, apart from the hour.</summary>
    public string Key(Procedure procedure, Profile profile)
    {
        ArgumentNullException.ThrowIfNull(procedure);
        ArgumentNullException.ThrowIfNull(profile);
        var (a, k) = (Assembly, Team.Kit);
        return ContentHash.Compute(
            string.Create(
                CultureInfo.InvariantCulture,
                $"{Seed} {procedure.Id} {profile.Id} {profile.Version} {a.Type} {a.Body} {a.Strainer} {a.FittedCocks} "
                    + $"{a.BypassLine} {k.Kind} {k.Unit} {k.Resolution:0.###} {k.Accuracy:0.###} {k.FullScale:0.###} "
                    + $"{Contact} {Inside.Springs} {string.Join(' ', Inside.Faults.AsEnumerable())}"
                    + $"{(IsSeasonal ? " Seasonal" : "")}"
            )
        )[..24];
    }

    /// <summary>The log that the visit leaves, performed on the water.</summary>
    /// <param name="procedure">The school.</param>
    /// <param name="profile">The rules.</param>
    public RunLog Perform(Procedure procedure, Profile profile) => Tested(procedure, profile).Log;

    /// <summary>What a ledger has of it: outcome, readings, remarks.</summary>
    public PastTest Ledger(Procedure procedure, Profile profile)
    {
        var test = Tested(procedure, profile);
        var values = test
            .Verdict.Items.Where(i => i.Value?.ToString() is { Length: > 0 and <= LongestReading })
            .ToDictionary(i => i.Item.Id, i => i.Value!.ToString()!);
        if (test.State.Remarks is { Length: > 0 } remarks)
            values[TestFields.Remarks.Id] = remarks;
        return new(test.Verdict.Overall.Id(), values);
    }

    private SimulatedTest Tested(Procedure procedure, Profile profile)
    {
        var kit = SetupWriter.Facts(Team.Kit);
        var chance = new SeededChance(Seed);
        var plan = new RunPlan(
            SetupWriter.Sheet(Assembly, Team.Kit, procedure, profile, IsSeasonal),
            profile,
            kit.Accuracy,
            kit.Resolution,
            kit.FullScale
        );
        var situation = new Situation
        {
            Rig = plan.Rig,
            Springs = Inside.Springs,
            Faults = [.. Inside.Faults],
            Supply = new(chance.Next(52, 74)),
            // A leak of SO2 shows where it has somewhere to go.
            SiteBehind = Inside.Faults.Any(f => f.Part == Core.Rigs.Parts.So2)
                ? new(SitePlumbing.OpenOutlet)
                : new(SitePlumbing.Closed),
            FoundPositions = IsSeasonal
                ?
                [
                    .. ValvePositions
                        .WrittenDownFor(plan.Rig.Body)
                        .Select(v => (v, ValvePositions.WhenDrained(plan.Rig.Body, v))),
                ]
                : [],
            Seed = Seed,
            FullScale = (double)kit.FullScale.In(DifferentialUnit.Psid),
        };
        var visit = new SimulatedVisit
        {
            Start = Start,
            Contact = Contact,
            Papers = Papers,
            Leave = IsSeasonal ? Leaving.InService : null,
            Clearance =
                kit.Unit == DifferentialUnit.Psid
                    ? new(chance.Next(8, 22), LengthUnit.Inch)
                    : new(10 * chance.Next(31, 60), LengthUnit.Millimetre),
            NewId = chance.NewId,
        };
        return new SimulatedTester(plan, situation, visit: visit).Perform();
    }
}
