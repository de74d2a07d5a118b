using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Condition;
using static Mordel.Core.Procedures.Hand;
using static Mordel.Core.Schools.VacuumBreaker.InletSights;

namespace Mordel.Core.Schools.VacuumBreaker;

// The air inlet.
public static partial class InletFirstSchool
{
    private static Stage Inlet(Setup setup) =>
        new(
            "air-inlet-opening",
            "Air inlet opens",
            StageKind.Test,
            [
                new(
                    "ai.shut",
                    "Close SO2, gauge level with the air inlet, then close SO1",
                    [Close(Parts.So2), LevelWith(Parts.AirInlet), Close(Parts.So1)],
                    "SO1 first would empty the body toward the site and drop the inlet unread. Where SO2 leaks, "
                        + "the fall begins as SO1 closes: the gauge is at its height by then."
                )
                {
                    Watch = "The needle stands still until you lower it.",
                    Caution = "Water to the site is off from here. Close slowly: sudden closing hammers pipes.",
                    Needs = [IsOn(Parts.HighHose, Parts.Tc2), IsOpen(Parts.Tc2), IsPurged(Side.High)],
                    Sights =
                    [
                        new(
                            "falls",
                            "The pressure falls by itself",
                            "SO2 leaks with the flow. Take the inlet's opening on the way down; if it was missed, "
                                + "start again."
                        )
                        {
                            Shows = ObservationKind.NeedleEverLeftThePeg,
                            Findings = [FindingKind.So2LeaksWithFlow],
                            Remark = "SO2 leaks with the flow.",
                            Gives = [new(TestItem.Shutoff2, false)],
                            Skips = ["ai.lower"],
                            Branch =
                            [
                                new(
                                    "ai.on-the-way",
                                    "Read the pop on the way down",
                                    [
                                        Look(
                                            "Eyes and ears on the inlet; take the number at the pop. If it falls "
                                                + "too fast to be read, SO1 opened by a hair slows it."
                                        ),
                                    ],
                                    "The leak lowers the pressure for you."
                                )
                                {
                                    Cue = Cue.FallsByItself,
                                    Capture = new(TestItem.AirInletOpening) { OneHose = true },
                                    Sights =
                                    [
                                        new("missed", "It was missed", "Fill up and start again.")
                                        {
                                            Shows = ObservationKind.OwnDoing,
                                            Leads = LeadsTo.Repeat,
                                            Again = "ai.shut",
                                        },
                                        NeverMoves,
                                    ],
                                },
                            ],
                        },
                    ],
                },
                new(
                    "ai.lower",
                    "Lower the pressure slowly, read at the pop",
                    [new Act.LowerPressure(Opening.QuarterTurn)],
                    "The inlet's spring opens it once the body has lost enough pressure."
                )
                {
                    Watch = "Eyes and ears on the inlet: take the number at the pop.",
                    Cue = Cue.Pop,
                    Offers = [ShowOutlet.Offer("The body")],
                    Capture = new(TestItem.AirInletOpening) { OneHose = true },
                    Needs =
                    [
                        IsClosed(Parts.So1),
                        IsClosed(Parts.So2),
                        IsHeldAt(Parts.AirInlet),
                        IsOn(Parts.HighHose, Parts.Tc2),
                        IsOpen(Parts.Tc2),
                    ],
                    Sights =
                    [
                        NeverMoves,
                        new(
                            "stops-above",
                            "The needle stops above the inlet's point",
                            "More comes in than the bleed lets out: through SO1, or through SO2 with pressure "
                                + "behind it. The tee at TC1 takes what SO1 lets in."
                        )
                        {
                            Shows = ObservationKind.NeedleStopsAbove,
                            Branch =
                            [
                                new(
                                    "ai.tee",
                                    "Close the bleed, open TC1 and the tee, crack the bleed again, read at the pop",
                                    [
                                        new Act.LowerPressure(Opening.Closed),
                                        Open(Parts.Tc1),
                                        Open(Parts.BleedOff),
                                        new Act.LowerPressure(Opening.QuarterTurn),
                                    ],
                                    "The tee spills what SO1 lets in."
                                )
                                {
                                    Cue = Cue.Pop,
                                    Sights =
                                    [
                                        NeverMoves,
                                        new(
                                            "tee-runs",
                                            "The tee runs full and the needle still stands above",
                                            "SO1 does not shut off: nothing can be read until it does."
                                        )
                                        {
                                            Shows = ObservationKind.TeeRuns,
                                            Findings = [FindingKind.So1Leaks],
                                            Remark = "SO1 does not shut off.",
                                            Gives = [new(TestItem.Shutoff1, false)],
                                            Leads = LeadsTo.NotTestable,
                                        },
                                        new(
                                            "tee-dry",
                                            "The tee runs dry and the needle still stands above",
                                            "It comes back through SO2, with pressure behind it, where a vacuum "
                                                + "breaker must never have any."
                                        )
                                        {
                                            Shows = ObservationKind.TeeDry,
                                            Findings = [FindingKind.So2LeaksBackPressure],
                                            Remark = "SO2 does not shut off, back pressure.",
                                            Gives = [new(TestItem.Shutoff2, false)],
                                            Leads = LeadsTo.NotTestable,
                                        },
                                    ],
                                    Capture = new(TestItem.AirInletOpening) { OneHose = true },
                                },
                                new(
                                    "ai.tee-shut",
                                    "Close the tee and TC1",
                                    [Close(Parts.BleedOff), Close(Parts.Tc1)],
                                    "The check test starts with them shut."
                                ),
                            ],
                        },
                        new("missed", "The pop was missed", "Nothing is lost: fill up and lower it again.")
                        {
                            Shows = ObservationKind.OwnDoing,
                            Leads = LeadsTo.Repeat,
                            Again = "ai.shut",
                        },
                    ],
                },
                new(
                    "ai.drain",
                    "Open the bleed fully, let the body drain",
                    [new Act.LowerPressure(Opening.Full)],
                    "Water that never stops comes through a shutoff: a finding, not a failure."
                )
                {
                    // The strict profile watches the drained body for its full hold before the inlet is felt.
                    MustAnswer = true,
                    Holds = setup.Rules.HoldSeconds > 0,
                    Needs = [IsClosed(Parts.So1), IsClosed(Parts.So2), IsOpen(Parts.Tc2)],
                    Sights =
                    [
                        new("dry", "It has drained and runs no more", "Both shutoffs keep the water out.")
                        {
                            Shows = ObservationKind.AsItShouldBe,
                            Good = true,
                        },
                        KeepsSpilling,
                    ],
                },
                new(
                    "ai.full",
                    "Feel that the inlet is fully open",
                    [Look("Check with a finger or a screwdriver that the inlet is fully open and does not stick.")],
                    "An inlet that only cracks lets too little air in."
                )
                {
                    MustAnswer = true,
                    Sights = [FullyOpen, Hangs],
                },
                new(
                    "ai.close",
                    "Close TC2 and the kit",
                    [new Act.LowerPressure(Opening.Closed), Close(Parts.Tc2)],
                    "The check test begins with a closed body."
                ),
            ]
        );

