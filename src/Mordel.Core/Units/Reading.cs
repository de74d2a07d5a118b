namespace Mordel.Core.Units;

/// <summary>
/// A value as the tester took it from the gauge: digits, unit, the gauge's resolution and, where known, how fast the
/// needle moved. A reading is never improved: conversions are made from it, not in it.
/// </summary>
/// <param name="Value">The value as written.</param>
/// <param name="Resolution">The smallest step that the gauge shows; null where it is not known.</param>
/// <param name="Speed">How fast the needle moved when the value was caught, per second; null where it is not
/// known.</param>
public readonly record struct Reading(Differential Value, Differential? Resolution = null, Differential? Speed = null)
{
    /// <summary>The value with its digits and its unit.</summary>
    public override string ToString() => Value.ToString();
}
