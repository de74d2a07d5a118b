using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Schools;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>What scenarios and evidence say of a rig in the same words: bodies, schools, springs, pressures.</summary>
internal static class RigReading
{
    // psi: what no main and no site has; psid: what no spring of a backflow preventer holds.
    private const double LargestPressure = 300,
        LargestSpring = 20;

    /// <summary>The name of a body of a type that has a choice of them.</summary>
    public static string? BodyName(this Node node, AssemblyType type)
    {
        var name = node.OneOf(
            t => Bodies.All.Any(b => b.Name == t && b.Type.Facts().HasChoiceOfBodies) ? t : null,
            "a body; four-cock or three-tap"
        );
        if (!type.Facts().HasChoiceOfBodies)
            node.Wrong($"only an RP has a choice of bodies, not a {type}");
        return name;
    }

    /// <summary>A procedure; an error, and the procedure all the same, where it tests another type.</summary>
    public static Procedure? Procedure(this Node node, AssemblyType? type)
    {
        var procedure = node.OneOf(
            SchoolCatalogue.Named,
            $"a procedure; {string.Join(", ", SchoolCatalogue.All.Select(p => p.Id))}"
        );
        if (procedure is not null && type is { } other && procedure.Type != other)
            node.Wrong($"{procedure.Id} tests a {procedure.Type}, not a {other}");
        return procedure;
    }

    /// <summary>What a spring holds, psid.</summary>
    public static double? Spring(this Node node) => node.InRange(0, LargestSpring, "psid");

    /// <summary>A pressure with its unit, psi; with other members beside it where some are named.</summary>
    public static double? Psi(this Node node, params string[] also)
    {
        if (!node.IsObject())
            return null;
        node.Only(["value", "unit", .. also]);
        var unit = node.Required("unit")?.ValueOf(LinePressure.ParseUnit, "a unit of line pressure; psi or kPa");
        if (node.Required("value") is not { } value || unit is not { } u)
            return null;
        var per = u == LinePressureUnit.Psi ? 1 : (double)DifferentialUnits.KpaPerPsi;
        return value.InRange(0, LargestPressure * per, LinePressure.Symbol(u)) / per;
    }

    /// <summary>A number between two.</summary>
    public static double? InRange(this Node node, double least, double most, string unit)
    {
        if (node.Number() is not { } number)
            return null;
        if ((double)number >= least && (double)number <= most)
            return (double)number;
        node.Wrong($"{number} is outside {decimal.Round((decimal)least)} to {decimal.Round((decimal)most)} {unit}");
        return null;
    }
}