    private static Sight KeepsSpilling =>
        new(
            "keeps-spilling",
            "The body keeps spilling",
            "SO1 leaks, or SO2 with pressure behind it. Not a failure, a finding; the tee tells which."
        )
        {
            Shows = ObservationKind.BodyKeepsSpilling,
            Branch =
            [
                new(
                    "ai.which",
                    "Open TC1 and the tee: does it slow?",
                    [Open(Parts.Tc1), Open(Parts.BleedOff)],
                    "The tee spills what SO1 lets in."
                )
                {
                    MustAnswer = true,
                    Sights =
                    [
                        new("slows", "It slows or stops", "SO1 leaks.")
                        {
                            Shows = ObservationKind.SpillSlows,
                            Findings = [FindingKind.So1Leaks],
                            Remark = "SO1 leaks.",
                            Gives = [new(TestItem.Shutoff1, false)],
                        },
                        new("runs-on", "It runs on", "SO2 leaks, with pressure behind it.")
                        {
                            Shows = ObservationKind.WaterRunsOn,
                            Findings = [FindingKind.So2LeaksBackPressure],
                            Remark = "SO2 leaks, back pressure.",
                            Gives = [new(TestItem.Shutoff2, false)],
                        },
                    ],
                },
                new(
                    "ai.which-shut",
                    "Close the tee and TC1",
                    [Close(Parts.BleedOff), Close(Parts.Tc1)],
                    "The check test starts with them shut."
                ),
            ],
        };
}
