using System.Collections.Immutable;

namespace Mordel.Core.Repairs;

/// <summary>The stages of a repair as screens name them.</summary>
public static class RepairStages
{
    /// <summary>Each with the states it stands for.</summary>
    public static ImmutableArray<(string Name, RepairStage From, RepairStage To)> All { get; } =
    [
        ("Prepare", RepairStage.Prepare, RepairStage.Prepare),
        ("Open", RepairStage.Choose, RepairStage.Open),
        ("Inspect", RepairStage.Inspect, RepairStage.Inspect),
        ("Put right", RepairStage.Do, RepairStage.Do),
        ("Close", RepairStage.Assemble, RepairStage.Pressurise),
        ("Test", RepairStage.Retest, RepairStage.Retest),
    ];
}
