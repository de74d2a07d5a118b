namespace Mordel.Data;

/// <summary>What the whole installation is.</summary>
/// <param name="Simulated">Whether its data are made up: reports say so.</param>
/// <param name="TurnedDiscHolds">
/// Whether a seal disc that was turned over is a repair here; else it is a stopgap, with a follow-up.
/// </param>
public sealed record Installation(bool Simulated, bool TurnedDiscHolds = false);
