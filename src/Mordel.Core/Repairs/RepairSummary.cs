using System.Collections.Immutable;

namespace Mordel.Core.Repairs;

/// <summary>Says what was found and done in a repair, a sentence each: for reports, passports and lists.</summary>
public static class RepairSummary
{
    /// <summary>What was found, part by part.</summary>
    public static ImmutableArray<string> Found(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return
        [
            .. from opening in state.Openings
            from part in opening.Parts
            where part.Found is { IsEmpty: false }
            select $"{Named(state, part)}: {string.Join(", ", part.Found!.Value.Select(f => f.Words))}",
            .. from opening in state.Openings
            let looked = opening.Parts.Where(p => p.Found is not null).ToList()
            where looked.Count > 0 && looked.TrueForAll(p => p.Found is { IsEmpty: true })
            select $"{Title(state, opening)}: all in order",
        ];
    }

    /// <summary>What was done, part by part.</summary>
    public static ImmutableArray<string> Done(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return
        [
            .. from opening in state.Openings
            from part in opening.Parts
            where !part.Acts.IsEmpty
            select $"{Named(state, part)}: {string.Join(", ", part.Acts.Select(a => a.Words()))}"
                + (part.FollowUp is { } next ? $", a stopgap until {next.Due:d MMM yyyy}" : ""),
        ];
    }

    /// <summary>What was used, a part each.</summary>
    public static ImmutableArray<string> Used(RepairState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        return [.. state.Used.Select(u => u.Count == 1 ? u.Name : $"{u.Count} × {u.Name}")];
    }

    /// <summary>What holds for a while only, in a line.</summary>
    public static string Stopgap(FollowUp next)
    {
        ArgumentNullException.ThrowIfNull(next);
        return $"{next.What}, to be put right by {next.Due:d MMM yyyy}"
            + (next.Order.Length > 0 ? $"; ordered: {next.Order}" : "")
            + (next.Told.Length > 0 ? $"; told: {next.Told}" : "");
    }

    /// <summary>The whole in a line; null while nothing was done.</summary>
    public static string? Line(RepairState state) =>
        Done(state) is { Length: > 0 } done ? string.Join("; ", done) : null;

    /// <summary>What an opening is called.</summary>
    public static string Title(RepairState state, RepairOpening opening)
    {
        ArgumentNullException.ThrowIfNull(state);
        ArgumentNullException.ThrowIfNull(opening);
        return opening.Part is { } part ? state.Plan.LabelOf(part)
            : opening.Sheet is { } sheet
                ? string.Join(" and ", sheet.Family.OutOf(state.Plan.Body).Select(state.Plan.LabelOf))
            : "Outside";
    }

    private static string Named(RepairState state, OpenedPart part) => state.Plan.NameOf(part.Part, part.Of, ", ");
}
