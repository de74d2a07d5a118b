namespace Mordel.Core.Views;

/// <summary>How far a run is, for who has made its view already.</summary>
/// <param name="Entries">How many entries its log has.</param>
/// <param name="Sealed">Whether it is sealed.</param>
public sealed record HowFarView(int Entries, bool Sealed);
