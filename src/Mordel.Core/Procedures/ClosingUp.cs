using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>
/// What comes after every test (handbook chapter 6): ask, take off, leave each valve as it was found, slowly, look,
/// drain the kit, tag, tell.
/// </summary>
public static class ClosingUp
{
    /// <summary>The stage.</summary>
    /// <param name="setup">What is closed up.</param>
    /// <param name="lettersControls">Whether the school calls the kit's controls A, B and C.</param>
    /// <param name="opensTap">Whether the school opens a tap downstream, that is closed before SO2 opens.</param>
    public static Stage For(Setup setup, bool lettersControls, bool opensTap)
    {
        ArgumentNullException.ThrowIfNull(setup);
        var vacuum = setup.Body.Type.Facts().IsVacuumBreaker;
        return new(
            "finish",
            "Close up",
            StageKind.Finish,
            [
                new(
                    "finish.ask",
                    "Nobody is working downstream",
                    [Look("Ask before restoring: someone may have opened the pipe meanwhile.")],
                    "Water let into an open pipe floods it and empties the main into it."
                )
                {
                    Asks = Question.BeforeRestoring,
                    Caution = "Nobody may be working downstream when the water returns.",
                },
                .. Setup.When(
                    setup.Seasonal,
                    new Step(
                        "finish.leave",
                        "Agreed how the line is left",
                        [Look("On, off and drained, or as it was found: ask, and do what was agreed.")],
                        "A line that is left full freezes; one that is left off leaves somebody without water."
                    )
                    {
                        Asks = Question.Leaving,
                    }
                ),
                .. Setup.When(
                    opensTap,
                    new Step(
                        "finish.tap",
                        "Any tap opened downstream is closed",
                        [new Act.CloseTap("Close whatever tap was opened for the test.")],
                        "It is closed before SO2 opens: it would run on, and its air would come into the line."
                    )
                ),
                new(
                    "finish.off",
                    "Cocks closed, hoses and fittings off, plugs back",
                    [
                        new Act.CloseCocks(),
                        new Act.RelieveHoses(lettersControls),
                        new Act.Uncouple(),
                        Look("Plugs back in the cocks."),
                    ],
                    "Pressure first, then the coupling: hoses whip."
                )
                {
                    Caution = "Relieve the pressure before a coupling is undone.",
                },
                .. Left(Parts.So1, setup, "The main comes first: the body fills before the site is joined to it."),
                .. Left(
                    Parts.So2,
                    setup,
                    "A little, wait, then the rest: slow water brings no hammer and shows a leak early."
                ),
                .. ValvePositions.Drains(setup.Body).SelectMany(cock => Drained(cock, setup)),
                new(
                    "finish.open",
                    vacuum ? "Canopy or hood back; each position written down" : "Each position written down",
                    [
                        .. vacuum ? (Act[])[Look("Canopy or hood back on.")] : [],
                        Look("Look at each valve and write it down as it stands; nothing is assumed."),
                    ],
                    "Others rely on what was open and what was shut."
                )
                {
                    Asks = Question.Departure,
                    Caution = setup.Body.Features.BypassLine
                        ? "Fire line: bypass open again, everything fully open, sealed as found, alarm company told."
                        : null,
                },
                new(
                    "finish.look",
                    "No drips at cocks; wiped dry, looked at again",
                    [Look("Wipe dry and look again.")],
                    "A weep shows only on a dry body."
                ),
                new(
                    "finish.drain",
                    "Kit drained, valves open, nothing left behind",
                    [new Act.DrainKit()],
                    "Water left in a kit freezes and destroys it."
                ),
                new(
                    "finish.tag",
                    "Tag hung",
                    [Look("Date, result, tester, next due.")],
                    "The next person sees at once how it stands."
                ),
                new(
                    "finish.tell",
                    "Occupant told the result",
                    [Look("Tell the occupant; a failed high-hazard assembly is told at once, to the authority too.")],
                    "They live with it until the next test."
                ),
            ]
        );
    }

    // What nobody entered is opened, as it stands in service. At a seasonal visit it goes by what was agreed.
    private static IEnumerable<Step> Left(PartId shutoff, Setup setup, string why)
    {
        var label = shutoff.Value.ToUpperInvariant();
        yield return new($"finish.{shutoff}", $"{label} open, slowly", [OpenSlowly(shutoff)], why)
        {
            OnlyIf = [Stands(shutoff, ValvePosition.Open, setup)],
            Caution = "Open slowly: water hammer and trapped air break pipes.",
        };
        yield return new(
            $"finish.{shutoff}-partly",
            $"{label} as far open as it was found",
            [
                new Act.Do(
                    new Move.Turn(shutoff, Opening.Half, Slowly: true),
                    $"Turn {label} slowly to where it was found."
                ),
            ],
            why
        )
        {
            OnlyIf = [Stands(shutoff, ValvePosition.Partly, setup)],
            Caution = "Open slowly: water hammer and trapped air break pipes.",
        };
        yield return new(
            $"finish.{shutoff}-shut",
            $"{label} shut{As(setup)}",
            [Close(shutoff)],
            setup.Seasonal
                ? "A line that is left off is shut at the main first: nothing comes after that."
                : "A line that was off stays off: somebody shut it for a reason."
        )
        {
            OnlyIf = [Stands(shutoff, ValvePosition.Closed, setup)],
        };
    }

    private static PositionCondition Stands(PartId valve, ValvePosition position, Setup setup) =>
        new([valve], [position]) { WhenLeft = setup.Seasonal };

    private static string As(Setup setup) => setup.Seasonal ? ", as agreed" : ", as found";

    private static IEnumerable<Step> Drained(PartId cock, Setup setup)
    {
        const string Why = "A line that was drained for the season would freeze if it were left full.";
        var named = setup[cock];
        yield return new(
            $"finish.{cock}-open",
            $"{Wording.Capital(named)} open{(setup.Seasonal ? "" : " again")}{As(setup)}",
            [Open(cock)],
            Why
        )
        {
            OnlyIf = [Stands(cock, ValvePosition.Open, setup)],
        };
        yield return new(
            $"finish.{cock}-partly",
            $"{Wording.Capital(named)} as far open as it was found",
            [new Act.Do(new Move.Turn(cock, Opening.Half), $"Open {named} as far as it was found.")],
            Why
        )
        {
            OnlyIf = [Stands(cock, ValvePosition.Partly, setup)],
        };
    }
}
