using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Formats;

/// <summary>Reads and writes rule profiles as <c>mordel.profile/1</c>.</summary>
public static class ProfileFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.profile/1";

    /// <summary>Reads one profile.</summary>
    /// <returns>The profile, or null when there are faults.</returns>
    public static Profile? Read(string json, out ImmutableArray<Fault> faults)
    {
        var found = new List<Fault>();
        var profile = Node.Root(json, found) is { } root && root.IsObject() ? Read(root) : null;
        faults = [.. found];
        return found.Count == 0 ? profile : null;
    }

    private static Profile? Read(Node root)
    {
        root.Required("format")?.ValueOf<bool>(t => t == Name ? true : null, $"a format that is read here; {Name}");
        var (id, version, name) = (root.Required("profile")?.Text(60), root.Required("version")?.Whole(1, 100_000), root.Required("name")?.Text(120));
        var (from, until) = (Day(root.Required("inForceFrom")), Day(root.Optional("inForceUntil")));
        var (months, days) = (root.Required("intervalMonths")?.Whole(1, 120), root.Required("retestDays")?.Whole(1, 3660));
        var schools = (root.Required("schools")?.Elements() ?? []).Select(School).ToList();
        if (id is null || version is not { } v || name is null || from is not { } start || months is not { } m || days is not { } d || schools.Exists(s => s is null)) return null;
        return new(id, (int)v, name, start, until, [.. schools.Select(s => s!)]) { IntervalMonths = (int)m, RetestDays = (int)d };
    }

    private static DateOnly? Day(Node? node) => node is { IsNull: false } day
        ? day.ValueOf<DateOnly>(t => DateOnly.TryParseExact(t, "yyyy-MM-dd", CultureInfo.InvariantCulture, DateTimeStyles.None, out var x) ? x : null, "a day; yyyy-mm-dd") : null;

    private static SchoolRules? School(Node node)
    {
        var known = node.Required("procedure")?.OneOf(t => BuiltInProfiles.All.SelectMany(p => p.Schools).FirstOrDefault(s => s.ProcedureId == t), "a procedure");
        var unit = node.Required("unit")?.ValueOf(DifferentialUnits.Parse, "a unit of differential pressure; psid or kPa");
        var (hold, rest) = (node.Required("holdSeconds")?.Whole(0, 3600), node.Required("restAboveReliefIsTight")?.YesNo());
        var rules = (node.Required("items")?.Elements() ?? []).Select(Rule).ToList();
        if (known is null || unit is not { } u || hold is not { } h || rest is not { } r || rules.Exists(x => x.Rule is null)) return null;
        return new(known.ProcedureId, known.Type, u, [.. rules.Select(x => x.Rule!)])
        { HoldSeconds = (int)h, RestAboveReliefIsTight = r, VoidsTheRest = [.. rules.Where(x => x.Voids).Select(x => x.Rule!.Item)] };
    }

    private static (ItemRule? Rule, bool Voids) Rule(Node node)
    {
        var item = node.Required("item")?.OneOf(TestItem.Named, "an item");
        var requirement = node.Required("requirement")?.ValueOf<Requirement>(t => t switch { "required" => Requirement.Required, "optional" => Requirement.Optional, "recorded" => Requirement.Recorded, _ => null }, "a requirement; required, optional or recorded");
        var asked = node.Required("onTheSheet")?.YesNo();
        var criteria = new List<Criterion>();
        if (node.Optional("atLeast")?.Differential() is { } least) criteria.Add(new Criterion.AtLeast(least));
        if (node.Optional("above")?.Differential() is { } above) criteria.Add(new Criterion.AtLeast(above, Strict: true));
        if (node.Optional("atLeastAbove") is { } over && over.Required("item")?.OneOf(TestItem.Named, "an item") is { } other && over.Required("distance")?.Differential() is { } distance)
            criteria.Add(new Criterion.AtLeastAbove(other, distance));
        if (node.Optional("tight")?.YesNo() == true) criteria.Add(new Criterion.Tight());
        if (node.Optional("yes")?.YesNo() == true) criteria.Add(new Criterion.Yes());
        if (node.Optional("clearance")?.Length() is { } floor) criteria.Add(new Criterion.Clearance(floor, node.Optional("timesPort")?.Number() ?? 0m));
        if (item is null || requirement is not { } must || asked is not { } ask) return (null, false);
        return (new(item, must, [.. criteria]) { Asked = ask && must != Requirement.Required }, node.Optional("voidsTheRest")?.YesNo() == true);
    }

    /// <summary>One profile.</summary>
    public static string Write(Profile profile)
    {
        ArgumentNullException.ThrowIfNull(profile);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = true })) Write(json, profile);
        return Encoding.UTF8.GetString(stream.ToArray());
    }

    private static void Write(Utf8JsonWriter json, Profile profile)
    {
        json.WriteStartObject();
        json.WriteString("format", Name);
        json.WriteString("profile", profile.Id);
        json.WriteNumber("version", profile.Version);
        json.WriteString("name", profile.Name);
        json.WriteString("inForceFrom", profile.InForceFrom.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        if (profile.InForceUntil is { } until) json.WriteString("inForceUntil", until.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        json.WriteNumber("intervalMonths", profile.IntervalMonths);
        json.WriteNumber("retestDays", profile.RetestDays);
        json.WriteStartArray("schools");
        foreach (var school in profile.Schools) Write(json, school);
        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, SchoolRules school)
    {
        json.WriteStartObject();
        json.WriteString("procedure", school.ProcedureId);
        json.WriteString("type", school.Type.ToString());
        json.WriteString("unit", school.Unit.Symbol());
        json.WriteNumber("holdSeconds", school.HoldSeconds);
        json.WriteBoolean("restAboveReliefIsTight", school.RestAboveReliefIsTight);
        json.WriteStartArray("items");
        foreach (var rule in school.Items)
        {
            json.WriteStartObject();
            json.WriteString("item", rule.Item.Id);
            json.WriteString("requirement", rule.Requirement switch { Requirement.Required => "required", Requirement.Optional => "optional", _ => "recorded" });
            json.WriteBoolean("onTheSheet", school.Asks(rule.Item));
            if (school.VoidsTheRest.Contains(rule.Item)) json.WriteBoolean("voidsTheRest", true);
            foreach (var criterion in rule.Criteria) Write(json, criterion);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static void Write(Utf8JsonWriter json, Criterion criterion)
    {
        switch (criterion)
        {
            case Criterion.AtLeast a:
                json.Amount(a.Strict ? "above" : "atLeast", a.Limit.Amount, a.Limit.Unit.Symbol());
                break;
            case Criterion.AtLeastAbove b:
                json.WriteStartObject("atLeastAbove");
                json.WriteString("item", b.Item.Id);
                json.Amount("distance", b.Distance.Amount, b.Distance.Unit.Symbol());
                json.WriteEndObject();
                break;
            case Criterion.Tight: json.WriteBoolean("tight", true); break;
            case Criterion.Yes: json.WriteBoolean("yes", true); break;
            case Criterion.Clearance c:
                json.Amount("clearance", c.Floor.Amount, Length.Symbol(c.Floor.Unit));
                json.WriteNumber("timesPort", c.TimesPort);
                break;
        }
    }
}
