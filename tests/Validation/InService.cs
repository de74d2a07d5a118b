using System.Text;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;

namespace Mordel.Validation;

/// <summary>
/// An RP in service that drips: which part? No gauge, two orders of turning things (handbook chapter 4).
/// </summary>
public static class InService
{
    /// <summary>What the relief does after an act: <c>stops</c>, <c>less</c>, <c>still</c>.</summary>
    public static string After(double before, double now) =>
        now < 0.003 ? "stops"
        : now < 0.85 * before ? "less"
        : "still";

    /// <summary>
    /// Closes SO2, then opens TC4, as the shut-first order does; answers what the relief did at first and after each.
    /// </summary>
    public static (double Drips, string So2Closed, string Tc4Opened) ShutFirst(string words)
    {
        var water = Bench.Water("rp-relief-first", words);
        var drips = Relief(water);
        water.Turn(0, (Parts.So2, 0));
        var shut = Relief(water);
        water.Turn(0, (Parts.Tc4, 1));
        return (drips, After(drips, shut), After(shut, Relief(water)));
    }

    /// <summary>Opens a tap downstream with everything else as it is, as the flow-first order does.</summary>
    public static (double Drips, string Flowing) FlowFirst(string words)
    {
        var water = Bench.Water("rp-relief-first", words);
        var drips = Relief(water);
        water.TapOpen = true;
        water.Run(900);
        return (drips, After(drips, Relief(water)));
    }

    /// <summary>The cases: which part, how the rig is set, what the two orders should show.</summary>
    public static IReadOnlyList<(
        string Part,
        string Set,
        string So2Closed,
        string Tc4Opened,
        string Flowing
    )> Cases { get; } =
    [
        ("CV2, with back pressure", "cv2 leaks; pressure 90", "stops", "stops", "still"),
        ("CV1", "cv1 leaks", "still", "stops", "stops"),
        ("Relief valve", "rv leaks", "still", "still", "still"),
        ("CV1 and relief, CV1 leaking more", "cv1 leaks large, rv leaks", "still", "less", "less"),
        ("CV1 and relief, equal leaks: looks like the relief alone", "cv1 leaks, rv leaks", "still", "still", "still"),
        (
            "CV2 and SO2, with back pressure: imitates CV1 once SO2 is closed",
            "cv2 leaks, so2 leaks; pressure 90",
            "less",
            "stops",
            "still"
        ),
    ];

    /// <summary>The section of the table.</summary>
    public static string Section()
    {
        var text = new StringBuilder(
            """

            ## rp in service: it drips. Which part?

            No gauge. *Shut first*: close SO2, then open TC4. *Flow first*: open a tap downstream. `stops`, `less`,
            `still`: what the relief port does after each.

            | part | set | relief at first, in³/s | SO2 closed | then TC4 opened | a tap downstream |
            | --- | --- | --- | --- | --- | --- |

            """
        );
        foreach (var (part, set, _, _, _) in Cases)
        {
            var (drips, shut, flow) = ShutFirst(set);
            text.AppendLine(
                System.Globalization.CultureInfo.InvariantCulture,
                $"| {part} | `{set}` | {drips:0.000} | {shut} | {flow} | {FlowFirst(set).Flowing} |"
            );
        }

        return text.ToString();
    }

    private static double Relief(WaterModel water)
    {
        // What is let go when a valve has been turned is not what drips: wait for it.
        water.Run(900);
        return water.Spills(Parts.Relief);
    }
}
