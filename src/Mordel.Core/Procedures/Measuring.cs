using System.Collections.Immutable;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>Steps that a profile switches on: line pressure, relief clearance, adapters.</summary>
public static class Measuring
{
    /// <summary>The static line pressure, at a cock that feels the supply.</summary>
    public static ImmutableArray<Step> LinePressure(Setup setup, string id, PartId at, params Condition[] needs)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Setup.When(setup.Asks(TestItem.StaticLine), new Step(id, $"Line pressure at {setup[at]}",
            [Look($"Read the static pressure at {setup[at]} with the line gauge.")], "The profile wants to know what the assembly stands under.")
        { Capture = new(TestItem.StaticLine) { MayBePassed = MayBePassed(setup, TestItem.StaticLine) }, Needs = [.. needs] });
    }

    /// <summary>The clearance under an RP's relief port.</summary>
    public static ImmutableArray<Step> Clearance(Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Setup.When(setup.Asks(TestItem.ReliefClearance), new Step("ready.clearance", "Clearance under the relief port",
            [Look("Measure from the relief port down to the ground or the flood level.")], "A relief port under water is a cross-connection by itself.")
        { Capture = new(TestItem.ReliefClearance) { MayBePassed = MayBePassed(setup, TestItem.ReliefClearance) } });
    }

    /// <summary>Adapters, unless the cocks carry fittings already.</summary>
    public static ImmutableArray<Step> Adapters(Setup setup, params PartId[] cocks)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Setup.When(!setup.Body.Features.FittedCocks, new Step("ready.adapters", $"Adapters in {string.Join(", ", cocks.Select(c => setup[c]))}",
            [Look("Thread tape on each adapter; by hand, firmly, not hard.")], "Hoses need a coupling that seals without force.")
        { Needs = [.. cocks.Select(Condition.IsClosed)] });
    }

    private static bool MayBePassed(Setup setup, TestItem item) => setup.Rules.For(item)?.Requirement != Requirement.Required;
}
