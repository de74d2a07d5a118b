using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Formats;

/// <summary>Writes rule profiles as <c>mordel.profile/1</c>.</summary>
public static class ProfileFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.profile/1";

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
                Quantity(json, a.Strict ? "above" : "atLeast", a.Limit.Amount, a.Limit.Unit.Symbol());
                break;
            case Criterion.AtLeastAbove b:
                json.WriteStartObject("atLeastAbove");
                json.WriteString("item", b.Item.Id);
                Quantity(json, "distance", b.Distance.Amount, b.Distance.Unit.Symbol());
                json.WriteEndObject();
                break;
            case Criterion.Tight: json.WriteBoolean("tight", true); break;
            case Criterion.Yes: json.WriteBoolean("yes", true); break;
            case Criterion.Clearance c:
                Quantity(json, "clearance", c.Floor.Amount, Length.Symbol(c.Floor.Unit));
                json.WriteNumber("timesPort", c.TimesPort);
                break;
        }
    }

    private static void Quantity(Utf8JsonWriter json, string name, decimal amount, string unit)
    {
        json.WriteStartObject(name);
        json.WriteNumber("value", amount);
        json.WriteString("unit", unit);
        json.WriteEndObject();
    }
}
