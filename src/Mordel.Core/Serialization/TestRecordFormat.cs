using System.Collections.Immutable;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>
/// A test record: assembly, school, profile, kit and results, as read from <c>mordel.test-record/1</c>.
/// </summary>
/// <param name="Subject">What is judged.</param>
/// <param name="Results">The answers.</param>
/// <param name="Previous">The answers of the test before, where the record gives them.</param>
public sealed record TestRecord(Subject Subject, Results Results, Results? Previous)
{
    /// <summary>The verdict.</summary>
    public Verdict Judge() => Verdicts.Judge.Weigh(Subject, Results, Previous);
}

/// <summary>Reads test records.</summary>
public static class TestRecordFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.test-record/1";

    private static readonly ImmutableArray<string> Kits = ["five-valve", "three-valve", "digital", "two-valve"];

    /// <summary>Reads a record.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when the record was read.</param>
    /// <returns>The record, or null when there are errors.</returns>
    /// <param name="profiles">The profiles that it may name; those that come with Mordel when left out.</param>
    public static TestRecord? Read(
        string json,
        out ImmutableArray<InputError> errors,
        IReadOnlyCollection<Profile>? profiles = null
    ) => Node.Read(json, out errors, (root, found) => Read(root, found, profiles ?? BuiltInProfiles.All));

    private static TestRecord? Read(Node root, List<InputError> errors, IReadOnlyCollection<Profile> profiles)
    {
        root.Format(Name);
        root.Only("format", "id", "assembly", "procedure", "profile", "kit", "results", "previous", "date", "remarks");
        AssemblyType? type = null;
        Length? port = null;
        if (root.Required("assembly") is { } assembly && assembly.IsObject())
        {
            type = assembly.Required("type")?.AssemblyType();
            assembly
                .Optional("body")
                ?.ValueOf<bool>(
                    t => Bodies.All.Any(b => b.Name == t && b.Type.Facts().HasChoiceOfBodies) ? true : null,
                    "a body; four-cock or three-tap"
                );
            if (assembly.Optional("body") is { } body && type is { } t && !t.Facts().HasChoiceOfBodies)
                body.Wrong($"only an RP has a choice of bodies, not a {t}");
            port = assembly.Optional("reliefPort")?.Length();
        }

        var profile = root.Required("profile") is { } named ? ProfileFormat.Named(named, profiles) : null;
        var school = profile is null || type is null ? null : School(root, profile, type.Value);
        var (accuracy, fullScale) = root.Optional("kit") is { } kit ? Kit(kit, type) : (null, null);
        var results = root.Required("results") is { } r && type is { } known ? Results(r, known) : null;
        var previous = root.Optional("previous") is { } p && type is { } same ? Results(p, same) : null;
        return errors.Count > 0 || school is null || results is null
            ? null
            : new(new(type!.Value, school, profile!, accuracy, fullScale, port), results, previous);
    }

    private static SchoolRules? School(Node root, Profile profile, AssemblyType type)
    {
        if (root.Optional("procedure") is not { } node)
            return profile.For(type);
        if (node.Text() is not { } id)
            return null;
        var schools = BuiltInProfiles.All.SelectMany(p => p.Schools).ToList();
        var known = schools.Find(s => s.ProcedureId == id);
        if (known is null)
            node.Wrong(
                $"\"{(id.Length > 60 ? id[..60] + "…" : id)}\" is not a procedure; "
                    + string.Join(", ", schools.Select(s => s.ProcedureId).Distinct())
            );
        else if (known.Type != type)
            node.Wrong($"{id} tests a {known.Type}, not a {type}");
        else if (profile.School(id) is null)
            node.Wrong(
                $"{profile.Id} has no rules for {id}; for a {type} it has {profile.For(type)?.ProcedureId ?? "none"}"
            );
        return profile.School(id);
    }

    private static (Differential? Accuracy, Differential? FullScale) Kit(Node kit, AssemblyType? type)
    {
        if (!kit.IsObject())
            return (null, null);
        var kind = kit.Optional("kind") is { } k
            ? k.OneOf(t => Kits.FirstOrDefault(n => n == t), $"a kit; {string.Join(", ", Kits)}")
            : null;
        if (kind == "two-valve" && type?.Facts().NeedsThreeHoses is not null)
            kit.Optional("kind")!
                .Value.Wrong(
                    "an RP test needs a bypass hose that a two-valve kit has not; use a three- or five-valve kit"
                );
        return (
            kit.Optional("accuracy")?.Differential(maybeNegative: false),
            (kit.Optional("range") ?? kit.Optional("fullScale"))?.Differential(maybeNegative: false)
        );
    }

    /// <summary>Writes answers as a member; the items in the order of reports.</summary>
    internal static void Write(Utf8JsonWriter json, string name, Results results)
    {
        json.WriteStartObject(name);
        foreach (var item in TestItem.All)
            if (results[item] is { } value)
                json.Write(item.Id, value);
        json.WriteEndObject();
    }

    /// <summary>Reads answers; errors go to the node's list.</summary>
    internal static Results? Results(Node node, AssemblyType type)
    {
        if (!node.IsObject())
            return null;
        var results = Verdicts.Results.None;
        foreach (var (name, value) in node.Members())
        {
            if (TestItem.Named(name) is not { } item)
                value.Wrong($"is not an item; known are {string.Join(", ", TestItem.All.Select(i => i.Id))}");
            else if (!item.AppliesTo(type))
                value.Wrong($"a {type} has no such item");
            else if (!value.IsNull && value.Value(item) is { } answer)
                results = results.With(item, answer);
        }

        return results;
    }
}
