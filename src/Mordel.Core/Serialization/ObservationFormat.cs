using System.Text;
using System.Text.Json;
using Mordel.Core.Catalogue;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>One observation as a line of a log: the parts of <c>mordel.evidence/1</c>, each by itself.</summary>
public static class ObservationFormat
{
    /// <summary>The observation as JSON text.</summary>
    public static string Write(Observed observed)
    {
        ArgumentNullException.ThrowIfNull(observed);
        using var stream = new MemoryStream();
        using (var json = new Utf8JsonWriter(stream, VerdictFormat.Options))
        {
            json.WriteStartObject();
            switch (observed)
            {
                case Observed.PortSeen p:
                    json.WriteString("look", p.Look);
                    json.WriteString("outlet", ServiceLooks.Name(p.Seen));
                    break;
                case Observed.Unsure u:
                    json.WriteString("look", u.Look);
                    json.WriteBoolean("unsure", true);
                    break;
                case Observed.LineRead l:
                    json.WriteString("look", ServiceLooks.LinePressure);
                    json.WriteNumber("psi", l.Psi);
                    break;
                case Observed.SightMet m:
                    json.WriteString("step", m.Step);
                    json.WriteString("sight", m.Sight);
                    break;
                case Observed.ItemRead r:
                    json.WriteString("item", r.Item.Id);
                    json.Write("value", r.Value);
                    break;
                case Observed.PartOpened o:
                    json.WriteString("part", o.Part.Value);
                    json.WriteString("found", o.Lay.Name());
                    break;
            }

            json.WriteEndObject();
        }

        return Encoding.UTF8.GetString(stream.ToArray());
    }

    /// <summary>Reads one; null when it is none of a body.</summary>
    /// <param name="text">The text.</param>
    /// <param name="body">The body it is about.</param>
    /// <param name="place">Where it stands, for whoever names it later.</param>
    public static Observed? Read(string text, AssemblyBody body, string place)
    {
        ArgumentNullException.ThrowIfNull(body);
        var errors = new List<InputError>();
        if (Node.Root(text, errors) is not { LooksLikeObject: true } node)
            return null;
        var read = Read(node, body, place);
        return errors.Count == 0 ? read : null;
    }

    /// <summary>What somebody says of the port at a look; null when it is none of the body's.</summary>
    public static Observed? Port(AssemblyBody body, string? look, string? outlet, string place)
    {
        foreach (var known in ServiceLooks.For(body))
            if (known.Id == look)
                foreach (var state in known.CanShow)
                    if (ServiceLooks.Name(state) == outlet)
                        return new Observed.PortSeen(known.Id, state) { Place = place };
        return null;
    }

    /// <summary>That somebody looked and is not sure; null when the body has no such look.</summary>
    public static Observed? NotSure(AssemblyBody body, string? look, string place) =>
        ServiceLooks.For(body).Any(l => l.Id == look && !l.CanShow.IsEmpty)
            ? new Observed.Unsure(look!) { Place = place }
            : null;

    /// <summary>What somebody says lay in a part; null when the body has no such part or nothing like it.</summary>
    public static Observed? Opened(AssemblyBody body, string? part, string? found, string place)
    {
        ArgumentNullException.ThrowIfNull(body);
        if (part is null || found is null || FoundNames.Named(found) is not { } lay)
            return null;
        var known = body.Parts.FirstOrDefault(p => p.Id == new PartId(part));
        return
            known is not null && Evidence.Openable(body).Contains(known.Id) && FoundNames.In(known.Kind).Contains(lay)
            ? new Observed.PartOpened(known.Id, lay) { Place = place }
            : null;
    }

    private static Observed? Read(Node node, AssemblyBody body, string place)
    {
        if (node.Optional("step") is { } step)
            return step.Text() is { } key && node.Required("sight")?.Text() is { } sight
                ? new Observed.SightMet(key, sight) { Place = place }
                : null;
        if (node.Optional("item")?.Text() is { } id)
            return
                TestItem.Named(id) is { } item && node.Required("value") is { } given && given.Value(item) is { } value
                ? new Observed.ItemRead(item, value) { Place = place }
                : null;
        if (node.Optional("unsure") is not null)
            return NotSure(body, node.Optional("look")?.Text(), place);
        if (node.Optional("psi")?.Number() is { } psi)
            return new Observed.LineRead((double)psi) { Place = place };
        return node.Optional("part") is { } part
            ? Opened(body, part.Text(), node.Optional("found")?.Text(), place)
            : Port(body, node.Optional("look")?.Text(), node.Optional("outlet")?.Text(), place);
    }
}
