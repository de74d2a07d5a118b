using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Schools.DoubleCheck;

/// <summary>
/// Double check, draw-down school: each check in reverse. The space behind it is drawn down to 2 psid, the space before
/// it opened to air, and it must hold. Source: handbook chapter 2 (sequence) and chapter 4 (sights).
/// </summary>
public static partial class DrawDownSchool
{
    /// <summary>The procedure.</summary>
    public static Procedure Procedure { get; } =
        new(
            "dc-draw-down",
            "Double check, draw-down",
            "Each check in reverse: the water behind it is drawn down to 2 psid, the water before it let out, and "
                + "the check must hold it back. It shows holding, not the spring.",
            AssemblyTypes.DC,
            [KitKind.ThreeValve, KitKind.FiveValve, KitKind.Digital],
            [],
            setup =>
                [
                    new(
                        "ready",
                        "Flush and get ready",
                        StageKind.Prepare,
                        [
                            new(
                                "ready.flush",
                                "Blow off TC2, TC3, TC4",
                                [Flush(Parts.Tc2), Flush(Parts.Tc3), Flush(Parts.Tc4)],
                                "Blows out grit and proves each cock."
                            )
                            {
                                Caution = "Water comes out under pressure: eyes, electrics, floor.",
                                Needs = [IsOpen(Parts.So1)],
                            },
                            .. Measuring.LinePressure(setup, "ready.line", Parts.Tc1, IsOpen(Parts.So1)),
                            .. Measuring.Adapters(setup, Parts.Tc3, Parts.Tc4),
                            new(
                                "ready.kit",
                                "Close the kit, then SO2",
                                [new Act.CloseKit(), Close(Parts.So2)],
                                "From here nothing leaves toward the site."
                            )
                            {
                                Caution =
                                    "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                            },
                        ]
                    ),
                    Check(setup, 1, Parts.Tc2, Parts.Tc3, TestItem.Check1),
                    Check(setup, 2, Parts.Tc3, Parts.Tc4, TestItem.Check2),
                ]
        )
        {
            StillWaterShowsSo1 = true,
            Version = 3,
        };

    private static Stage Check(Setup setup, int number, PartId before, PartId behind, TestItem item)
    {
        var (cv, front, back) = ($"CV{number}", before.Value.ToUpperInvariant(), behind.Value.ToUpperInvariant());
        string Id(string step) => $"cv{number}.{step}";
        return new(
            item.Id,
            $"{cv} holds",
            StageKind.Test,
            [
                new(
                    Id("hook-up"),
                    $"High hose on {back}, purge",
                    [
                        Put(Parts.HighHose, behind),
                        Open(behind),
                        Open(Parts.HighControl),
                        Open(Parts.LowControl, "Open the low control until the low hose runs without air."),
                        Close(Parts.LowControl, "Close the low control; the high control stays open."),
                    ],
                    $"The gauge feels the water behind {cv}; its low side is open to air."
                )
                {
                    Needs = [IsClosed(before), IsClosed(behind), IsOpen(Parts.So1), IsClosed(Parts.So2)],
                    Sights = [NoWater.InTheHose(back, Id("hook-up"))],
                },
                new(
                    Id("level"),
                    $"Gauge level with {front}",
                    [LevelWith(before)],
                    "That is where the water before the check will stand open."
                )
                {
                    Needs = [IsOn(Parts.HighHose, behind), IsPurged(Side.High)],
                },
                new(Id("shut-so1"), "Close SO1", [Close(Parts.So1)], "What stands behind the check is now shut in.")
                {
                    Watch = "The needle stays pegged.",
                    Needs = [IsHeldAt(before), IsOpen(Parts.HighControl), IsClosed(Parts.LowControl)],
                    Sights = [Drops(number)],
                },
                new(
                    Id("draw"),
                    $"Draw down to {Two(setup)}",
                    [.. ToTwo(setup)],
                    "It gives the check something to hold, set by your own hand."
                )
                {
                    Watch = $"It must hold at {Two(setup)}.",
                    MustAnswer = true,
                    Holds = true,
                    Offers = number == 1 ? [] : [ShowOutlet.Offer("The body")],
                    Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2), IsClosed(Parts.LowControl)],
                    Sights =
                    [
                        new("holds", $"It stands still at {Two(setup)}", "Nothing comes in and nothing leaves.")
                        {
                            Shows = ObservationKind.AsItShouldBe,
                            Good = true,
                        },
                        WillNotComeDown(setup, number),
                        CreepsUp(setup, number, before, front),
                        Sinks(setup, number),
                    ],
                },
                new(
                    Id("read"),
                    $"Open {front}, read where the needle stands",
                    [Open(before)],
                    $"With {front} open to air only {cv} keeps the water behind it."
                )
                {
                    Watch = setup.Rules.For(item)?.LimitText is { } limit
                        ? $"It must stay at {limit}. Write down where it stands."
                        : "Write down where it stands.",
                    Holds = true,
                    Capture = new(item)
                    {
                        OneHose = true,
                        WhenLow = Leaks(number),
                        RemarkWhenLow = $"{cv} does not hold.",
                    },
                    Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2), IsHeldAt(before), IsOn(Parts.HighHose, behind)],
                    Sights =
                    [
                        new("runs-to-zero", "The needle runs to zero", $"{cv} leaks back.")
                        {
                            Shows = ObservationKind.NeedleAtZero,
                            Findings = [Leaks(number)],
                            Remark = $"{cv} leaks.",
                            Takes = TakesValue.ZeroOnDial,
                            Item = item,
                        },
                        AboveTwo(setup, number),
                        NoWater.From(before, front, Id("hook-up")),
                    ],
                },
                new(
                    Id("leave"),
                    "Close cocks and kit, open SO1",
                    [Close(before), Close(behind), Close(Parts.HighControl), OpenSlowly(Parts.So1)],
                    number == 1
                        ? "SO2 stays closed: the second test needs it so."
                        : "The body is under pressure again before anything is taken off."
                )
                {
                    Needs = [IsClosed(Parts.So2)],
                },
            ]
        );
    }

    private static string Two(Setup setup) => setup.Figure(2, 14);

    private static ImmutableArray<Act> ToTwo(Setup setup) =>
        [
            Crack(
                Parts.LowControl,
                $"Open the low control slowly until the needle stands at {Two(setup)}.",
                Cue.NeedleAt(2m)
            ),
            Close(Parts.LowControl),
        ];

    private static Sight AboveTwo(Setup setup, int number) =>
        new(
            "above-two",
            $"It climbs well above the {Two(setup)} it was drawn down to",
            $"Water comes in behind CV{number}: past SO2, with pressure behind "
                + $"it{(number == 1 ? ", and past a leaking CV2" : "")}. The number says nothing: a return visit "
                + $"after the repair."
        )
        {
            Shows = ObservationKind.NeedleAboveTwo,
            Findings = [FindingKind.So2LeaksBackPressure],
            Remark = $"CV{number} could not be read: SO2 leaks, back pressure.",
            Gives = [new(TestItem.Shutoff2, false)],
            Leads = LeadsTo.NotTestable,
        };
}
