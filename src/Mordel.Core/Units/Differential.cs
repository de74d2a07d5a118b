using System.Globalization;

namespace Mordel.Core.Units;

/// <summary>
/// A difference of pressure between two ports: what a differential gauge shows and what a limit demands.
/// It is exact: a decimal amount in the unit it was written in, with the digits it was written with.
/// It is a type of its own so that it cannot be added to a <see cref="LinePressure"/> by accident.
/// </summary>
/// <remarks>
/// Two differentials are equal when unit and amount are equal (1.0 and 1.00 psid are; 1.0 psid and 6.894757 kPa are
/// not). To compare by size across units use <see cref="IsAtLeast"/>, <see cref="IsAbove"/> or <see cref="MinusIn"/>.
/// </remarks>
public readonly record struct Differential
{
    /// <summary>
    /// The largest amount, either side of zero, that is taken for a differential at all (in its own unit).
    /// </summary>
    public const decimal Largest = 10_000m;

    // Sums and conversions of what is taken may go beyond it, but not without bound.
    private const decimal LargestComputed = 20m * Largest;

    private readonly decimal amount;

    /// <summary>A differential as written.</summary>
    /// <param name="amount">The amount; may be negative (water comes back).</param>
    /// <param name="unit">The unit of the amount.</param>
    /// <exception cref="ArgumentOutOfRangeException">The amount is more than twenty times
    /// <see cref="Largest"/>.</exception>
    public Differential(decimal amount, DifferentialUnit unit) => (Amount, Unit) = (amount, unit);

    /// <summary>The amount as written, with its digits; negative when water comes back.</summary>
    public decimal Amount
    {
        get => amount;
        init
        {
            ArgumentOutOfRangeException.ThrowIfGreaterThan(Math.Abs(value), LargestComputed, nameof(value));
            amount = value;
        }
    }

    /// <summary>The unit of the amount.</summary>
    public DifferentialUnit Unit { get; init; }

    /// <summary>An amount in psid.</summary>
    public static Differential Psid(decimal amount) => new(amount, DifferentialUnit.Psid);

    /// <summary>An amount in kPa.</summary>
    public static Differential Kpa(decimal amount) => new(amount, DifferentialUnit.Kpa);

    /// <summary>The amount in another unit, unrounded (28 digits when divided).</summary>
    public decimal In(DifferentialUnit unit) =>
        (Unit, unit) switch
        {
            (DifferentialUnit.Psid, DifferentialUnit.Kpa) => Amount * DifferentialUnits.KpaPerPsi,
            (DifferentialUnit.Kpa, DifferentialUnit.Psid) => Amount / DifferentialUnits.KpaPerPsi,
            _ => Amount,
        };

    /// <summary>
    /// Whether this is as large as the limit or larger; exact, since both sides are brought to kPa by multiplication.
    /// </summary>
    public bool IsAtLeast(Differential limit) => Compare(limit) >= 0;

    /// <summary>Whether this is larger than the other; equal is not.</summary>
    public bool IsAbove(Differential other) => Compare(other) > 0;

    /// <summary>This less the other, in the unit asked for.</summary>
    public Differential MinusIn(DifferentialUnit unit, Differential other) => new(In(unit) - other.In(unit), unit);

    /// <summary>This plus the other, in this one's unit.</summary>
    public Differential Plus(Differential other) => new(Amount + other.In(Unit), Unit);

    private int Compare(Differential other) =>
        Unit == other.Unit
            ? Amount.CompareTo(other.Amount)
            : In(DifferentialUnit.Kpa).CompareTo(other.In(DifferentialUnit.Kpa));

    /// <summary>The amount with its digits and its unit, such as <c>1.0 psid</c>.</summary>
    public override string ToString() => $"{Amount.ToString(CultureInfo.InvariantCulture)} {Unit.Symbol()}";
}
