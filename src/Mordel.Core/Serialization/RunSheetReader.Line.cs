using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

// How the line must have been found, or is to be left.
public static partial class RunSheetReader
{
    private static PositionCondition? PositionCondition(Node node, Rig rig)
    {
        if (!node.IsObject())
            return null;
        var whenLeft = node.Optional("left") is not null;
        var parts = (node.Required(whenLeft ? "left" : "found")?.Elements() ?? [])
            .Select(n => n.ValueOf<PartId>(t => rig.Has(new(t)) ? new(t) : null, "a part of this rig"))
            .OfType<PartId>()
            .ToList();
        var standings = (node.Required("standing")?.Elements() ?? [])
            .Select(n => n.ValueOf<ValvePosition>(EntryFormat.PositionNamed, "a position; open, closed or partly"))
            .OfType<ValvePosition>()
            .ToList();
        return parts.Count == 0 || standings.Count == 0
            ? null
            : new([.. parts], [.. standings]) { WhenLeft = whenLeft };
    }
}
