using Mordel.Core.Catalogue;
using Mordel.Core.Units;

namespace Mordel.Core.Rules;

/// <summary>What a school's numbers can and cannot say, whatever the authority asks for.</summary>
public static class SchoolFacts
{
    private const string DrawDown = "dc-draw-down";

    /// <summary>
    /// What the draw-down school draws the space behind a check down to, by the tester's own hand (handbook chapter 2).
    /// </summary>
    public static Differential DrawnDownTo { get; } = Differential.Psid(2m);

    // Half a psid: more than a dial's mark, a held breath at the valve and the gauge's accuracy together.
    private static readonly Differential ClearlyAbove = Differential.Psid(2.5m);

    /// <summary>
    /// The reading above which an item has no result in this school, because water comes in (handbook chapter 3); null
    /// where there is none.
    /// </summary>
    /// <param name="procedureId">The school.</param>
    /// <param name="item">The item.</param>
    public static Differential? NoResultAbove(string procedureId, TestItem item) =>
        procedureId == DrawDown && (item == TestItem.Check1 || item == TestItem.Check2) ? ClearlyAbove : null;

    /// <summary>
    /// Whether a profile may leave an item out altogether and the school goes on without it: SO2 in the relief-first
    /// school (handbook chapter 3).
    /// </summary>
    public static bool CanBeLeftOut(string procedureId, TestItem item) =>
        procedureId == "rp-relief-first" && item == TestItem.Shutoff2;

    /// <summary>What to keep in mind with a verdict by this school; null where there is nothing.</summary>
    public static string? Note(string procedureId) =>
        procedureId == DrawDown
            ? "This school shows whether a check holds, not how strong its spring is: a worn spring that still "
                + "seals passes here and can fail the sight-tube school."
            : null;
}
