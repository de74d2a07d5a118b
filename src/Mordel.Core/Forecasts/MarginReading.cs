namespace Mordel.Core.Forecasts;

/// <summary>How far a reading stood above its limit on one day.</summary>
/// <param name="Day">The day.</param>
/// <param name="Margin">psid above the limit; below it where negative.</param>
/// <param name="Kit">Which kit read it: its error is the same from one test to the next.</param>
public sealed record MarginReading(DateOnly Day, double Margin, string Kit);

/// <summary>Between what a reading is expected.</summary>
/// <param name="Low">One in ten is lower, psid above the limit.</param>
/// <param name="Middle">As many are lower as higher.</param>
/// <param name="High">One in ten is higher.</param>
public readonly record struct MarginRange(double Low, double Middle, double High);
