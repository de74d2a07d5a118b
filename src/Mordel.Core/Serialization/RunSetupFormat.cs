using System.Collections.Immutable;
using System.Globalization;
using System.Text.Json;
using Mordel.Core.Dues;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>Supplies the parts of setups that many runs share, by the hash of their canonical text.</summary>
public interface ISetupParts
{
    /// <summary>The profile with this hash; null when it is not there or not readable.</summary>
    Profile? Profile(string hash);

    /// <summary>The sheet with this hash, for a setup; null when it is not there or not readable.</summary>
    RunSheet? Sheet(string hash, Setup setup);

    /// <summary>The text with this hash; null when it is not there.</summary>
    string? Text(string hash);
}

/// <summary>
/// Reads and writes <c>mordel.run-setup/1</c>. Its canonical form names profile and sheet by their hashes, so that a
/// thousand runs share one text; the complete form, for whoever takes a run along, holds both in full. Either gives the
/// other.
/// </summary>
public static partial class RunSetupFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.run-setup/1";

    private const string Seasonal = "seasonal";

    private static void Part(Utf8JsonWriter json, string name, string text, bool complete)
    {
        json.WritePropertyName(name);
        if (complete)
        {
            json.WriteRawValue(text);
            return;
        }

        json.WriteStartObject();
        json.WriteString("sha256", ContentHash.Compute(text));
        json.WriteEndObject();
    }

    private static readonly string[] Flows = ["left-to-right", "right-to-left", "upward", "downward"];

    /// <summary>Reads either form.</summary>
    /// <param name="json">The text.</param>
    /// <param name="parts">Where profile and sheet are fetched that stand by hash only; null where none can be.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    public static RunSetup? Read(string json, ISetupParts? parts, out ImmutableArray<InputError> errors)
    {
        var found = new List<InputError>();
        var setup = Node.Root(json, found, Node.DeepestKept) is { } root && root.IsObject() ? Read(root, parts) : null;
        errors = [.. found];
        return found.Count == 0 ? setup : null;
    }

    /// <summary>Reads either form where it stands inside another document; errors go to the node's list.</summary>
    public static RunSetup? Read(Node root, ISetupParts? parts)
    {
        var before = root.ErrorCount;
        root.Format(Name);
        var run = root.Required("run")?.Id();
        var stop = root.Optional("stop")?.Id();
        var seasonal = root.Optional("visit")
            ?.ValueOf<bool>(t => t == Seasonal ? true : null, "a kind of visit; seasonal");
        var number = root.Required("number")?.Text(120);
        var begun = root.Required("begunAt")?.Instant();
        var later = root.Optional("writtenDownAt")?.Instant();
        var assembly = root.Required("assembly") is { } a && a.IsObject() ? Assembly(a) : null;
        var place = root.Required("place") is { } p && p.IsObject() ? Place(p) : null;
        var kit = root.Required("kit") is { } k && k.IsObject() ? Kit(k) : null;
        var tester = root.Required("tester") is { } t && t.IsObject() ? Tester(t) : null;
        var repair = root.Optional("repair") is { } r ? RepairFactsFormat.Read(r) : null;
        var consent = root.Optional("consent") is { } c && c.IsObject() ? Consent(c) : null;
        var profile = root.Required("profile") is { } named ? Profile(named, parts) : null;
        if (
            root.ErrorCount > before
            || assembly is null
            || place is null
            || kit is null
            || tester is null
            || profile is null
        )
            return null;
        var rules = root.Required("procedure")
            ?.OneOf(
                t => profile.School(t) is { } school && school.Type == assembly.Type ? school : null,
                $"a procedure for a {assembly.Type} that the profile has rules for"
            );
        var sheet =
            rules is not null && root.Required("sheet") is { } s
                ? Sheet(s, parts, new(new Rig(assembly.Parts, kit.Kit), rules) { Seasonal = seasonal == true })
                : null;
        return sheet is null || root.ErrorCount > before
            ? null
            : new()
            {
                Run = run!.Value,
                Stop = stop,
                Number = number!,
                BegunAt = begun!.Value,
                WrittenDownAt = later,
                Assembly = assembly,
                Place = place,
                Kit = kit,
                Tester = tester,
                Repair = repair,
                Consent = consent,
                Profile = profile,
                Sheet = sheet,
            };
    }

    private static Profile? Profile(Node node, ISetupParts? parts)
    {
        if (node.Optional("sha256") is not { } hash)
            return ProfileFormat.Read(node, asKept: true);
        return hash.OneOf(h => parts?.Profile(h), "the hash of a profile that is kept here");
    }

    private static RunSheet? Sheet(Node node, ISetupParts? parts, Setup setup)
    {
        if (node.Optional("sha256") is { } hash)
            return hash.OneOf(h => parts?.Sheet(h, setup), "the hash of a sheet that is kept here");
        return RunSheetReader.Read(node, setup);
    }

    private static AssemblyFacts? Assembly(Node node)
    {
        var before = node.ErrorCount;
        string Words(string name, int most = 200) => node.Required(name)?.Text(most) ?? "";
        bool Has(string name) => node.Optional(name)?.YesNo() ?? false;
        var type = node.Required("type")?.AssemblyType();
        var flow = node.Required("flow")
            ?.ValueOf<FlowDirection>(
                t => Array.IndexOf(Flows, t) is >= 0 and var at ? (FlowDirection)at : null,
                $"how it lies; {string.Join(", ", Flows)}"
            );
        var id = node.Required("id")?.Id();
        var installed = node.Required("installedOn")?.Day();
        var facts = new AssemblyFacts
        {
            Id = id ?? default,
            Tag = Words("tag"),
            Type = type ?? default,
            Body = node.Optional("body")?.Text(40),
            Features = new(Has("strainer"), Has("fittedCocks"), Has("bypassLine")),
            Make = Words("make"),
            Model = Words("model"),
            Size = Words("size"),
            Serial = Words("serial"),
            Flow = flow ?? default,
            Location = Words("location", 2_000),
            Serves = Words("serves"),
            Hazard = Words("hazard", 40),
            Protection = Words("protection", 40),
            FireLine = Has("fireLine"),
            Use = node.Optional("use")?.Text(60),
            Season = node.Optional("season")
                ?.ValueOf<Season>(t => Season.Parse(t), "a season; 04-15..10-15, from its first day to its last"),
            ReliefPort = node.Optional("reliefPort")?.Length(),
            InstalledOn = installed ?? default,
        };
        return node.ErrorCount > before ? null : facts;
    }

    private static GivenConsent? Consent(Node node)
    {
        var name = node.Required("name")?.Text(GivenConsent.LongestName);
        var at = node.Required("at")?.Instant();
        var day = node.Required("day")?.Day();
        var from = node.Required("from")?.ValueOf<TimeOnly>(Clock, "a time of day; 10:00");
        var until = node.Required("until")?.ValueOf<TimeOnly>(Clock, "a time of day; 11:30");
        return name is null || at is null || day is null || from is null || until is null
            ? null
            : new(name, at.Value, day.Value, from.Value, until.Value);
    }

    private static TimeOnly? Clock(string text) =>
        TimeOnly.TryParseExact(text, "HH:mm", CultureInfo.InvariantCulture, DateTimeStyles.None, out var at)
            ? at
            : null;

    private static PlaceFacts? Place(Node node)
    {
        var before = node.ErrorCount;
        string Words(string name) => node.Required(name)?.Text() ?? "";
        var facts = new PlaceFacts(
            Words("name"),
            Words("address"),
            Words("district"),
            Words("owner"),
            Words("ownerAddress"),
            Words("ownerPhone"),
            Words("contact"),
            Words("authority")
        );
        return node.ErrorCount > before ? null : facts;
    }

    private static KitFacts? Kit(Node node)
    {
        var before = node.ErrorCount;
        string Words(string name) => node.Required(name)?.Text(200) ?? "";
        var unit = node.Required("unit")
            ?.ValueOf(DifferentialUnits.Parse, "a unit of differential pressure; psid or kPa")
            ?? default;
        Differential Of(string name) =>
            node.Required(name)?.Number() is { } amount and >= 0 and <= Differential.Largest
                ? new(amount, unit)
                : Outside(name);
        Differential Outside(string name)
        {
            node.Optional(name)?.Wrong($"must lie between 0 and {Differential.Largest}");
            return default;
        }

        var kind = node.Required("kind")
            ?.OneOf(Rigs.Kit.Named, $"a kit; {string.Join(", ", Rigs.Kit.All.Select(k => k.Name))}");
        var (id, on, due) = (
            node.Required("id")?.Id(),
            node.Required("calibratedOn")?.Day(),
            node.Required("calibrationDue")?.Day()
        );
        var (make, model, serial, by) = (Words("make"), Words("model"), Words("serial"), Words("calibratedBy"));
        var (resolution, accuracy, fullScale) = (Of("resolution"), Of("accuracy"), Of("fullScale"));
        return node.ErrorCount > before
            ? null
            : new()
            {
                Id = id!.Value,
                Kit = kind!,
                Make = make,
                Model = model,
                Serial = serial,
                Resolution = resolution,
                Accuracy = accuracy,
                FullScale = fullScale,
                CalibratedOn = on!.Value,
                CalibratedBy = by,
                CalibrationDue = due!.Value,
            };
    }

    private static TesterFacts? Tester(Node node)
    {
        var before = node.ErrorCount;
        var (id, name) = (node.Required("id")?.Id(), node.Required("name")?.Text(200));
        var certificate = node.Optional("certificate") is { } c && c.IsObject() ? Certificate(c) : null;
        return node.ErrorCount > before ? null : new(id!.Value, name!, certificate);
    }

    /// <summary>Reads a certificate; errors go to the node's list.</summary>
    internal static CertificateFacts? Certificate(Node node)
    {
        var before = node.ErrorCount;
        var (number, by) = (node.Required("number")?.Text(200), node.Required("issuedBy")?.Text(200));
        var types = (node.Required("types")?.Elements() ?? []).Select(n => n.AssemblyType()).ToList();
        var (from, until) = (node.Required("from")?.Day(), node.Required("until")?.Day());
        var (authority, kind) = (node.Optional("authority")?.Text(200), node.Optional("class")?.Text(60));
        return node.ErrorCount > before
            ? null
            : new(number!, by!, [.. types.OfType<AssemblyType>()], from!.Value, until!.Value)
            {
                Authority = authority,
                Class = kind,
            };
    }
}
