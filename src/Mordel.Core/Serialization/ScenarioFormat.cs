using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Simulation;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

/// <summary>Reads <c>mordel.scenario/1</c>: what is true of a rig, and by which school it is tested.</summary>
public static partial class ScenarioFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.scenario/1";

    // Inches: what no one holds a gauge off by, what no outlet hangs at.
    private const double FarthestGauge = 60,
        FarthestOutlet = 400;

    /// <summary>Reads a scenario.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <returns>The scenario, or null when there are errors.</returns>
    /// <param name="profiles">The profiles that it may name; those that come with Mordel when left out.</param>
    public static Scenario? Read(
        string json,
        out ImmutableArray<InputError> errors,
        IReadOnlyCollection<Profile>? profiles = null
    ) => Node.Read(json, out errors, (root, found) => Read(root, found, profiles ?? BuiltInProfiles.All));

    private static Scenario? Read(Node root, List<InputError> errors, IReadOnlyCollection<Profile> profiles)
    {
        root.Format(Name);
        root.Only("format", "assembly", "supply", "site", "faults", "procedure", "kit", "profile", "seed", "scale");
        var assembly = root.Required("assembly") is { } a && a.IsObject() ? a : (Node?)null;
        assembly?.Only("type", "body", "springs", "strainer", "fittedCocks", "bypassLine");
        var type = assembly?.Required("type")?.AssemblyType();
        var kit = root.Required("kit")?.OneOf(Kit.Named, $"a kit; {string.Join(", ", Kit.All.Select(k => k.Name))}");
        var profile = root.Optional("profile") is { } named ? ProfileFormat.Named(named, profiles) : null;
        var procedure = School(root, type, profile);
        var supply = root.Optional("supply") is { } s ? Supply(s) : new MainSupply(60);
        var site = root.Optional("site") is { } e ? Site(e) : default;
        var seed = root.Optional("seed") is { } n ? (int)(n.Whole(0, int.MaxValue) ?? 1) : 1;
        var sizes = root.Optional("scale") is { } scale ? Scale(scale) : Sizes.Usual;
        if (type is not { } known || kit is null || procedure is null || assembly is not { } it)
            return null;
        var body = Body(it, known, procedure);
        if (procedure.Unfit(kit) is { } unfit)
            root.Optional("kit")!.Value.Wrong(unfit);
        profile ??= BuiltInProfiles.All.First(p => p.School(procedure.Id) is not null);
        if (profile.School(procedure.Id) is null)
            root.Optional("procedure")!
                .Value.Wrong(
                    $"{profile.Id} has no rules for {procedure.Id}; for a {known} it has "
                        + $"{profile.For(known)?.ProcedureId ?? "none"}"
                );
        var rig = new Rig(body, kit);
        var springs = it.Optional("springs") is { } given ? ReadSprings(given, known, rig) : Springs.Healthy(known);
        var faults = root.Optional("faults") is { } list ? Faults(list, rig) : [];
        if (errors.Count > 0)
            return null;
        var fullScale =
            profile.School(procedure.Id)!.Unit == DifferentialUnit.Psid
                ? 15
                : 100 / (double)DifferentialUnits.KpaPerPsi;
        return new(
            new()
            {
                Rig = rig,
                Springs = springs,
                Supply = supply,
                SiteBehind = site,
                Faults = faults,
                Seed = seed,
                Sizes = sizes,
                FullScale = fullScale,
            },
            procedure,
            profile
        );
    }

    private static Procedure? School(Node root, AssemblyType? type, Profile? profile)
    {
        if (root.Optional("procedure") is not { } node)
        {
            if (type is { } t)
                return SchoolCatalogue.Named((profile ?? BuiltInProfiles.PsidStandard).For(t)?.ProcedureId);
            return null;
        }

        return node.Procedure(type);
    }

    private static AssemblyBody Body(Node assembly, AssemblyType type, Procedure procedure)
    {
        var name = procedure.Body;
        if (assembly.Optional("body") is { } node)
        {
            name = node.BodyName(type) ?? name;
        }

        bool Has(string feature) => assembly.Optional(feature)?.YesNo() ?? false;
        return Bodies.Find(type, name, new(Has("strainer"), Has("fittedCocks"), Has("bypassLine")));
    }

    private static Springs ReadSprings(Node node, AssemblyType type, Rig rig)
    {
        var healthy = Springs.Healthy(type);
        if (!node.IsObject())
            return healthy;
        foreach (var (name, value) in node.Members())
        {
            if (name is not ("cv1" or "cv2" or "rv" or "ai"))
                value.Wrong("is not known here; known are cv1, cv2, rv, ai");
            else if (!rig.Has(new(name)))
                value.Wrong($"a {type} has no {name}");
        }

        double Spring(string name, double usual) => node.Optional(name)?.Spring() ?? usual;
        return new(
            Spring("cv1", healthy.Cv1),
            Spring("cv2", healthy.Cv2),
            Spring("rv", healthy.Relief),
            Spring("ai", healthy.Inlet)
        );
    }

    private static MainSupply Supply(Node node)
    {
        var psi = node.Psi("swing", "seconds") ?? 60;
        var swing = node.Optional("swing") is { } s ? s.Psi() ?? 0 : 0;
        var seconds = node.Optional("seconds") is { } p ? p.InRange(1, 3600, "s") ?? 20 : 20;
        return new(psi, swing, seconds);
    }

    private static SitePipes Site(Node node)
    {
        if (!node.IsObject())
            return default;
        node.Only("demand", "outlet", "back-pressure");
        if (node.Optional("back-pressure") is { } own)
        {
            if (node.Optional("demand") is { } both)
                both.Wrong("a site has a demand or a pressure of its own, not both");
            return new(SitePlumbing.OwnPressure, 0, own.Psi() ?? 0);
        }

        var demand = node.Required("demand")?.OneOf(t => t is "none" or "open" ? t : null, "a demand; none or open");
        if (demand != "open")
        {
            if (demand is not null && node.Optional("outlet") is { } closed)
                closed.Wrong("only an open demand has an outlet");
            return default;
        }

        var height = node.Optional("outlet") is { } outlet ? Height(outlet) : 0;
        return new(SitePlumbing.OpenOutlet, height);
    }

    private static double Height(Node node)
    {
        if (!node.IsObject())
            return 0;
        node.Only("value", "unit");
        var per = node.Required("unit")
            ?.ValueOf<double>(
                t =>
                    t switch
                    {
                        "ft" => 12,
                        "in" => 1,
                        "m" => 39.37007874,
                        "mm" => 0.03937007874,
                        _ => null,
                    },
                "a unit of height; ft, in, m or mm"
            );
        var value = node.Required("value")?.Number();
        if (per is not { } inches || value is not { } amount)
            return 0;
        var height = (double)amount * inches;
        if (Math.Abs(height) > FarthestOutlet)
            node.Optional("value")!.Value.Wrong($"is farther from the body than {FarthestOutlet / 12:0} ft");
        return height;
    }
}
