using System.Collections.Immutable;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;

namespace Mordel.Core.Diagnosis;

/// <summary>What a repair found, as evidence: each part of the assembly that was opened, with what lay there.</summary>
public static class RepairEvidence
{
    /// <summary>
    /// The observations of a repair. A part whose pieces were all looked at and found in order is clean; what was done
    /// outside the body tells nothing of what lies in it.
    /// </summary>
    public static ImmutableArray<Observed.PartOpened> Of(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        var openable = Evidence.Openable(state.Plan.Body);
        return
        [
            .. from opening in state.Openings
            where opening.SheetId != OutsideSheet.Id
            from pieces in opening.Parts.Where(p => p.Of is { } of && openable.Contains(of)).GroupBy(p => p.Of!.Value)
            from lay in Lay([.. pieces])
            select new Observed.PartOpened(pieces.Key, lay) { Place = "" },
        ];
    }

    private static List<OpenedFinding> Lay(IReadOnlyList<OpenedPart> pieces)
    {
        var found = (
            from piece in pieces
            where piece.Found is { IsEmpty: false }
            from finding in piece.Found!.Value
            let lay = Lay(piece.Part.Form, finding.Id)
            where lay is not null
            select lay.Value
        )
            .Distinct()
            .ToList();
        return found.Count > 0 ? found
            : pieces.All(p => p.Found is { IsEmpty: true }) ? [OpenedFinding.Clean]
            : [];
    }

    /// <summary>
    /// What a finding at a piece says of its part; null where it says nothing that the water would show.
    /// </summary>
    public static OpenedFinding? Lay(PartForm form, string finding) =>
        (form, finding) switch
        {
            (PartForm.Hose or PartForm.Piston, "blocked" or "grit") => OpenedFinding.SensingBlocked,
            (PartForm.Diaphragm, "torn") => OpenedFinding.DiaphragmTorn,
            (PartForm.Cover or PartForm.Cap or PartForm.Bonnet or PartForm.Canopy, "grease-packed" or "corroded") =>
                OpenedFinding.StemBound,
            (PartForm.Cover or PartForm.Cap or PartForm.Bonnet or PartForm.Canopy or PartForm.Hose, _) => null,
            (PartForm.ORing or PartForm.Gasket or PartForm.Washer, _) => null,
            (_, "grit") => OpenedFinding.Debris,
            (_, "cut") => OpenedFinding.DiscCut,
            (_, "dented" or "swollen") => OpenedFinding.DiscWorn,
            (_, "nicked") => OpenedFinding.SeatNicked,
            (PartForm.Spring or PartForm.Module, "broken") => OpenedFinding.SpringBroken,
            (PartForm.Spring or PartForm.Module, "weak" or "corroded" or "wrong-place") => OpenedFinding.SpringWeak,
            (_, "binding" or "grease-packed" or "corroded") => OpenedFinding.StemBound,
            _ => null,
        };
}
