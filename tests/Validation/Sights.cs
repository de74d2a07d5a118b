using Mordel.Core.Simulation;

namespace Mordel.Validation;

/// <summary>A row of what testers see when something is wrong, and what should come of it.</summary>
/// <param name="Procedure">School.</param>
/// <param name="Seen">What is seen, and what it means.</param>
/// <param name="Set">The rig, in the words of <see cref="Bench.Set"/>.</param>
/// <param name="Sights">What the tester must meet, as <c>step>sight</c>, in this order; others may come
/// between.</param>
/// <param name="Findings">What must be found, all of it and nothing else.</param>
public sealed record Row(string Procedure, string Seen, string Set, string Sights, string Findings)
{
    /// <summary>Where the water does otherwise than the book says, and why; empty where they agree.</summary>
    public string WhatIf { get; init; } = "";

    /// <summary>What is missing from an outcome; empty when all is as it should be.</summary>
    public string Missing(SimulatedTest outcome)
    {
        ArgumentNullException.ThrowIfNull(outcome);
        var found = string.Join(' ', outcome.Findings.Select(f => f.Id).Order(StringComparer.Ordinal));
        var wanted = string.Join(
            ' ',
            Findings.Split(' ', StringSplitOptions.RemoveEmptyEntries).Order(StringComparer.Ordinal)
        );
        if (!outcome.Finished)
            return "it went round in circles";
        if (found != wanted)
            return $"found [{found}]";
        var at = 0;
        foreach (var sight in Sights.Split(' ', StringSplitOptions.RemoveEmptyEntries))
        {
            while (at < outcome.Met.Count && Name(outcome.Met[at]) != sight)
                at++;
            if (at++ >= outcome.Met.Count)
                return $"{sight} was not met, but {string.Join(' ', outcome.Met.Select(Name))}";
        }

        return "";
    }

    /// <summary>A sight as rows name it.</summary>
    public static string Name(MetSight met)
    {
        ArgumentNullException.ThrowIfNull(met);
        return $"{met.Step.Split('/')[^1].Split('@')[0]}>{met.Sight.Id}";
    }
}

/// <summary>What is seen, school by school (handbook chapter 4).</summary>
public static class ChapterFour
{
    private const string Tube = "dc-sight-tube",
        Down = "dc-draw-down",
        Pvb = "pvb-inlet-first",
        Check = "svb-check-first",
        Static = "svb-static-first";
    private const string Relief = "rp-relief-first",
        First = "rp-check-first",
        Isolation = "rp-isolation-first";

