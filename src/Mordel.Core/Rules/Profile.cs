using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Rules;

/// <summary>
/// The rules of one authority, in one version, with the dates between which it is in force. Valid by construction.
/// </summary>
public sealed record Profile
{
    /// <summary>
    /// The longest interval between two tests, in months, and the longest deadline for another test, in days.
    /// </summary>
    public const int LongestInterval = 120,
        LongestRetest = 3660;

    /// <summary>The most years for which reports are asked to be kept.</summary>
    public const int LongestKept = 100;

    /// <summary>The most days of grace, of a season's start and after an event.</summary>
    public const int LongestGrace = 365;

    /// <summary>A profile.</summary>
    /// <param name="id">Stable name: <c>psid-standard</c>.</param>
    /// <param name="version">Counts up from 1; a sealed run keeps the version that judged it.</param>
    /// <param name="name">What people call it.</param>
    /// <param name="inForceFrom">First day.</param>
    /// <param name="inForceUntil">Last day; null while it holds.</param>
    /// <param name="schools">Its schools, each procedure once.</param>
    /// <exception cref="ArgumentException">A name is missing, or a procedure stands twice.</exception>
    /// <exception cref="ArgumentOutOfRangeException">A version below 1.</exception>
    public Profile(
        string id,
        int version,
        string name,
        DateOnly inForceFrom,
        DateOnly? inForceUntil,
        EquatableArray<SchoolRules> schools
    )
    {
        ArgumentException.ThrowIfNullOrWhiteSpace(id);
        (Id, Version, Name, InForceFrom, InForceUntil, Schools) = (
            id,
            version,
            name,
            inForceFrom,
            inForceUntil,
            schools
        );
    }

    /// <summary>Stable name: <c>psid-standard</c>.</summary>
    public string Id { get; init; }

    /// <summary>Counts up from 1.</summary>
    public int Version
    {
        get;
        init
        {
            ArgumentOutOfRangeException.ThrowIfLessThan(value, 1);
            field = value;
        }
    }

    /// <summary>What people call it.</summary>
    public string Name { get; init; }

    /// <summary>First day in force.</summary>
    public DateOnly InForceFrom { get; init; }

    /// <summary>Last day in force; null while it holds.</summary>
    public DateOnly? InForceUntil { get; init; }

    /// <summary>Its schools.</summary>
    /// <exception cref="ArgumentException">A procedure stands twice.</exception>
    public EquatableArray<SchoolRules> Schools
    {
        get;
        init =>
            field =
                value.Select(s => s.ProcedureId).Distinct().Count() == value.Length
                    ? value
                    : throw new ArgumentException("A procedure stands twice in the profile.", nameof(value));
    }

    /// <summary>Months between two tests when nothing else is said, 1 to <see cref="LongestInterval"/>.</summary>
    public int IntervalMonths
    {
        get;
        init => field = InRange(value, LongestInterval);
    } = 12;

    /// <summary>
    /// Days in which a failed assembly must be mended and tested again, 1 to <see cref="LongestRetest"/>.
    /// </summary>
    public int RetestDays
    {
        get;
        init => field = InRange(value, LongestRetest);
    } = 30;

    /// <summary>
    /// Months between two tests of some assemblies, by class of use, hazard and type; the first that fits stands, and
    /// <see cref="IntervalMonths"/> where none does.
    /// </summary>
    public EquatableArray<TestInterval> Intervals { get; init; } = [];

    /// <summary>Days after a periodic test's day before it counts as missed, 0 to <see cref="LongestGrace"/>.</summary>
    public int GraceDays
    {
        get;
        init => field = InRange(value, LongestGrace, least: 0);
    }

    /// <summary>
    /// Days within which an assembly is tested after it was installed, moved, or after water ran back through it, 0 to
    /// <see cref="LongestGrace"/>.
    /// </summary>
    public int EventDays
    {
        get;
        init => field = InRange(value, LongestGrace, least: 0);
    } = 10;

    /// <summary>
    /// Days after the season's first day within which a seasonal line is tested, 0 to <see cref="LongestGrace"/>.
    /// </summary>
    public int StartUpDays
    {
        get;
        init => field = InRange(value, LongestGrace, least: 0);
    } = 30;

    /// <summary>What things are called on its reports, and what is declared there.</summary>
    public FormWords Words { get; init; } = FormWords.None;

    /// <summary>
    /// Years for which reports are to be kept, 0 to <see cref="LongestKept"/>; 0 where the authority says nothing.
    /// Nothing is ever thrown away here by itself: it is told with the archives.
    /// </summary>
    public int KeepYears
    {
        get;
        init => field = InRange(value, LongestKept, least: 0);
    }

    /// <summary>Months between two tests of such an assembly.</summary>
    public int MonthsFor(AssemblyType type, string hazard, string? use) =>
        Intervals.FirstOrDefault(i => i.Fits(type, hazard, use))?.Months ?? IntervalMonths;

    /// <summary>Whether the profile holds on a day.</summary>
    public bool InForceOn(DateOnly day) => day >= InForceFrom && (InForceUntil is not { } until || day <= until);

    /// <summary>The rules for a procedure; null when the profile does not have that school.</summary>
    public SchoolRules? School(string procedure) => Schools.FirstOrDefault(s => s.ProcedureId == procedure);

    /// <summary>The school of a type; null when the profile has none.</summary>
    public SchoolRules? For(AssemblyType type) => Schools.FirstOrDefault(s => s.Type == type);

    private static int InRange(int value, int most, int least = 1)
    {
        ArgumentOutOfRangeException.ThrowIfLessThan(value, least);
        ArgumentOutOfRangeException.ThrowIfGreaterThan(value, most);
        return value;
    }
}
