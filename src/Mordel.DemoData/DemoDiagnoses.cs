using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;
using Mordel.Data;
using Mordel.Data.Commands.Diagnoses;
using Mordel.Data.Files;
using Mordel.Data.Lists;
using Mordel.Data.Rows;
using Mordel.Data.Setups;

namespace Mordel.DemoData;

/// <summary>
/// How the fouled checks of the town's past were found: what the relief ports did, as the atlas has it of such a case,
/// and what lay in the body; the repair says it.
/// </summary>
public sealed class DemoDiagnoses(Store store, AtlasShelf shelf)
{
    // What lies on a disc after works on a main.
    private static readonly OpenedFinding[] Grit =
    [
        OpenedFinding.Debris,
        OpenedFinding.Debris,
        OpenedFinding.Debris,
        OpenedFinding.DiscCut,
        OpenedFinding.Debris,
        OpenedFinding.SeatNicked,
        OpenedFinding.DiscWorn,
    ];

    /// <summary>By the visit that failed: the search, and what lay in the part when it was opened.</summary>
    public Dictionary<Guid, (DiagnosisRow Search, OpenedFinding Lay)> Found { get; } = [];

    // Beside the town's own lot: it must draw the same whether this stands or not.
    private readonly SeededChance chance = new(20431);

    /// <summary>Adds them for the visits at which a check leaked.</summary>
    public void Add(IEnumerable<PlannedVisit> visits)
    {
        ArgumentNullException.ThrowIfNull(visits);
        foreach (var visit in visits)
        foreach (var fault in visit.Inside.Faults.Where(f => f.Part == Parts.Cv1 || f.Part == Parts.Cv2))
            store.Diagnoses.Add(Of(visit, new(fault.Part, fault.Kind)));
    }

    private DiagnosisRow Of(PlannedVisit visit, PartFault fault)
    {
        var body = SetupWriter.Facts(visit.Assembly).Parts;
        var row = DiagnosisLog.New(visit.Assembly.Id, visit.Team.Account.FullName, visit.Start.AddMinutes(40));
        row.Id = chance.NewId();
        var seen = AtThePort(body, fault).ToList();
        Found[visit.Id] = (row, Grit[chance.Next(Grit.Length)]);
        foreach (var observed in seen)
        {
            var number = row.Observations.Count + 1;
            var at = row.OpenedAt.AddMinutes(3 * number);
            var entry = DiagnosisLog.Entry(row.Id, number, at, new(row.OpenedBy, ObservationWays.House), observed);
            entry.Id = chance.NewId();
            row.Observations.Add(entry);
        }

        return row;
    }

    // One of the atlas's cases with this fault, where the type has a port at all.
    private IEnumerable<Observed> AtThePort(AssemblyBody body, PartFault fault)
    {
        if (ServiceLooks.PortOf(body) is null)
            return [];
        var atlas = shelf.Of(body);
        var rows = atlas.Rows.Where(r => atlas.Sets[r.Set].Faults.SequenceEqual([fault])).ToList();
        if (rows.Count == 0)
            return [];
        var row = rows[chance.Next(rows.Count)];
        return atlas
            .PortLooks.Zip(row.Outlets)
            .Where(l => l.First is ServiceLooks.InService or ServiceLooks.So2Closed or ServiceLooks.Tc4Opened)
            .Select(l => new Observed.PortSeen(l.First, l.Second) { Place = "" });
    }
}