    /// <summary>All rows.</summary>
    public static IReadOnlyList<Row> Rows { get; } =
    [
        new(Tube, "Water stops, the needle settles at the spring: the check holds", "", "", ""),
        new(Tube, "Needle runs to zero: CV1 leaks", "cv1 leaks", "cv1.read>runs-to-zero", "cv1-leaks"),
        new(Tube, "Needle runs to zero: CV2 leaks", "cv2 leaks", "cv2.read>runs-to-zero", "cv2-leaks"),
        new(
            Tube,
            "Settles, water never stops, slows at the bleed-off: SO1 leaks",
            "so1 leaks",
            "cv1.read>never-stops cv1.bleed>slows cv2.read>never-stops cv2.bleed>slows",
            "so1-leaks"
        ),
        new(
            Tube,
            "Needle near zero at the drip: the check leaks as well",
            "so1 leaks, cv1 leaks",
            "cv1.read>never-stops cv1.bleed>slows cv1.drip>zero-at-drip",
            "so1-leaks cv1-leaks"
        ),
        new(
            Tube,
            "Needle drops at the bleed-off, water runs on: SO2, back pressure",
            "so2 leaks; pressure 70",
            "cv2.read>never-stops cv2.bleed>falls",
            "so2-leaks-back-pressure"
        ),
        new(
            Tube,
            "The same with less than supply behind it",
            "so2 leaks; pressure 20",
            "cv2.read>never-stops cv2.bleed>falls",
            "so2-leaks-back-pressure"
        ),
        new(
            Tube,
            "In the CV1 test it takes a leaking CV2 too",
            "so2 leaks, cv2 leaks; pressure 70",
            "cv1.read>never-stops cv1.bleed>falls cv2.read>runs-to-zero",
            "so2-leaks-back-pressure cv2-leaks"
        ),
        new(
            Tube,
            "Needle leaves its peg by itself, tube sinks in the CV2 test: SO2 leaks with the flow",
            "so2 leaks; open",
            "cv1.shut-so1>left-the-peg cv2.read>level-sinks",
            "so2-leaks-with-flow"
        ),
        new(
            Tube,
            "Tube sinks in the CV1 test: an outlet more than a metre below",
            "so2 leaks; open -70",
            "cv1.shut-so1>left-the-peg cv1.read>level-sinks cv2.read>level-sinks",
            "so2-leaks-with-flow"
        ),
        new(
            Tube,
            "Zero from the start: the cock under the hose is blocked",
            "tc2 blocked",
            "cv1.shut-so1>zero-from-start cv1.clear-up>stays",
            "cock-blocked"
        ),
        new(
            Tube,
            "Pegged, will not fall: SO1 leaks badly",
            "so1 leaks gush",
            "cv1.read>will-not-fall cv1.clear-down>so1-stays-open",
            "so1-leaks"
        ),
        new(
            Tube,
            "Pegged, will not fall: the downstream cock is blocked",
            "tc4 blocked",
            "cv2.fill>dry-tc4",
            "cock-blocked"
        )
        {
            WhatIf = "Nothing comes when the tube is filled, one step before the needle would stay pegged.",
        },
        new(
            Tube,
            "Pegged, will not fall: SO2 lets much back",
            "so2 leaks gush; pressure 70",
            "cv2.read>will-not-fall cv2.clear-down>so2-runs-back",
            "so2-leaks-back-pressure"
        )
        {
            WhatIf =
                "Not in the book: a gush past SO2 looks like SO1 until the bleed-off drops the needle. The sheet "
                + "asks for it now.",
        },
        new(
            Tube,
            "Hoses swapped",
            "kit hoses-swapped",
            "cv1.shut-so1>zero-from-start cv1.clear-up>swapped",
            "hoses-swapped"
        ),
        new(Down, "It holds at 2 and stays: the check holds", "", "", ""),
        new(
            Down,
            "Needle drops when SO1 is shut: SO2 leaks with the flow; CV2 cannot be tested",
            "so2 leaks; open",
            "cv1.shut-so1>drops cv2.shut-so1>drops cv2.outlet>stays-open",
            "so2-leaks-with-flow"
        ),
        new(
            Down,
            "Will not come down to 2: SO1 leaks badly",
            "so1 leaks gush",
            "cv1.draw>will-not-come-down cv1.exercise>so1-stays-open",
            "so1-leaks"
        ),
        new(
            Down,
            "Creeps up after the low control closes: SO1 leaks a little",
            "so1 leaks",
            "cv1.draw>creeps-up cv1.tell>stops cv2.draw>creeps-up cv2.tell>stops",
            "so1-leaks"
        ),
        new(
            Down,
            "Creeps up: water trapped behind CV2",
            "cv2 leaks weep",
            "cv1.draw>creeps-up cv1.tell>trapped cv2.read>runs-to-zero",
            "cv2-leaks"
        ),
        new(
            Down,
            "Creeps up: SO2 with pressure behind it",
            "so2 leaks; pressure 70",
            "cv2.draw>creeps-up cv2.tell>climbs-on",
            "so2-leaks-back-pressure"
        ),
        new(
            Down,
            "The same in the reading: no result",
            "so2 leaks; pressure 70",
            "cv2.draw>creeps-up cv2.tell>climbs-on cv2.read>above-two",
            "so2-leaks-back-pressure"
        ),
        new(
            Down,
            "Below 1 after the upstream cock is opened: CV1 fails",
            "cv1 leaks",
            "cv1.read>runs-to-zero",
            "cv1-leaks"
        ),
        new(
            Down,
            "Below 1 after the upstream cock is opened: CV2 fails",
            "cv2 leaks",
            "cv2.read>runs-to-zero",
            "cv2-leaks"
        ),
        new(Down, "The cock under the hose is blocked", "tc3 blocked", "cv1.hook-up>no-water", "cock-blocked"),
        new(Pvb, "The inlet pops at its point, the check holds at its spring", "", "", ""),
        new(
            Pvb,
            "Pressure falls by itself as SO1 is shut: SO2 leaks with the flow",
            "so2 leaks; open",
            "ai.shut>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Pvb,
            "Needle passes 1.0 and the inlet has not moved: stuck",
            "ai stuck-closed",
            "ai.lower>never-moves",
            "inlet-stuck"
        ),
        new(Pvb, "The inlet opens but hangs", "ai hangs", "ai.full>hangs", "inlet-not-full"),
        new(
            Pvb,
            "Needle stops above the inlet's point: SO1 lets in more than the bleed lets out",
            "so1 leaks large",
            "ai.lower>stops-above cv1.bleed>slows",
            "so1-leaks"
        ),
        new(
            Pvb,
            "Body keeps spilling after the inlet opened: SO1 leaks; TC2 never stops, slows at the tee",
            "so1 leaks",
            "ai.drain>keeps-spilling ai.which>slows cv1.read>never-stops cv1.bleed>slows",
            "so1-leaks"
        ),
        new(
            Pvb,
            "Body keeps spilling: SO2 with pressure behind it; needle drops at the tee, water runs on",
            "so2 leaks; pressure 40",
            "ai.drain>keeps-spilling ai.which>runs-on cv1.read>never-stops cv1.bleed>falls",
            "so2-leaks-back-pressure"
        ),
        new(Pvb, "Check test runs to zero: the check leaks", "cv1 leaks", "cv1.read>runs-to-zero", "cv1-leaks"),
        new(Pvb, "A cock is blocked", "tc1 blocked", "cv1.hook>no-water", "cock-blocked"),
        new(Check, "The check holds at its spring, the inlet opens at its point", "", "", ""),
        new(
            Check,
            "Needle falls to the check's spring as SO1 is shut: SO2 leaks",
            "so2 leaks; open",
            "ready.shut>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Check,
            "Vent drips on and on, slows at the bleed: SO1 leaks",
            "so1 leaks",
            "cv1.read>never-stops cv1.bleed>slows",
            "so1-leaks"
        ),
        new(
            Check,
            "SO1's water hides a leaking check until it is bled off",
            "so1 leaks, cv1 leaks",
            "cv1.read>never-stops cv1.bleed>slows cv1.drip>zero-at-drip",
            "so1-leaks cv1-leaks"
        ),
        new(
            Check,
            "Vent drips on and on, needle drops at the bleed: SO2, back pressure",
            "so2 leaks; pressure 40",
            "cv1.read>never-stops cv1.bleed>falls",
            "so2-leaks-back-pressure"
        ),
        new(
            Check,
            "A leaking check alone runs to zero, the inlet opens, the dripping stops",
            "cv1 leaks",
            "cv1.read>runs-to-zero ai.read>open-already",
            "cv1-leaks"
        ),
        new(
            Check,
            "Inlet opens above the check's reading: fails check-above-inlet",
            "; springs cv1=1.5 ai=2.5",
            "",
            ""
        ),
        new(Check, "The inlet does not move", "ai stuck-closed", "ai.read>never-moves", "inlet-stuck"),
        new(Static, "Static; the check holds at its spring, the inlet opens at its point", "", "", ""),
        new(
            Static,
            "Needle falls by itself on closing SO1: not static",
            "so2 leaks; open",
            "static.so1>falls static.find>stays",
            "not-static"
        ),
        new(
            Static,
            "Vent drips on and on, slows at the bleed: SO1 leaks",
            "so1 leaks",
            "cv1.read>never-stops cv1.bleed>slows",
            "so1-leaks"
        ),
        new(
            Static,
            "Vent drips on and on, needle drops: SO2, back pressure",
            "so2 leaks; pressure 40",
            "cv1.read>never-stops cv1.bleed>falls",
            "so2-leaks-back-pressure"
        ),
        new(Static, "The check leaks", "cv1 leaks", "cv1.read>runs-to-zero", "cv1-leaks"),
        new(Static, "The inlet hangs", "ai hangs", "ai.full>hangs", "inlet-not-full"),
        new(Relief, "All sound", "", "", ""),
        new(
            Relief,
            "Needle at zero, nothing reacts: hoses swapped",
            "kit hoses-swapped",
            "hook.purge>nothing-reacts hook.clear-up>swapped",
            "hoses-swapped"
        ),
        new(
            Relief,
            "Needle at zero, nothing reacts: TC2 blocked",
            "tc2 blocked",
            "hook.purge>nothing-reacts hook.clear-up>stays",
            "cock-blocked"
        ),
        new(
            Relief,
            "Pegged from the start: TC3 blocked",
            "tc3 blocked",
            "hook.purge>pegged hook.clear-low>stays",
            "cock-blocked"
        ),
        new(
            Relief,
            "Relief runs as SO2 is closed, needle sinks to its point: CV1 leaks",
            "cv1 leaks",
            "hook.so2>relief-runs",
            "cv1-leaks"
        ),
        new(
            Relief,
            "Apparent reading sinking, no discharge yet: CV1 leaks slowly",
            "cv1 leaks weep",
            "hook.so2>sinks-slowly",
            "cv1-leaks"
        ),
        new(
            Relief,
            "A steady flow hides a leaking CV1",
            "cv1 leaks, so2 leaks large; open",
            "rv.feed>cannot-be-reached",
            "so2-leaks-with-flow"
        ),
        new(
            Relief,
            "Opening point cannot be reached: SO2 carries the water away",
            "so2 leaks large; open",
            "rv.feed>cannot-be-reached rv.exercise>stays-open",
            "so2-leaks-with-flow"
        ),
        new(
            Relief,
            "Needle sinks to zero and nothing drips: CV1 leaks, relief stuck",
            "cv1 leaks, rv stuck-closed",
            "hook.so2>zero-and-dry",
            "cv1-leaks relief-stuck"
        ),
        new(Relief, "Relief opens below 2.0", "; springs cv1=7 cv2=1.5 rv=1.5", "", "relief-low"),
        new(
            Relief,
            "Nothing drips down to zero: relief stuck",
            "rv stuck-closed",
            "rv.feed>nothing-drips",
            "relief-stuck"
        ),
        new(
            Relief,
            "Relief discharges with the needle well above its point: seat or diaphragm",
            "rv leaks",
            "hook.so2>leaks-untold rv.feed>leaks-untold",
            "relief-leaks"
        ),
        new(
            Relief,
            "Back-pressure test: needle sinks, relief drips: CV2 leaks",
            "cv2 leaks",
            "bp.test>sinks",
            "cv2-leaks"
        ),
        new(
            Relief,
            "Back-pressure test: a little low and still, the bypass runs: SO2 with the flow",
            "so2 leaks; open",
            "bp.test>low-and-runs so2.test>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Relief,
            "Back-pressure test: a little high: SO2 from a site above supply",
            "so2 leaks large; pressure 90",
            "bp.test>high so2.test>climbs",
            "so2-leaks-back-pressure"
        ),
        new(
            Relief,
            "After closing TC2 the needle rises: SO2 from a site above supply",
            "so2 leaks; pressure 90",
            "so2.test>climbs",
            "so2-leaks-back-pressure"
        ),
        new(
            Relief,
            "A closed, charged site: only the tap downstream shows SO2's leak",
            "so2 leaks weep",
            "so2.test>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Relief,
            "CV2 and SO2 both leaking with back pressure imitate CV1",
            "cv2 leaks, so2 leaks; pressure 90",
            "hook.so2>relief-runs",
            "cv1-leaks"
        ),
        new(First, "All sound", "", "", ""),
        new(
            First,
            "Relief runs, needle sinks to its point: CV1 leaks",
            "cv1 leaks",
            "cv1.read>relief-runs",
            "cv1-leaks"
        ),
        new(
            First,
            "Back-pressure test: needle sinks, relief drips: CV2 leaks",
            "cv2 leaks",
            "bp.test>sinks",
            "cv2-leaks"
        ),
        new(
            First,
            "Nothing drips down to zero: relief stuck",
            "rv stuck-closed",
            "rv.feed>nothing-drips",
            "relief-stuck"
        ),
        new(
            First,
            "Relief discharges with the needle well above its point",
            "rv leaks",
            "cv1.read>leaks-untold rv.feed>leaks-untold",
            "relief-leaks"
        ),
        new(
            First,
            "After closing TC2 the needle falls: SO2 leaks, the test begins again after the repair",
            "so2 leaks weep; open",
            "so2.test>falls so2.mend>not-today",
            "so2-leaks-with-flow"
        ),
        new(
            First,
            "After closing TC2 the needle rises: SO2, back pressure",
            "so2 leaks; pressure 90",
            "so2.test>climbs so2.mend>not-today",
            "so2-leaks-back-pressure"
        ),
        new(
            First,
            "Needle at zero, nothing reacts: hoses swapped",
            "kit hoses-swapped",
            "hook.purge>nothing-reacts hook.clear-up>swapped",
            "hoses-swapped"
        ),
        new(Isolation, "All sound", "", "", ""),
        new(
            Isolation,
            "Needle rises, T1 runs on: SO1 leaks",
            "so1 leaks",
            "iso.test>rises iso.which>runs-on",
            "so1-leaks"
        ),
        new(
            Isolation,
            "Needle rises, T1 stops: SO2, back pressure",
            "so2 leaks; pressure 40",
            "iso.test>rises iso.which>stops",
            "so2-leaks-back-pressure"
        ),
        new(
            Isolation,
            "Needle falls: SO2 leaks with the flow",
            "so2 leaks; open",
            "iso.shut>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Isolation,
            "The same from a closed, charged site: the tap downstream shows it",
            "so2 leaks large",
            "iso.shut>falls",
            "so2-leaks-with-flow"
        ),
        new(
            Isolation,
            "Relief runs, needle sinks to its point: CV1 leaks",
            "cv1 leaks",
            "cv1.read>relief-runs",
            "cv1-leaks"
        ),
        new(
            Isolation,
            "Relief goes on discharging with supply behind CV2: CV2 leaks",
            "cv2 leaks",
            "bp.test>discharges flow.read>runs-to-zero",
            "cv2-leaks"
        ),
        new(
            Isolation,
            "A weeping check lets the needle rise a little with both valves tight",
            "cv1 leaks weep",
            "cv1.read>sinks-slowly",
            "cv1-leaks"
        )
        {
            WhatIf =
                "Not in the book: what the check held back comes to rest. Whoever watches long enough with the tap "
                + "open sees it done; the sheet tells it from a leak by waiting.",
        },
        new(
            Isolation,
            "Nothing drips down to zero: relief stuck",
            "rv stuck-closed",
            "rv.feed>nothing-drips",
            "relief-stuck"
        ),
        new(
            Isolation,
            "Relief discharges with the needle well above its point",
            "rv leaks",
            "cv1.read>leaks-untold rv.feed>leaks-untold",
            "relief-leaks"
        ),
        new(Isolation, "T1 blocked", "t1 blocked", "cv1.read>zero-nothing-reacts", "cock-blocked"),
        new(Isolation, "T2 blocked", "t2 blocked", "cv1.read>pegged", "cock-blocked"),
    ];
}
