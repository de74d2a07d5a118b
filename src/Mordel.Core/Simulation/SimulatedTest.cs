using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Runs;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Simulation;

/// <summary>A moment of a simulated test, for a trace.</summary>
/// <param name="Step">The step at hand.</param>
/// <param name="Water">The water as it is now.</param>
public readonly record struct TraceMoment(string Step, WaterModel Water);

/// <summary>A sight that was met, and when.</summary>
/// <param name="Step">The step's key.</param>
/// <param name="Sight">What was seen.</param>
/// <param name="At">Seconds into the test.</param>
/// <param name="Needle">Where the needle stood, psid.</param>
public sealed record MetSight(string Step, Sight Sight, double At, double Needle);

/// <summary>What came of a simulated test.</summary>
/// <param name="Plan">What the run was made with.</param>
/// <param name="State">The run, as its log replays.</param>
/// <param name="Verdict">The verdict.</param>
/// <param name="Exact">The needle as it stood when a number was taken, psid, not rounded.</param>
/// <param name="Findings">What was found, in the order found.</param>
/// <param name="Met">Every sight that was met.</param>
/// <param name="Seconds">Simulated time.</param>
/// <param name="Log">The log that the test left.</param>
/// <param name="Fingerprint">The water at the end, to the last bit.</param>
/// <param name="Finished">Whether it came to its end; false when the steps went round in circles.</param>
public sealed record SimulatedTest(
    RunPlan Plan,
    RunState State,
    Verdict Verdict,
    IReadOnlyDictionary<TestItem, double> Exact,
    IReadOnlyList<FindingKind> Findings,
    IReadOnlyList<MetSight> Met,
    double Seconds,
    RunLog Log,
    string Fingerprint,
    bool Finished
);

/// <summary>When and with whom a simulated test is made, as its log says it.</summary>
public sealed record SimulatedVisit
{
    /// <summary>When it begins; the epoch where nobody asks.</summary>
    public DateTimeOffset Start { get; init; } = DateTimeOffset.UnixEpoch;

    /// <summary>
    /// Whom the tester asks for permission and before restoring; null where papers are left out and nothing of them is
    /// entered.
    /// </summary>
    public string? Contact { get; init; }

    /// <summary>How the line is to be left at a seasonal visit; null where nobody says.</summary>
    public Leaving? Leave { get; init; }

    /// <summary>Seconds that each step before and after the test takes beside what the water takes.</summary>
    public double Papers { get; init; }

    /// <summary>The clearance under an RP's relief port.</summary>
    public Length Clearance { get; init; } = new(12, LengthUnit.Inch);

    /// <summary>Makes the ids of entries; null for ids that count.</summary>
    public Func<Guid>? NewId { get; init; }
}
