using System.Collections.Immutable;
using System.Globalization;
using Mordel.Core.Catalogue;

namespace Mordel.Core.Rules;

/// <summary>One thing in which two profiles, or two versions of one, differ.</summary>
/// <param name="Where">The procedure; empty for what holds for all.</param>
/// <param name="What">What it is about.</param>
/// <param name="One">What the first says; a dash where it says nothing.</param>
/// <param name="Other">What the second says.</param>
public sealed record ProfileDifference(string Where, string What, string One, string Other)
{
    private const string Nothing = "–";

    /// <summary>
    /// All that differs, in the order of the first, then of what the second has besides. Names, versions and days in
    /// force are whose the rules are, not what they say.
    /// </summary>
    public static ImmutableArray<ProfileDifference> Between(Profile one, Profile other)
    {
        ArgumentNullException.ThrowIfNull(one);
        ArgumentNullException.ThrowIfNull(other);
        var (first, second) = (Said(one).ToList(), Said(other).ToList());
        var says = second.ToDictionary(s => (s.Where, s.What), s => s.Text);
        var known = first.Select(s => (s.Where, s.What)).ToHashSet();
        return
        [
            .. from s in first
            let then = says.GetValueOrDefault((s.Where, s.What), Nothing)
            where then != s.Text
            select new ProfileDifference(s.Where, s.What, s.Text, then),
            .. from s in second
            where !known.Contains((s.Where, s.What))
            select new ProfileDifference(s.Where, s.What, Nothing, s.Text),
        ];
    }

    // Everything that a profile says, each under a name that stands once.
    private static IEnumerable<(string Where, string What, string Text)> Said(Profile profile)
    {
        yield return ("", "Months between tests", Number(profile.IntervalMonths));
        if (!profile.Intervals.IsEmpty)
            yield return ("", "Other intervals", string.Join("; ", profile.Intervals.Select(IntervalText.Says)));
        yield return ("", "Days to mend and test again", Number(profile.RetestDays));
        yield return ("", "Days of grace", Number(profile.GraceDays));
        yield return ("", "Days to test after an event", Number(profile.EventDays));
        yield return ("", "Days to test after a start-up", Number(profile.StartUpDays));
        if (profile.KeepYears > 0)
            yield return ("", "Years that reports are kept", Number(profile.KeepYears));
        if (profile.Words.Title is { } title)
            yield return ("", "Title of the report", title);
        if (profile.Words.Declaration is { } declared)
            yield return ("", "Declared with the signature", declared);
        foreach (var name in profile.Words.Names)
            yield return ("", $"On the report, {TestItem.Named(name.What)?.Name ?? name.What}", name.Name);
        foreach (var school in profile.Schools)
        foreach (var (what, text) in Said(school))
            yield return (school.ProcedureId, what, text);
    }

    private static IEnumerable<(string What, string Text)> Said(SchoolRules school)
    {
        yield return ("Tests", $"{school.Type} in {school.Unit}");
        yield return ("Watch over a still needle", school.HoldSeconds == 0 ? "until still" : $"{school.HoldSeconds} s");
        if (school.RestAboveReliefIsTight)
            yield return ("CV2 at rest above the relief’s point", "counts as tight");
        foreach (var variant in school.Variants)
            yield return (variant.Title, "so");
        foreach (var rule in school.Items)
            yield return (rule.Item.Name, Says(school, rule));
    }

    private static string Says(SchoolRules school, ItemRule rule)
    {
        var demand = string.Join(" and ", rule.Criteria);
        var how = rule.Requirement switch
        {
            Requirement.Required => "required",
            Requirement.Optional => "when taken",
            _ => "recorded",
        };
        return string.Join(
            ", ",
            new[]
            {
                how,
                demand,
                rule.Asked ? "on the sheet" : "",
                school.VoidsTheRest.Contains(rule.Item) ? "if it leaks, nothing counts" : "",
            }.Where(w => w.Length > 0)
        );
    }

    private static string Number(int number) => number.ToString(CultureInfo.InvariantCulture);
}
