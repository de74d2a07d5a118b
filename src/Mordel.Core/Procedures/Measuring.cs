using System.Collections.Immutable;
using Mordel.Core.Catalogue;
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
        return Setup.When(
            setup.Asks(TestItem.StaticLine),
            new Step(
                id,
                $"High hose on {setup[at]}, read the line pressure",
                [Put(Parts.HighHose, at), .. Read(setup, at)],
                WhyLinePressure
            )
            {
                Capture = new(TestItem.StaticLine) { MayBePassed = MayBePassed(setup, TestItem.StaticLine) },
                Caution = "Water comes out under pressure: eyes, electrics, floor.",
                Needs = [Condition.IsClosed(at), .. needs],
            },
            new Step(
                $"{id}-off",
                $"Close {setup[at]}, relieve the hose, take it off",
                [Close(at), new Act.RelieveHoses(), TakeOff(Parts.HighHose), new Act.CloseKit()],
                "The next hook-up starts with a free hose."
            )
            {
                Caution = "Relieve the pressure before a coupling is undone.",
            }
        );
    }

    /// <summary>The line pressure where the high hose hangs already, on a shut cock.</summary>
    public static Step LinePressureInPlace(Setup setup, string id, PartId at, params Condition[] needs)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return new(
            id,
            $"Open {setup[at]}, read the line pressure",
            [.. Read(setup, at), Look($"{setup[at]} is closed again with the other cocks.")],
            WhyLinePressure
        )
        {
            Capture = new(TestItem.StaticLine) { MayBePassed = MayBePassed(setup, TestItem.StaticLine) },
            Needs = [Condition.IsClosed(at), .. needs],
        };
    }

    /// <summary>
    /// The line pressure after a test with two hoses: everything is shut and relieved, then the high hose goes to the
    /// cock that feels the supply.
    /// </summary>
    public static ImmutableArray<Step> LinePressureAfterwards(
        Setup setup,
        string id,
        PartId at,
        params Condition[] needs
    )
    {
        ArgumentNullException.ThrowIfNull(setup);
        return
        [
            new(
                $"{id[..id.IndexOf('.', StringComparison.Ordinal)]}.move",
                $"Cocks closed, hoses relieved, high hose to {setup[at]}",
                [new Act.CloseCocks(), new Act.RelieveHoses(), Put(Parts.HighHose, at), new Act.CloseKit()],
                "The line gauge of the kit feels what its high hose feels."
            )
            {
                Caution = "Relieve the pressure before a coupling is undone.",
            },
            LinePressureInPlace(setup, id, at, needs),
        ];
    }

    private const string WhyLinePressure = "The profile wants to know what the assembly stands under.";

    private static ImmutableArray<Act> Read(Setup setup, PartId at) =>
        [
            OpenSlowly(at),
            new Act.Purge(Side.High),
            Look(
                $"Read the static pressure at {setup[at]} with the kit's line gauge, or with one of its own "
                    + $"on the hose."
            ),
        ];

    /// <summary>The clearance under an RP's relief port.</summary>
    public static ImmutableArray<Step> Clearance(Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Setup.When(
            setup.Asks(TestItem.ReliefClearance),
            new Step(
                "ready.clearance",
                "Clearance under the relief port",
                [Look("Measure from the relief port down to the ground or the flood level.")],
                "A relief port under water is a cross-connection by itself."
            )
            {
                Capture = new(TestItem.ReliefClearance) { MayBePassed = MayBePassed(setup, TestItem.ReliefClearance) },
            }
        );
    }

    /// <summary>Adapters, unless the cocks carry fittings already.</summary>
    public static ImmutableArray<Step> Adapters(Setup setup, params PartId[] cocks)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return Setup.When(
            !setup.Body.Features.FittedCocks,
            new Step(
                "ready.adapters",
                $"Adapters in {string.Join(", ", cocks.Select(c => setup[c]))}",
                [Look("Thread tape on each adapter; by hand, firmly, not hard.")],
                "Hoses need a coupling that seals without force."
            )
            {
                Needs = [.. cocks.Select(Condition.IsClosed)],
            }
        );
    }

    private static bool MayBePassed(Setup setup, TestItem item) =>
        setup.Rules.For(item)?.Requirement != Requirement.Required;
}
