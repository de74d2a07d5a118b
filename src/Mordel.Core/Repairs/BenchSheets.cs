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

    /// <summary>By its stable name; null when there is none.</summary>
    public static BenchSheet? Named(string? id) => All.FirstOrDefault(f => f.Id == id);
}
