using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes rule profiles as <c>mordel.profile/1</c>.</summary>
public static partial class ProfileFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.profile/1";

    private static readonly ImmutableDictionary<string, SchoolRules> Known = BuiltInProfiles
        .All.SelectMany(p => p.Schools.Elements)
        .DistinctBy(s => s.ProcedureId)
        .ToImmutableDictionary(s => s.ProcedureId);

    /// <summary>Reads one profile that somebody hands in.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <returns>The profile, or null when there are errors.</returns>
    public static Profile? Read(string json, out ImmutableArray<InputError> errors) =>
        Read(json, asKept: false, out errors);

    /// <summary>
    /// Reads a profile that was kept earlier: its schools may have gone since, and rules that were once allowed to have
    /// no limit get the weakest one that can be failed.
    /// </summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <returns>The profile, or null when there are errors.</returns>
    public static Profile? ReadKept(string json, out ImmutableArray<InputError> errors) =>
        Read(json, asKept: true, out errors);

    private static Profile? Read(string json, bool asKept, out ImmutableArray<InputError> errors) =>
        Node.Read(json, out errors, (root, _) => Read(root, asKept));

    /// <summary>A profile where another document asks for one: by its name, or in full.</summary>
    /// <param name="node">Where it stands.</param>
    /// <param name="profiles">Those that may be named, each id once.</param>
    public static Profile? Named(Node node, IReadOnlyCollection<Profile> profiles) =>
        node.LooksLikeObject
            ? Read(node, asKept: false)
            : node.OneOf(
                t => profiles.FirstOrDefault(p => p.Id == t),
                $"a profile; {string.Join(", ", profiles.Select(p => p.Id).Distinct())}"
            );

    /// <summary>Reads a profile that stands inside another document; errors go to the node's list.</summary>
    /// <param name="root">Where it stands.</param>
    /// <param name="asKept">Whether it is read as <see cref="ReadKept"/> does.</param>
    public static Profile? Read(Node root, bool asKept)
    {
        var before = root.ErrorCount;
        root.Format(Name);
        var (id, version, name) = (
            Words(root, "profile", 60),
            root.Required("version")?.Whole(1, 100_000),
            Words(root, "name", 120)
        );
        var (from, until) = (Day(root.Required("inForceFrom")), Day(root.Optional("inForceUntil")));
        var months = root.Required("intervalMonths")?.Whole(1, Profile.LongestInterval);
        var days = root.Required("retestDays")?.Whole(1, Profile.LongestRetest);
        var grace = root.Optional("graceDays")?.Whole(0, Profile.LongestGrace) ?? 0;
        var afterEvent = root.Optional("eventDays")?.Whole(0, Profile.LongestGrace) ?? 10;
        var startUp = root.Optional("startUpDays")?.Whole(0, Profile.LongestGrace) ?? 30;
        var keep = root.Optional("keepYears")?.Whole(0, Profile.LongestKept) ?? 0;
        var intervals = (root.Optional("intervals")?.Elements() ?? []).Select(Interval).ToList();
        var words = root.Optional("words") is { } form ? FormWordsOf(form) : FormWords.None;
        var nodes = (root.Required("schools")?.Elements() ?? []).ToList();
        var schools = nodes.Select(n => (Node: n, Rules: School(n, asKept))).ToList();
        foreach (
            var (node, rules) in schools
                .Where(s => s.Rules is not null)
                .GroupBy(s => s.Rules!.ProcedureId)
                .SelectMany(g => g.Skip(1))
        )
            node.Wrong($"{rules!.ProcedureId} stands twice");
        if (
            id is null
            || version is not { } v
            || name is null
            || from is not { } start
            || months is not { } m
            || days is not { } d
        )
            return null;
        if (root.ErrorCount > before || schools.Exists(s => s.Rules is null))
            return null;
        return new(id, (int)v, name, start, until, [.. schools.Select(s => s.Rules!)])
        {
            IntervalMonths = (int)m,
            RetestDays = (int)d,
            GraceDays = (int)grace,
            EventDays = (int)afterEvent,
            StartUpDays = (int)startUp,
            KeepYears = (int)keep,
            Intervals = [.. intervals.OfType<TestInterval>()],
            Words = words,
        };
    }

    private static TestInterval? Interval(Node node)
    {
        if (!node.IsObject())
            return null;
        var use = node.Optional("use")?.Text(60);
        var hazard = node.Optional("hazard")?.OneOf(t => t is "high" or "low" ? t : null, "a hazard; high or low");
        var type = node.Optional("type")?.AssemblyType();
        return node.Required("months")?.Whole(1, Profile.LongestInterval) is { } months
            ? new((int)months, use, hazard, type)
            : null;
    }

    private static string? Words(Node root, string name, int most)
    {
        if (root.Required(name) is not { } node || node.Text(most) is not { } text)
            return null;
        if (!string.IsNullOrWhiteSpace(text))
            return text;
        node.Wrong("some words are wanted here");
        return null;
    }

    private static DateOnly? Day(Node? node) =>
        node is { IsNull: false } day
            ? day.ValueOf<DateOnly>(
                t =>
                    DateOnly.TryParseExact(
                        t,
                        "yyyy-MM-dd",
                        CultureInfo.InvariantCulture,
                        DateTimeStyles.None,
                        out var x
                    )
                        ? x
                        : null,
                "a day; yyyy-mm-dd"
            )
            : null;

    private static SchoolRules? School(Node node, bool asKept)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        var type = node.Required("type")?.AssemblyType();
        var procedure = node.Required("procedure");
        var id = asKept
            ? procedure?.Text(60)
            : procedure?.OneOf(
                t => Known.ContainsKey(t) ? t : null,
                $"a procedure; {string.Join(", ", Known.Keys.Order(StringComparer.Ordinal))}"
            );
        if (!asKept && id is not null && type is { } wrong && Known[id].Type != wrong)
            node.Optional("type")!.Value.Wrong($"{id} tests a {Known[id].Type}");
        var unit = node.Required("unit")
            ?.ValueOf(DifferentialUnits.Parse, "a unit of differential pressure; psid or kPa");
        var hold = node.Required("holdSeconds")?.Whole(0, SchoolRules.LongestHold);
        var rest = node.Required("restAboveReliefIsTight")?.YesNo();
        var items = node.Required("items");
        var rules = (items?.Elements() ?? []).Select(n => Rule(n, asKept)).ToList();
        if (
            id is null
            || type is not { } t
            || unit is not { } u
            || hold is not { } h
            || rest is not { } r
            || rules.Exists(x => x.Rule is null)
        )
            return null;
        EquatableArray<ItemRule> all = [.. rules.Select(x => x.Rule!)];
        if (SchoolRules.WhyNot(t, all) is { } why)
        {
            items!.Value.Wrong(why);
            return null;
        }

        foreach (
            var (rule, voids, place) in rules.Where(x =>
                x.Voids && (x.Rule!.Requirement == Requirement.Recorded || x.Rule.Item.Kind != ItemKind.TightOrLeaks)
            )
        )
            place.Wrong($"{rule!.Item.Id} can void the rest only where it is judged tight");
        EquatableArray<StepVariant> variants =
        [
            .. (node.Optional("variants")?.Elements() ?? [])
                .Select(n =>
                    n.OneOf(
                        v => StepVariant.LeftOpenBy(id).FirstOrDefault(x => x.Id == v),
                        $"a way that {id} leaves open; " + string.Join(", ", LeftOpen(id))
                    )
                )
                .OfType<StepVariant>(),
        ];
        if (node.ErrorCount > before)
            return null;
        return new(id, t, u, all)
        {
            Variants = variants,
            HoldSeconds = (int)h,
            RestAboveReliefIsTight = r,
            VoidsTheRest = [.. rules.Where(x => x.Voids).Select(x => x.Rule!.Item)],
        };
    }

    private static (ItemRule? Rule, bool Voids, Node Place) Rule(Node node, bool asKept)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return (null, false, node);
        var item = node.Required("item")?.OneOf(TestItem.Named, "an item");
        var requirement = node.Required("requirement")?.ValueOf(Named, "a requirement; required, optional or recorded");
        var asked = node.Required("onTheSheet")?.YesNo();
        var criteria = Criteria(node);
        var voids = node.Optional("voidsTheRest")?.YesNo() == true;
        if (item is null || requirement is not { } must || asked is not { } ask || node.ErrorCount > before)
            return (null, false, node);
        if (asKept)
            criteria =
                must == Requirement.Recorded ? []
                : criteria.IsEmpty ? [Weakest(item)]
                : criteria;
        if (ItemRule.WhyNot(item, must, criteria) is { } why)
        {
            node.Wrong(why);
            return (null, false, node);
        }

        return (new(item, must, criteria) { Asked = ask && must != Requirement.Required }, voids, node);
    }

    private static EquatableArray<Criterion> Criteria(Node node)
    {
        var criteria = ImmutableArray.CreateBuilder<Criterion>();
        if (node.Optional("atLeast")?.Differential(maybeNegative: false) is { } least)
            criteria.Add(new Criterion.AtLeast(least));
        if (node.Optional("above")?.Differential(maybeNegative: false) is { } above)
            criteria.Add(new Criterion.AtLeast(above, Strict: true));
        if (node.Optional("atLeastAbove") is { } over && over.IsObject())
        {
            var (other, distance) = (
                over.Required("item")?.OneOf(TestItem.Named, "an item"),
                over.Required("distance")?.Differential()
            );
            if (other is not null && distance is { } d)
                criteria.Add(new Criterion.AtLeastAbove(other, d));
        }

        if (node.Optional("tight")?.YesNo() == true)
            criteria.Add(new Criterion.Tight());
        if (node.Optional("yes")?.YesNo() == true)
            criteria.Add(new Criterion.Yes());
        if (node.Optional("clearance")?.Length() is { } floor)
            criteria.Add(new Criterion.Clearance(floor, node.Optional("timesPort")?.Number() ?? 0m));
        if (node.Optional("lineAtLeast")?.LinePressure() is { } line)
            criteria.Add(new Criterion.LineAtLeast(line));
        if (node.Optional("lineAbove")?.LinePressure() is { } higher)
            criteria.Add(new Criterion.LineAtLeast(higher, Strict: true));
        return criteria.ToImmutable();
    }

    private static Criterion Weakest(TestItem item) =>
        item.Kind switch
        {
            ItemKind.Differential => new Criterion.AtLeast(Differential.Psid(0m)),
            ItemKind.TightOrLeaks => new Criterion.Tight(),
            ItemKind.TrueOrFalse => new Criterion.Yes(),
            ItemKind.LinePressure => new Criterion.LineAtLeast(new(0m, LinePressureUnit.Psi), Strict: true),
            _ => new Criterion.Clearance(new(1m, LengthUnit.Millimetre), 0m),
        };

    private static Requirement? Named(string text) =>
        text switch
        {
            "required" => Requirement.Required,
            "optional" => Requirement.Optional,
            "recorded" => Requirement.Recorded,
            _ => null,
        };

    private static IEnumerable<string> LeftOpen(string id) =>
        StepVariant.LeftOpenBy(id).Select(x => x.Id).DefaultIfEmpty("it leaves none");
}
