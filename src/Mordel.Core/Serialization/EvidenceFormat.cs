using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Procedures;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Schools;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Reads <c>mordel.evidence/1</c>: what was seen, read and found of one assembly.</summary>
public static class EvidenceFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.evidence/1";

    private const double LargestSpring = 20,
        LargestPressure = 300;

    /// <summary>Reads evidence.</summary>
    /// <param name="json">The text.</param>
    /// <param name="errors">Every error with its place; empty when it was read.</param>
    /// <param name="profiles">The profiles that it may name; those that come with Mordel when left out.</param>
    /// <returns>The evidence, or null when there are errors.</returns>
    public static Evidence? Read(
        string json,
        out ImmutableArray<InputError> errors,
        IReadOnlyCollection<Profile>? profiles = null
    )
    {
        var found = new List<InputError>();
        var evidence =
            Node.Root(json, found) is { } root && root.IsObject()
                ? Read(root, found, profiles ?? BuiltInProfiles.All)
                : null;
        errors = [.. found];
        return found.Count == 0 ? evidence : null;
    }

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
        var body = Body(it, known, procedure);
        foreach (var needs in new[] { "sights", "results" })
            if (
                root.Optional(needs) is { } node
                && (root.Optional("procedure") is null || root.Optional("kit") is null)
            )
                node.Wrong("needs procedure and kit beside it: they say what was done");
        var observations = ImmutableArray.CreateBuilder<Observed>();
        var count = 0;
        Each(root, "looks", (node, place) => Look(node, place, body, observations), ref count);
        Each(root, "sights", (node, place) => Sight(node, place, procedure, body, kit, observations), ref count);
        if (root.Optional("results") is { } results && TestRecordFormat.Results(results, known) is { } read)
            foreach (var item in TestItem.All)
                // How high a port stands and what two numbers differ by say nothing of their own.
                if (item != TestItem.ReliefClearance && item != TestItem.ReliefBuffer && read[item] is { } value)
                    observations.Add(new Observed.ItemRead(item, value) { Place = $"results.{item.Id}" });
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
        var procedure = node.OneOf(
            SchoolCatalogue.Named,
            $"a procedure; {string.Join(", ", SchoolCatalogue.All.Select(p => p.Id))}"
        );
        if (procedure is not null && procedure.Type != type)
            node.Wrong($"{procedure.Id} tests a {procedure.Type}, not a {type}");
        else if (procedure is not null && kit is not null && procedure.Unfit(kit) is { } unfit)
            root.Optional("kit")!.Value.Wrong(unfit);
        return procedure?.Type == type ? procedure : null;
    }

    private static AssemblyBody Body(Node assembly, AssemblyType type, Procedure? procedure)
    {
        if (assembly.Optional("body") is not { } node)
            return Bodies.Find(type, procedure?.Body);
        var name = node.OneOf(
            t => Bodies.All.Any(b => b.Name == t && b.Type.Facts().HasChoiceOfBodies) ? t : null,
            "a body; four-cock or three-tap"
        );
        if (!type.Facts().HasChoiceOfBodies)
            node.Wrong($"only an RP has a choice of bodies, not a {type}");
        return Bodies.Find(type, name);
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
            else if (value.Number() is { } number)
            {
                if (number is >= 0 and <= (decimal)LargestSpring)
                    springs[new(name)] = (double)number;
                else
                    value.Wrong($"{number} is outside 0 to {LargestSpring:0} psid");
            }

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
            if (Psi(node) is { } psi)
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

    private static double? Psi(Node node)
    {
        if (node.Required("value") is not { } value || !value.IsObject())
            return null;
        value.Only("value", "unit");
        var unit = value.Required("unit")?.ValueOf(LinePressure.ParseUnit, "a unit of line pressure; psi or kPa");
        if (value.Required("value")?.Number() is not { } number || unit is not { } u)
            return null;
        var psi = (double)number / (u == LinePressureUnit.Psi ? 1 : (double)DifferentialUnits.KpaPerPsi);
        if (psi is >= 0 and <= LargestPressure)
            return psi;
        value.Optional("value")!.Value.Wrong($"is outside 0 to {LargestPressure:0} psi");
        return null;
    }

    private static void Sight(
        Node node,
        string place,
        Procedure? procedure,
        AssemblyBody body,
        Kit? kit,
        ImmutableArray<Observed>.Builder into
    )
    {
        node.Only("step", "sight", "seen", "seconds", "needle");
        if (node.Required("step")?.Text() is not { } step || node.Required("sight")?.Text() is not { } sight)
            return;
        if (procedure is null || kit is null)
            return;
        var steps = SightsOf(procedure, kit, body);
        var key = AtlasMaker.Bare(step);
        if (!steps.TryGetValue(key, out var sights))
            node.Optional("step")!
                .Value.Wrong($"\"{Short(step)}\" is not a step of {procedure.Id} at which something is seen");
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
        var steps = new Dictionary<string, ImmutableArray<string>>();
        foreach (var profile in BuiltInProfiles.All.Where(p => p.School(procedure.Id) is not null))
        foreach (var (_, step) in SchoolCatalogue.Sheet(procedure, kit, profile, body: body.Name).Steps)
            Walk(step.Id, step, steps);
        return steps;
    }

    private static void Walk(string key, Step step, Dictionary<string, ImmutableArray<string>> into)
    {
        if (!step.Sights.IsEmpty)
            into.TryAdd(key, [.. step.Sights.Select(s => s.Id)]);
        foreach (var sight in step.Sights)
        foreach (var branch in sight.Branch)
            Walk($"{key}/{sight.Id}/{branch.Id}", branch, into);
        foreach (var offer in step.Offers)
            Walk($"{offer.Id}/{key}", offer, into);
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
