using CsCheck;
using Mordel.Core.Units;

namespace Mordel.Core.Tests;

public class UnitsTests
{
    [Theory]
    [InlineData("1.0", "1.0 psid")]
    [InlineData("1.00", "1.00 psid")]
    [InlineData("10", "10 psid")]
    public void A_reading_keeps_the_digits_it_was_written_with(string written, string shown) =>
        Assert.Equal(shown, new Reading(Differential.Psid(decimal.Parse(written))).ToString());

    [Fact]
    public void One_psi_is_6_894757_kPa_exactly_in_both_directions()
    {
        Assert.Equal(6.894757m, Differential.Psid(1m).In(DifferentialUnit.Kpa));
        Assert.Equal(1m, Differential.Kpa(6.894757m).In(DifferentialUnit.Psid));
    }

    [Fact]
    public void Comparison_across_units_is_exact_at_the_edge()
    {
        Assert.True(Differential.Kpa(6.894757m).IsAtLeast(Differential.Psid(1m)));
        Assert.False(Differential.Kpa(6.894756m).IsAtLeast(Differential.Psid(1m)));
        Assert.False(Differential.Kpa(6.894757m).IsAbove(Differential.Psid(1m)));
    }

    [Fact]
    public void Comparison_agrees_with_itself_whichever_unit_it_is_made_in() =>
        Gen.Select(Gen.Int[-20000, 20000], Gen.Int[-20000, 20000], Gen.Bool, Gen.Bool)
            .Sample(
                (a, b, au, bu) =>
                {
                    var x = new Differential(a / 1000m, au ? DifferentialUnit.Psid : DifferentialUnit.Kpa);
                    var y = new Differential(b / 1000m, bu ? DifferentialUnit.Psid : DifferentialUnit.Kpa);
                    return x.IsAtLeast(y) == !y.IsAbove(x) && (x.IsAtLeast(y) || y.IsAtLeast(x));
                },
                iter: 5_000
            );

    [Fact]
    public void Three_inches_of_height_are_0_1083_psi() =>
        Assert.Equal(Differential.Psid(0.1083m), new Length(3m, LengthUnit.Inch).HeadOfWater());

    [Fact]
    public void An_inch_is_25_4_millimetres() =>
        Assert.Equal(new Length(25.4m, LengthUnit.Millimetre).Millimetres, new Length(1m, LengthUnit.Inch).Millimetres);

    [Theory]
    [InlineData("psi")]
    [InlineData("PSID")]
    [InlineData("kpa")]
    [InlineData("bar")]
    [InlineData(null)]
    public void What_is_no_unit_of_differential_pressure_is_not_taken_for_one(string? symbol) =>
        Assert.Null(DifferentialUnits.Parse(symbol));
}
