using System.Collections.Immutable;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Rules;

/// <summary>What a profile says about one school (one procedure of one type).</summary>
/// <param name="ProcedureId">The procedure's id.</param>
/// <param name="Type">The type it tests.</param>
/// <param name="Unit">The unit its limits and readings are in.</param>
/// <param name="Items">The items in the order of the report.</param>
public sealed record SchoolRules(string ProcedureId, AssemblyType Type, DifferentialUnit Unit, ImmutableArray<ItemRule> Items)
{
    /// <summary>What is said about an item; null when the school does not know it.</summary>
    public ItemRule? For(TestItem item) => Items.FirstOrDefault(r => r.Item == item);

    /// <summary>Shutoffs that must be tight before anything read counts (handbook chapter 3).</summary>
    public ImmutableArray<TestItem> VoidsTheRest { get; init; } = [];

    /// <summary>How long a still needle is watched, in seconds; 0 until it is still.</summary>
    public int HoldSeconds { get; init; }

    /// <summary>Whether CV2 counts as tight when the needle comes to rest anywhere above the relief opening point; else it must be still after the first drop.</summary>
    public bool RestAboveReliefIsTight { get; init; }

    /// <summary>Whether the run sheet asks for an item: it is required, or the profile switches its step on.</summary>
    public bool Asks(TestItem item) => For(item) is { } rule && (rule.Requirement == Requirement.Required || rule.Asked);
}

/// <summary>The rules of one authority, in one version, with the dates between which it is in force.</summary>
/// <param name="Id">Stable name: <c>psid-standard</c>.</param>
/// <param name="Version">Counts up; a sealed run keeps the version that judged it.</param>
/// <param name="Name">What people call it.</param>
/// <param name="InForceFrom">First day.</param>
/// <param name="InForceUntil">Last day; null while it holds.</param>
/// <param name="Schools">Its schools.</param>
public sealed record Profile(
    string Id, int Version, string Name, DateOnly InForceFrom, DateOnly? InForceUntil, ImmutableArray<SchoolRules> Schools)
{
    /// <summary>Months between two tests when nothing else is said.</summary>
    public int IntervalMonths { get; init; } = 12;

    /// <summary>Days in which a failed assembly must be mended and tested again.</summary>
    public int RetestDays { get; init; } = 30;

    /// <summary>When the next test is due after one on a day: a pass starts the interval, anything else the deadline for another test.</summary>
    public DateOnly NextDue(DateOnly tested, bool passed) => passed ? tested.AddMonths(IntervalMonths) : tested.AddDays(RetestDays);

    /// <summary>Whether the profile holds on a day.</summary>
    public bool InForceOn(DateOnly day) => day >= InForceFrom && (InForceUntil is not { } until || day <= until);

    /// <summary>The rules for a procedure; null when the profile does not have that school.</summary>
    public SchoolRules? School(string procedure) => Schools.FirstOrDefault(s => s.ProcedureId == procedure);

    /// <summary>The school of a type; null when the profile has none.</summary>
    public SchoolRules? For(AssemblyType type) => Schools.FirstOrDefault(s => s.Type == type);
}
