using System.Collections.Immutable;
using System.Globalization;
using System.Text;
using System.Text.Json;
using Mordel.Core.Rules;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

// How a profile is written.
public static partial class ProfileFormat
{
    /// <summary>One profile as text.</summary>
    /// <param name="profile">The profile.</param>
    /// <param name="indented">Whether for people to read; the canonical form, on one line, is not.</param>
    public static string Write(Profile profile, bool indented = true)
    {
        ArgumentNullException.ThrowIfNull(profile);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options with { Indented = indented }))
            Write(json, profile);
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
        if (profile.InForceUntil is { } until)
            json.WriteString("inForceUntil", until.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture));
        json.WriteNumber("intervalMonths", profile.IntervalMonths);
        json.WriteNumber("retestDays", profile.RetestDays);
        WriteDues(json, profile);
        if (profile.Words != FormWords.None)
            Write(json, "words", profile.Words);
        json.WriteStartArray("schools");
        foreach (var school in profile.Schools)
            Write(json, school);
        json.WriteEndArray();
        json.WriteEndObject();
    }

    // What a profile of an earlier version does not say is not written either: its hash stays what it was.
    private static void WriteDues(Utf8JsonWriter json, Profile profile)
    {
        if (!profile.Intervals.IsEmpty)
        {
            json.WriteStartArray("intervals");
            foreach (var interval in profile.Intervals)
            {
                json.WriteStartObject();
                if (interval.Use is { } use)
                    json.WriteString("use", use);
                if (interval.Hazard is { } hazard)
                    json.WriteString("hazard", hazard);
                if (interval.Type is { } type)
                    json.WriteString("type", type.ToString());
                json.WriteNumber("months", interval.Months);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        }

        if (profile.GraceDays != 0)
            json.WriteNumber("graceDays", profile.GraceDays);
        if (profile.EventDays != 10)
            json.WriteNumber("eventDays", profile.EventDays);
        if (profile.StartUpDays != 30)
            json.WriteNumber("startUpDays", profile.StartUpDays);
        if (profile.KeepYears != 0)
            json.WriteNumber("keepYears", profile.KeepYears);
    }

    private static void Write(Utf8JsonWriter json, SchoolRules school)
    {
        json.WriteStartObject();
        json.WriteString("procedure", school.ProcedureId);
        json.WriteString("type", school.Type.ToString());
        json.WriteString("unit", school.Unit.Symbol());
        json.WriteNumber("holdSeconds", school.HoldSeconds);
        json.WriteBoolean("restAboveReliefIsTight", school.RestAboveReliefIsTight);
        if (!school.Variants.IsEmpty)
            json.WriteStrings("variants", school.Variants.Select(v => v.Id));
        json.WriteStartArray("items");
        foreach (var rule in school.Items)
        {
            json.WriteStartObject();
            json.WriteString("item", rule.Item.Id);
            json.WriteString(
                "requirement",
                rule.Requirement switch
                {
                    Requirement.Required => "required",
                    Requirement.Optional => "optional",
                    _ => "recorded",
                }
            );
            json.WriteBoolean("onTheSheet", school.Asks(rule.Item));
            if (school.VoidsTheRest.Contains(rule.Item))
                json.WriteBoolean("voidsTheRest", true);
            foreach (var criterion in rule.Criteria)
                Write(json, criterion);
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
            case Criterion.Tight:
                json.WriteBoolean("tight", true);
                break;
            case Criterion.Yes:
                json.WriteBoolean("yes", true);
                break;
            case Criterion.Clearance c:
                json.Amount("clearance", c.Floor.Amount, Length.Symbol(c.Floor.Unit));
                json.WriteNumber("timesPort", c.TimesPort);
                break;
            case Criterion.LineAtLeast l:
                json.Amount(l.Strict ? "lineAbove" : "lineAtLeast", l.Limit.Amount, LinePressure.Symbol(l.Limit.Unit));
                break;
        }
    }
}
