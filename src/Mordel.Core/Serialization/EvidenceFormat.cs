using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Reads <c>mordel.evidence/1</c>: what was seen, read and found of one assembly.</summary>
public static class EvidenceFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.evidence/1";

    /// <summary>Reads evidence.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <param name="profiles">The profiles that it may name; those that come with Mordel when left out.</param>
    /// <returns>The evidence, or null when there are errors.</returns>
    public static Evidence? Read(
        string json,
        out ImmutableArray<InputError> errors,
        IReadOnlyCollection<Profile>? profiles = null
    ) => Node.Read(json, out errors, (root, found) => Read(root, found, profiles ?? BuiltInProfiles.All));

    private static Evidence? Read(Node root, List<InputError> errors, IReadOnlyCollection<Profile> profiles)
    {
        root.Format(Name);
        root.Only("format", "assembly", "procedure", "kit", "profile", "looks", "sights", "results", "opened");
        var assembly = root.Required("assembly") is { } a && a.IsObject() ? a : (Node?)null;
        assembly?.Only("type", "body", "springs");
        var type = assembly?.Required("type")?.AssemblyType();
        if (root.Optional("profile") is { } named)
            _ = ProfileFormat.Named(named, profiles);
        var kit = root.Optional("kit")?.OneOf(Kit.Named, $"a kit; {string.Join(", ", Kit.All.Select(k => k.Name))}");
        if (type is not { } known || assembly is not { } it)
            return null;
        var procedure = root.Optional("procedure") is { } school ? Procedure(school, known, kit, root) : null;
        var body = Bodies.Find(known, it.Optional("body") is { } kind ? kind.BodyName(known) : procedure?.Body);
        foreach (var needs in new[] { "sights", "results" })
            if (
                root.Optional(needs) is { } node
                && (root.Optional("procedure") is null || root.Optional("kit") is null)
            )
                node.Wrong("needs procedure and kit beside it: they say what was done");
        var observations = ImmutableArray.CreateBuilder<Observed>();
        var count = 0;
        Each(root, "looks", (node, place) => Look(node, place, body, observations), ref count);
        var sheet = procedure is null || kit is null ? null : SightsOf(procedure, kit, body);
        Each(root, "sights", (node, place) => Sight(node, place, sheet, observations), ref count);
        if (root.Optional("results") is { } results && TestRecordFormat.Results(results, known) is { } read)
            observations.AddRange(Observed.ItemRead.All(read, "results."));
        Each(root, "opened", (node, place) => Opened(node, place, body, observations), ref count);
        if (count > Diagnosing.MostObservations)
            root.Wrong($"{count} observations are more than anybody makes; at most {Diagnosing.MostObservations}");
        return errors.Count > 0
            ? null
            : new(body, observations.ToImmutable())
            {
                Procedure = procedure?.Id,
                Springs = it.Optional("springs") is { } springs
                    ? Springs(springs, known, body)
                    : ImmutableDictionary<PartId, double>.Empty,
            };
    }

    // Beyond what is taken nothing is read: a list may be as long as a text may be.
    private static void Each(Node root, string list, Action<Node, string> read, ref int count)
    {
        if (root.Optional(list) is not { } nodes)
            return;
        var at = 0;
        foreach (var node in nodes.Elements())
        {
            if (++count <= Diagnosing.MostObservations && node.IsObject())
                read(node, $"{list}[{at}]");
            at++;
        }
    }

    private static Procedure? Procedure(Node node, AssemblyType type, Kit? kit, Node root)
    {
        var procedure = node.Procedure(type);
        if (procedure?.Type != type)
            return null;
        if (kit is not null && procedure.Unfit(kit) is { } unfit)
            root.Optional("kit")!.Value.Wrong(unfit);
        return procedure;
    }

    private static ImmutableDictionary<PartId, double> Springs(Node node, AssemblyType type, AssemblyBody body)
    {
        var springs = ImmutableDictionary.CreateBuilder<PartId, double>();
        if (!node.IsObject())
            return springs.ToImmutable();
        var known = Atlas.SpringsOf(body);
        foreach (var (name, value) in node.Members())
            if (!known.Contains(new(name)))
                value.Wrong($"a {type} has no spring {name}; it has {string.Join(", ", known)}");
            else if (value.Spring() is { } psid)
                springs[new(name)] = psid;
        return springs.ToImmutable();
    }

    private static void Look(Node node, string place, AssemblyBody body, ImmutableArray<Observed>.Builder into)
    {
        node.Only("look", "outlet", "value");
        var looks = ServiceLooks.For(body);
        var look = node.Required("look")
            ?.OneOf(
                t => looks.FirstOrDefault(l => l.Id == t),
                $"a look at a {body.Type}; {string.Join(", ", looks.Select(l => l.Id))}"
            );
        if (look is null)
            return;
        if (look.CanShow.IsEmpty)
        {
            if (node.Optional("outlet") is { } idle)
                idle.Wrong($"{look.Id} has a value, not an outlet");
            if (node.Required("value")?.Psi() is { } psi)
                into.Add(new Observed.LineRead(psi) { Place = place });
            return;
        }

        if (node.Optional("value") is { } value)
            value.Wrong($"{look.Id} has an outlet, not a value");
        var seen = node.Required("outlet")
            ?.ValueOf<PortState>(
                t => look.CanShow.Where(o => ServiceLooks.Name(o) == t).Select(o => (PortState?)o).FirstOrDefault(),
                $"what the {ServiceLooks.Says(body)} does at {look.Id}; "
                    + string.Join(", ", look.CanShow.Select(ServiceLooks.Name))
            );
        if (seen is { } outlet)
            into.Add(new Observed.PortSeen(look.Id, outlet) { Place = place });
    }

    private static void Sight(
        Node node,
        string place,
        Dictionary<string, ImmutableArray<string>>? sheet,
        ImmutableArray<Observed>.Builder into
    )
    {
        node.Only("step", "sight", "seen", "seconds", "needle");
        if (node.Required("step")?.Text() is not { } step || node.Required("sight")?.Text() is not { } sight)
            return;
        if (sheet is null)
            return;
        var key = PlannedStep.PathOf(step);
        if (!sheet.TryGetValue(key, out var sights))
            node.Optional("step")!
                .Value.Wrong($"\"{Short(step)}\" is not a step of the procedure at which something is seen");
        else if (sight is not (Observed.SightMet.None or Observed.SightMet.NotReached) && !sights.Contains(sight))
            node.Optional("sight")!
                .Value.Wrong(
                    $"\"{Short(sight)}\" is not a sight of {key}; {string.Join(", ", sights)}, none, not-reached"
                );
        else
            into.Add(new Observed.SightMet(key, sight) { Place = place });
    }

    private static Dictionary<string, ImmutableArray<string>> SightsOf(Procedure procedure, Kit kit, AssemblyBody body)
    {
        var sights = new Dictionary<string, ImmutableArray<string>>();
        foreach (var profile in BuiltInProfiles.All.Where(p => p.School(procedure.Id) is not null))
        foreach (var (path, step) in SchoolCatalogue.Sheet(procedure, kit, profile, body: body.Name).EveryStep())
            if (!step.Sights.IsEmpty)
                sights.TryAdd(path, [.. step.Sights.Select(x => x.Id)]);
        return sights;
    }

    private static void Opened(Node node, string place, AssemblyBody body, ImmutableArray<Observed>.Builder into)
    {
        node.Only("part", "found");
        var parts = Evidence.Openable(body);
        var part = node.Required("part")
            ?.ValueOf<PartId>(
                t => parts.Contains(new(t)) ? new PartId(t) : null,
                $"a part of a {body.Type} that can be opened; {string.Join(", ", parts)}"
            );
        var found = node.Required("found")
            ?.ValueOf<OpenedFinding>(FoundNames.Named, $"what was found; {string.Join(", ", FoundNames.Names)}");
        if (part is not { } opened || found is not { } lay)
            return;
        if (!FoundNames.In(body.Parts.First(p => p.Id == opened).Kind).Contains(lay))
            node.Optional("found")!.Value.Wrong($"{opened} has nothing that could be {lay.Name()}");
        else
            into.Add(new Observed.PartOpened(opened, lay) { Place = place });
    }

    private static string Short(string text) => text.Length > 60 ? text[..60] + "…" : text;
}
