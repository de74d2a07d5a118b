namespace Mordel.Data;

/// <summary>What the whole installation is.</summary>
/// <param name="Simulated">Whether its data are made up: reports say so.</param>
public sealed record Installation(bool Simulated);
