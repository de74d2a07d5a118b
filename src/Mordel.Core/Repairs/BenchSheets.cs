using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>The bench sheets there are, one for each construction family.</summary>
public static class BenchSheets
{
    /// <summary>All of them, in the catalogue's order.</summary>
    public static IReadOnlyList<BenchSheet> All { get; } =
    [
        ScrewCapPoppetSheet.Sheet,
        CagedCartridgeSheet.Sheet,
        InLineStackSheet.Sheet,
        CamArmSleeveSheet.Sheet,
        TowerCheckSheet.Sheet,
        ReliefBoltedCartridgeSheet.Sheet,
        ReliefPistonClipSheet.Sheet,
        VacuumBreakerSheet.Sheet,
    ];

    /// <summary>By its stable name, the plain ones too; null when there is none.</summary>
    public static BenchSheet? Named(string? id) => All.Concat(PlainSheets.All).FirstOrDefault(f => f.Id == id);

    /// <summary>
    /// The sheets that a body is opened by: those of its make and model, and a plain one for what they do not open.
    /// </summary>
    /// <param name="body">The body.</param>
    /// <param name="known">The sheets of its make and model; none where nobody has said.</param>
    public static IReadOnlyList<BenchSheet> For(AssemblyBody body, IEnumerable<BenchSheet> known)
    {
        ArgumentNullException.ThrowIfNull(body);
        List<BenchSheet> sheets = [.. known];
        foreach (var plain in PlainSheets.All.Where(p => p.Family.Types.Contains(body.Type)))
            if (plain.Family.OutOf(body).Any(part => !sheets.Exists(s => s.Family.OutOf(body).Contains(part))))
                sheets.Add(plain);
        return sheets;
    }
}
