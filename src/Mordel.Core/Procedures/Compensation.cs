using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>
/// What follows when the water never stops in a one-hose test of a check (handbook chapter 4): note the needle, open a
/// bleed on the upstream side, and see whether the water slows (SO1 leaks: read at the drip) or the needle drops (SO2
/// leaks with pressure behind it: the noted number stands).
/// </summary>
/// <param name="Prefix">Prefix of the step ids: <c>cv1</c>.</param>
/// <param name="Check">The check, as written: <c>CV1</c>.</param>
/// <param name="Item">The item that is read.</param>
/// <param name="Outlet">Where the water runs: <c>the tube</c>.</param>
/// <param name="Bleed">What is opened: <c>bleed-off</c>.</param>
/// <param name="Open">Opens it a little.</param>
/// <param name="Shut">Shuts it again.</param>
/// <param name="Again">The step to repeat from when it went too far.</param>
public sealed record Compensation(
    string Prefix,
    string Check,
    TestItem Item,
    string Outlet,
    string Bleed,
    Act Open,
    Act Shut,
    string Again
)
{
    /// <summary>Steps after the repeat's restoring of the rig, where a school has more to do.</summary>
    public ImmutableArray<Step> Refill { get; init; } = [];

    /// <summary>Steps after the bleed has emptied the upstream side, where the next test needs it full.</summary>
    public ImmutableArray<Step> AfterFalls { get; init; } = [];

    /// <summary>
    /// The step that tells where the water comes from when it is not SO1's, where there is more than SO2; null where
    /// only SO2 is left.
    /// </summary>
    public Step? Unexplained { get; init; }

    /// <summary>The finding when the check leaks.</summary>
    public FindingKind CheckLeaks => Prefix == Parts.Cv2.Value ? FindingKind.Cv2Leaks : FindingKind.Cv1Leaks;

    /// <summary>Water that never stops.</summary>
    public Sight NeverStops =>
        new(
            "never-stops",
            "The needle settles, but the water never stops",
            $"Something keeps feeding {Outlet}: SO1, or SO2 with pressure behind it. Which one, the {Bleed} tells."
        )
        {
            Shows = ObservationKind.WaterNeverStops,
            Branch =
            [
                new(
                    $"{Prefix}.note",
                    "Note what the needle shows now",
                    [Look("Write the number down before anything is turned.")],
                    $"If SO2 turns out to be the cause, this is the result: once the {Bleed} is open it is gone."
                )
                {
                    Capture = new(Item, Provisional: true) { OneHose = true },
                },
                new(
                    $"{Prefix}.bleed",
                    $"Open the {Bleed} slowly",
                    [Open],
                    $"The {Bleed} spills what a leaking SO1 lets in, so that it cannot hold the needle up."
                )
                {
                    Watch = $"Does the water at {Outlet} slow down, or does the needle drop while the water runs on?",
                    MustAnswer = true,
                    Cue = Cue.SlowsOrFalls,
                    Sights = [Slows, Falls, TooFar],
                },
            ],
        };

    /// <summary>The needle runs to zero: the check leaks.</summary>
    public Sight RunsToZero =>
        new(
            "runs-to-zero",
            "The needle runs to zero",
            $"{Check} leaks. Water may trickle until the levels meet; there is nothing to compensate."
        )
        {
            Shows = ObservationKind.NeedleAtZero,
            Findings = [CheckLeaks],
            Remark = $"{Check} leaks.",
            Takes = TakesValue.ZeroOnDial,
            Item = Item,
        };

    private Sight Slows =>
        new(
            "slows",
            $"The water at {Outlet} slows",
            "SO1 leaks. Its water could lift a worn check to a false pass, so the reading is taken with the "
                + "leak led away."
        )
        {
            Shows = ObservationKind.OutletSlows,
            Findings = [FindingKind.So1Leaks],
            Remark = $"SO1 leaks; compensated at the {Bleed}.",
            Gives = [new(TestItem.Shutoff1, false)],
            Branch =
            [
                new(
                    $"{Prefix}.drip",
                    $"Bleed until {Outlet} only drips, then read",
                    [Look($"Open the {Bleed} until {Outlet} is only dripping, and no further.")],
                    $"Opened further, it empties the upstream side and the needle drops. A large leak through the "
                        + $"{Bleed} costs a few hundredths to tenths."
                )
                {
                    Watch =
                        "A needle near zero at that drip: the check leaks as well; SO1's water had been holding it up.",
                    Capture = new(Item) { OneHose = true },
                    Cue = Cue.OnlyDrips,
                    Sights = [ZeroAtTheDrip, TooFar],
                },
                CloseBleed,
            ],
        };

    private Sight ZeroAtTheDrip =>
        new(
            "zero-at-drip",
            "The needle is near zero at the drip",
            $"{Check} leaks as well: SO1's water had been holding the needle up."
        )
        {
            Shows = ObservationKind.NeedleNearZero,
            Findings = [CheckLeaks],
            Remark = $"{Check} leaks; hidden by SO1 until bled off.",
            Takes = TakesValue.ZeroOnDial,
            Item = Item,
            Branch = [CloseBleed],
        };

    private Sight Falls =>
        Unexplained is { } further
            ? new(
                "falls",
                FallsSeen,
                "It is not SO1's water, and it does not pass the check: the number noted before stands. It is "
                    + "trapped behind a leaking CV2, or comes back through SO2."
            )
            {
                Shows = ObservationKind.NeedleFalls,
                Takes = TakesValue.NumberHeld,
                Item = Item,
                Branch = [CloseBleed, further, .. AfterFalls],
            }
            : new(
                "falls",
                FallsSeen,
                "SO2 leaks, with back pressure behind it. That water does not pass the check, so the number noted "
                    + "before stands."
            )
            {
                Shows = ObservationKind.NeedleFalls,
                Findings = [FindingKind.So2LeaksBackPressure],
                Remark = "SO2 leaks, back pressure.",
                Gives = [new(TestItem.Shutoff2, false)],
                Takes = TakesValue.NumberHeld,
                Item = Item,
                Branch = [CloseBleed, .. AfterFalls],
            };

    private const string FallsSeen = "The needle drops toward zero and the water runs on";

    private Sight TooFar =>
        new(
            "too-far",
            $"The needle dropped: the {Bleed} went too far",
            "The upstream side emptied. Nothing is wrong with the check; fill up and repeat."
        )
        {
            Shows = ObservationKind.OwnDoing,
            Leads = LeadsTo.Repeat,
            Again = Again,
            Branch = Refill,
        };

    private Step CloseBleed => new($"{Prefix}.tee", $"Close the {Bleed}", [Shut], "The next step starts with it shut.");
}
