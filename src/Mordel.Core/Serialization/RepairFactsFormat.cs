using System.Text.Json;
using Mordel.Core.Collections;
using Mordel.Core.Runs;

namespace Mordel.Core.Serialization;

/// <summary>Reads and writes the repair that a test follows, as the member <c>repair</c> of a run's setup.</summary>
internal static class RepairFactsFormat
{
    private const int LongestText = 4_000;

    /// <summary>Writes it as the member <c>repair</c>.</summary>
    public static void Write(Utf8JsonWriter json, RepairFacts facts)
    {
        json.WriteStartObject("repair");
        json.WriteString("id", facts.Repair.ToString("D"));
        json.WriteInstant("begunAt", facts.BegunAt);
        json.WriteInstant("closedAt", facts.ClosedAt);
        json.WriteString("by", facts.By);
        if (facts.Permission is { } permission)
            json.WriteString("permission", permission);
        if (facts.Failed is { } failed)
            Write(json, failed);
        json.WriteStrings("found", facts.Found);
        json.WriteStrings("done", facts.Done);
        json.WriteStrings("used", facts.Used);
        json.WriteStrings("stopgaps", facts.Stopgaps);
        json.WriteStrings("notes", facts.Notes);
        WritePhotos(json, facts.Photos);
        json.WriteEndObject();
    }

    /// <summary>Reads it; errors go to the node's list.</summary>
    public static RepairFacts? Read(Node node)
    {
        var before = node.ErrorCount;
        if (!node.IsObject())
            return null;
        EquatableArray<string> Texts(string name) => node.Texts(name, LongestText);
        var (id, begun, closed, by) = (
            node.Required("id")?.Id(),
            node.Required("begunAt")?.Instant(),
            node.Required("closedAt")?.Instant(),
            node.Required("by")?.Text(200)
        );
        var permission = node.Optional("permission")?.Text(LongestText);
        var failed = node.Optional("failed") is { } f && f.IsObject() ? Failed(f) : null;
        var (found, done, used) = (Texts("found"), Texts("done"), Texts("used"));
        var (stopgaps, notes) = (Texts("stopgaps"), Texts("notes"));
        var photos = Photos(node);
        return node.ErrorCount > before
            ? null
            : new()
            {
                Repair = id!.Value,
                BegunAt = begun!.Value,
                ClosedAt = closed!.Value,
                By = by!,
                Permission = permission,
                Failed = failed,
                Found = found,
                Done = done,
                Used = used,
                Stopgaps = stopgaps,
                Notes = notes,
                Photos = photos,
            };
    }

    /// <summary>Writes pictures as the member <c>photos</c>.</summary>
    public static void WritePhotos(Utf8JsonWriter json, EquatableArray<RepairPhoto> photos)
    {
        json.WriteStartArray("photos");
        foreach (var photo in photos)
        {
            json.WriteStartObject();
            json.WriteString("sha256", photo.Sha256);
            json.WriteString("of", photo.Of);
            json.WriteEndObject();
        }

        json.WriteEndArray();
    }

    /// <summary>Reads the member <c>photos</c>; errors go to the node's list.</summary>
    public static EquatableArray<RepairPhoto> Photos(Node node) =>
        [
            .. (node.Required("photos")?.Elements() ?? []).Select(n => new RepairPhoto(
                n.Required("sha256")?.Text(64) ?? "",
                n.Required("of")?.Text(LongestText) ?? ""
            )),
        ];

    private static void Write(Utf8JsonWriter json, FailedTest failed)
    {
        json.WriteStartObject("failed");
        json.WriteString("number", failed.Number);
        json.WriteInstant("at", failed.At);
        json.WriteString("outcome", failed.Outcome);
        json.WriteStartArray("initial");
        foreach (var reading in failed.Initial)
        {
            json.WriteStartObject();
            json.WriteString("item", reading.Item);
            json.WriteString("value", reading.Value);
            json.WriteString("limit", reading.Limit);
            json.WriteString("result", reading.Result);
            json.WriteEndObject();
        }

        json.WriteEndArray();
        json.WriteEndObject();
    }

    private static FailedTest? Failed(Node node)
    {
        var before = node.ErrorCount;
        var (number, at, outcome) = (
            node.Required("number")?.Text(120),
            node.Required("at")?.Instant(),
            node.Required("outcome")?.Text(40)
        );
        EquatableArray<InitialReading> initial =
        [
            .. (node.Required("initial")?.Elements() ?? []).Select(n => new InitialReading(
                n.Required("item")?.Text(200) ?? "",
                n.Required("value")?.Text(200) ?? "",
                n.Required("limit")?.Text(200) ?? "",
                n.Required("result")?.Text(40) ?? ""
            )),
        ];
        return node.ErrorCount > before ? null : new(number!, at!.Value, outcome!, initial);
    }
}
