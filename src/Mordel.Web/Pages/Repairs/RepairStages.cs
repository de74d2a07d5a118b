using System.Collections.Immutable;
using Mordel.Core.Repairs;

namespace Mordel.Web.Pages.Repairs;

/// <summary>The stages of a repair as the page names them.</summary>
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
