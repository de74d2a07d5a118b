using System.Collections.Immutable;

namespace Mordel.Core.Rules;

/// <summary>A local way of doing a step that a school leaves to the profile (handbook chapter 2).</summary>
/// <param name="Id">Stable name, as profiles write it.</param>
/// <param name="School">The school that leaves it open.</param>
/// <param name="Title">What is done then, in place of what.</param>
public sealed record StepVariant(string Id, string School, string Title)
{
    /// <summary>In the check test of a PVB the gauge is held level with the check.</summary>
    public static StepVariant LevelWithCheck { get; } =
        new("level-with-check", "pvb-inlet-first", "Check test: gauge level with the check, not with TC2");

    /// <summary>The cocks of an RP are opened 4, 3, 2, 1 and closed 1, 2, 3, 4.</summary>
    public static StepVariant FlushDownAndUp { get; } =
        new("flush-4-3-2-1", "rp-relief-first", "Flushing: open 4, 3, 2, 1, close 1, 2, 3, 4, not one by one");

    /// <summary>The bypass hose of an RP hangs loose on its cock and is bled at that coupling.</summary>
    public static StepVariant BleedBypassAtCock { get; } =
        new(
            "bleed-bypass-at-cock",
            "rp-relief-first",
            "Bypass hose: hung loose on TC4 and bled there, not purged in the hand"
        );

    /// <summary>The strainer of an RP is cleaned at every test, whether or not the register knows of one.</summary>
    public static StepVariant CleanStrainer { get; } =
        new(
            "clean-strainer",
            "rp-isolation-first",
            "Strainer: cleaned at every test, also where the register names none"
        );

    /// <summary>All of them.</summary>
    public static ImmutableArray<StepVariant> All { get; } =
    [LevelWithCheck, FlushDownAndUp, BleedBypassAtCock, CleanStrainer];

    /// <summary>The variant with this name, or null.</summary>
    public static StepVariant? Named(string? id) => All.FirstOrDefault(v => v.Id == id);

    /// <summary>What a school leaves open.</summary>
    public static IEnumerable<StepVariant> LeftOpenBy(string school) => All.Where(v => v.School == school);
}
