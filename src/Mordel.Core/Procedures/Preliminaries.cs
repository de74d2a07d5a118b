using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>
/// What comes before every test (handbook chapters 1 and 2): notify, identify, inspect, observe, kit.
/// </summary>
public static class Preliminaries
{
    /// <summary>The stage, with what this type is inspected for.</summary>
    public static Stage For(Setup setup)
    {
        ArgumentNullException.ThrowIfNull(setup);
        return new(
            "before",
            "Before the test",
            StageKind.Before,
            [
                new(
                    "before.notify",
                    "Occupant told, permission given",
                    [new Act.Look("Tell the occupant that water will be off, and for how long. Get permission.")],
                    "Nobody should lose water unawares; a process may not lose it at all."
                )
                {
                    Asks = Question.Permission,
                    Caution =
                        "Fire lines only under their impairment procedure, alarm company first. Processes, "
                        + "dialysis, boilers: only in the agreed window.",
                },
                new(
                    "before.identify",
                    "It is the assembly on the order",
                    [new Act.Look("Compare type, make, model, size and serial number; find the flow arrow.")],
                    "A different serial number is a replacement: a new assembly, linked to the old one."
                )
                {
                    Asks = Question.Identity,
                },
                new(
                    "before.inspect",
                    "Rightly placed, complete, unmodified",
                    [
                        new Act.Look(
                            "Type against hazard, all cocks and handles there, nothing bypassed or capped, room to "
                                + "work, not submerged."
                        ),
                        new Act.Look(setup.Body.Type.Facts().Placing),
                    ],
                    "A sound valve in the wrong place protects nobody."
                )
                {
                    Caution = "Pits and vaults are confined spaces: permit, gas test, attendant.",
                },
                .. Setup.When(
                    setup.Body.Features.BypassLine,
                    new Step(
                        "before.bypass",
                        "Bypass line noted, its assembly tested as one of its own",
                        [
                            new Act.Look(
                                "The bypass with its meter carries an assembly of its own: note it. Shut the "
                                    + "bypass for this test, open it afterwards."
                            ),
                        ],
                        "Water that comes around the assembly would feed what is being tested."
                    )
                    {
                        Caution = "Fire watch or alarm company told before anything is shut.",
                    }
                ),
                new(
                    "before.observe",
                    "Both shutoffs as found, no leaks",
                    [
                        new Act.Look(
                            "Look for leaks, discharge, standing water. Note how each shutoff stands, and each "
                                + "cock that is not shut."
                        ),
                    ],
                    "The shutoffs are left as they were found."
                )
                {
                    Asks = Question.Arrival,
                },
                .. Setup.When(
                    setup.Seasonal,
                    new Step(
                        "before.season",
                        "Line walked: plugs in, drains and outlets shut, no frost damage",
                        [
                            new Act.Look("Walk the line: every winter plug in, every drain and outlet shut."),
                            new Act.Look("Look at body, shutoffs and pipes for cracks that frost has left."),
                        ],
                        "A drained line runs out wherever something was left open; what froze shows once it is full."
                    )
                    {
                        Caution = "A cracked body bursts when it is charged: it is replaced, not tested.",
                    }
                ),
                new(
                    "before.kit",
                    "Kit reads zero, is in calibration, fits",
                    [
                        .. Digital(setup.Rig.Kit),
                        new Act.Look(
                            "Both ports open to air: the needle must read zero. Adapters and fittings at hand."
                        ),
                    ],
                    "A test with a kit out of calibration does not count."
                )
                {
                    Asks = Question.KitZero,
                },
            ]
        );
    }

    private static ImmutableArray<Act> Digital(Kit kit) =>
        kit.Kind != KitKind.Digital
            ? []
            :
            [
                new Act.Look(
                    "Let the kit drain, clear its stored values, zero it. Its level mark may not be its centre: "
                        + "find the one that counts."
                ),
            ];
}
