using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;

namespace Mordel.Core.Schools.DoubleCheck;

/// <summary>
/// Double check, sight-tube school: each check in the direction of flow, with one hose. The same moves twice, one cock
/// further on the second time. Source: handbook chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static partial class SightTubeSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "dc-sight-tube",
            "Double check, sight tube",
            "Each check holds the water before it against an open tube behind it. The gauge, level with that tube, "
                + "reads the check's spring. One hose, two tests.",
            AssemblyTypes.DC,
            [KitKind.FiveValve, KitKind.ThreeValve, KitKind.Digital, KitKind.TwoValve],
            ["sight tube", "bleed-off tee"],
            setup =>
                [
                    new(
                        "ready",
                        "Flush and get ready",
                        StageKind.Prepare,
                        [
                            new(
                                "ready.flush",
                                "Flush all four cocks",
                                [
                                    .. setup.Body.AllCocks.Select(c => new Act.Blip(
                                        c,
                                        $"Open {setup[c]}, let it run, close it."
                                    )),
                                ],
                                "Blows out grit and proves each cock. TC1 stays live and is not used after this."
                            )
                            {
                                Caution = "Water comes out under pressure: eyes, electrics, floor.",
                                Needs = [IsOpen(Parts.So1)],
                            },
                            .. Measuring.LinePressure(setup, "ready.line", Parts.Tc1, IsOpen(Parts.So1)),
                            .. Measuring.Adapters(setup, Parts.Tc2, Parts.Tc3, Parts.Tc4),
                            new(
                                "ready.kit",
                                "Close the kit",
                                [
                                    new Act.CloseKit(),
                                    new Act.Look(
                                        "Leave the low hose open to air, its end at the gauge's centre if it is full."
                                    ),
                                ],
                                "One hose does the work; the low port feels the air at the gauge."
                            ),
                        ]
                    ),
                    Check(1, Parts.Tc2, Parts.Tc3, TestItem.Check1),
                    Check(2, Parts.Tc3, Parts.Tc4, TestItem.Check2),
                ]
        )
        {
            StillWaterShowsSo1 = true,
            Version = 3,
        };

    private static Stage Check(int number, PartId up, PartId down, TestItem item)
    {
        var (cv, above, below) = ($"CV{number}", up.Value.ToUpperInvariant(), down.Value.ToUpperInvariant());
        var first = number == 1;
        string Id(string step) => $"cv{number}.{step}";
        var seeping = new Compensation(
            $"cv{number}",
            cv,
            item,
            "the tube",
            "bleed-off",
            new Act.Do(new Move.Turn(Parts.BleedOff, Opening.QuarterTurn, Slowly: true)),
            new Act.Do(new Move.Turn(Parts.BleedOff, Opening.Closed)),
            $"cv{number}.fill"
        )
        {
            Refill = [Refill(number)],
            Unexplained = first ? LetOff : null,
        };
        Condition[] hooked =
        [
            IsOn(Parts.SightTube, down),
            IsOn(Parts.BleedOff, up),
            IsOn(Parts.HighHose, Parts.BleedOff),
        ];
        return new(
            item.Id,
            $"{cv} holds",
            StageKind.Test,
            [
                new(
                    Id("hook-up"),
                    $"Tube on {below}, tee and high hose on {above}",
                    first ? FirstHookUp(up, down) : MoveOn(up, down),
                    $"{above} feels the water before {cv}, {below} the water behind it."
                )
                {
                    Needs = [IsClosed(up), IsClosed(down)],
                },
                new(
                    Id("fill"),
                    $"Purge the hose, fill the tube",
                    [
                        new Act.Do(new Move.Turn(up, Opening.Full)),
                        new Act.Purge(Side.High),
                        new Act.Blip(down, $"Open {below} to fill the tube above the top of the body, then close it."),
                    ],
                    "Air squeezes: the needle would turn slow and read low."
                )
                {
                    Needs = [.. hooked, IsOpen(Parts.So1), IsClosed(Parts.BleedOff)],
                    Sights = [NoWater.From(down, below, Id("hook-up"))],
                },
                new(
                    Id("shut-so2"),
                    first ? "Close SO2, gauge level with the water" : "SO2 still closed, gauge level with the water",
                    [
                        first
                            ? new Act.Do(new Move.Turn(Parts.So2, Opening.Closed))
                            : new Act.Look("SO2 stays closed."),
                        new Act.Do(new Move.Hold(new(Parts.SightTube))),
                    ],
                    "With one hose every inch of height counts: three inches are 0.11 psid."
                )
                {
                    Caution = first
                        ? "Water to the site is off from here. Close slowly: sudden closing hammers pipes."
                        : null,
                    Needs = [.. hooked, IsPurged(Side.High)],
                },
                new(
                    Id("shut-so1"),
                    "Close SO1",
                    [new Act.Do(new Move.Turn(Parts.So1, Opening.Closed))],
                    "Shut in on both sides, the water before the check can only leave through it."
                )
                {
                    Watch = "The needle must still be pegged.",
                    Needs = [IsClosed(Parts.So2), IsHeldAt(Parts.SightTube), IsPurged(Side.High)],
                    Sights = [LeftThePeg, ZeroFromTheStart(number, above, up, item)],
                },
                new(
                    Id("read"),
                    $"Open {below} slowly, read {cv}",
                    [new Act.Do(new Move.Turn(down, Opening.Full, Slowly: true))],
                    $"When the tube stands still, only {cv}'s spring holds the water above it: the needle shows "
                        + $"that spring."
                )
                {
                    Watch =
                        "Water runs from the tube and stops; the needle falls from its peg and settles. Take the "
                        + "number when it has stopped or only drips, and the needle is still.",
                    Capture = new(item) { OneHose = true },
                    Holds = true,
                    Offers = first ? [] : [ShowOutlet.Offer("The body")],
                    Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2), IsHeldAt(Parts.SightTube), .. hooked],
                    Sights =
                    [
                        seeping.NeverStops,
                        seeping.RunsToZero,
                        LevelSinks(seeping, number, down),
                        ZeroFromTheStart(number, above, up, item),
                        WillNotFall(number, below, down, item),
                    ],
                },
                new(
                    Id("leave"),
                    "Close both cocks, open SO1",
                    [
                        new Act.Do(new Move.Turn(up, Opening.Closed)),
                        new Act.Do(new Move.Turn(down, Opening.Closed)),
                        new Act.Do(
                            new Move.Turn(Parts.So1, Opening.Full, Slowly: true),
                            first ? "Open SO1 slowly, now or once the hook-up has moved; SO2 stays shut." : null
                        ),
                    ],
                    first
                        ? "SO2 stays closed: the second test needs it so."
                        : "The body is under pressure again before anything is taken off."
                )
                {
                    Needs = [IsClosed(Parts.So2)],
                },
            ]
        );
    }

    private static ImmutableArray<Act> FirstHookUp(PartId up, PartId down) =>
        [
            new Act.Do(
                new Move.Connect(Parts.SightTube, down),
                $"Sight tube on {down.Value.ToUpperInvariant()} (not needed where it is already the body's "
                    + $"highest point)."
            ),
            new Act.Do(
                new Move.Connect(Parts.BleedOff, up),
                $"Bleed-off tee on {up.Value.ToUpperInvariant()}, closed."
            ),
            new Act.Do(new Move.Connect(Parts.HighHose, Parts.BleedOff), "High hose (H) on the tee."),
        ];

    private static ImmutableArray<Act> MoveOn(PartId up, PartId down) =>
        [
            new Act.Do(
                new Move.Connect(Parts.SightTube, down),
                $"Move the tube from {up.Value.ToUpperInvariant()} to {down.Value.ToUpperInvariant()}, a thumb on "
                    + $"it to keep it full."
            ),
            new Act.Do(
                new Move.Connect(Parts.BleedOff, up),
                $"Move the tee with the high hose (H) from TC2 to {up.Value.ToUpperInvariant()}."
            ),
        ];

    // A remedy, no part of the sequence: a sound body's needle would drop to about both springs together.
    private static Step LetOff =>
        new(
            "cv1.let-off",
            "Open TC4 for a moment, then watch the tube",
            [new Act.Blip(Parts.Tc4, "Open TC4 for a moment, then close it.")],
            "What is trapped behind a leaking CV2 runs out at TC4; what SO2 lets back comes again."
        )
        {
            MustAnswer = true,
            Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2)],
            Sights =
            [
                new(
                    "comes-again",
                    "The tube runs on",
                    "SO2 leaks, with pressure behind it, and CV2 lets that water through."
                )
                {
                    Shows = ObservationKind.WaterComesAgain,
                    Findings = [FindingKind.So2LeaksBackPressure],
                    Remark = "SO2 leaks, back pressure.",
                    Gives = [new(TestItem.Shutoff2, false)],
                },
                new(
                    "trapped",
                    "The tube stops",
                    "Water was trapped behind CV2, which leaks: its own test will show it. Nothing is said of SO2."
                )
                {
                    Shows = ObservationKind.WaterStopped,
                },
            ],
        };
}
