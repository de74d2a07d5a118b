using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Hydraulics;
using Mordel.Core.Rigs;
using Mordel.Core.Units;

namespace Mordel.Core.Serialization;

// What is wrong with a rig, as a scenario says it.
public static partial class ScenarioFormat
{
    private static ImmutableArray<Fault> Faults(Node list, Rig rig)
    {
        var faults = ImmutableArray.CreateBuilder<Fault>();
        foreach (var node in list.Elements())
        {
            if (!node.IsObject())
                continue;
            node.Only("part", "fault", "size", "by", "inches");
            if (node.Required("part")?.Text() is not { } part || node.Required("fault")?.Text() is not { } fault)
                continue;
            if (Fault(node, part, fault, rig) is not { } made)
                continue;
            if (faults.Exists(d => d.Part == made.Part && d.Kind == made.Kind))
                node.Wrong($"{part} {fault} stands twice");
            faults.Add(made);
        }

        return faults.ToImmutable();
    }

    private static bool Exists(this ImmutableArray<Fault>.Builder list, Func<Fault, bool> which) => list.Any(which);

    private static Fault? Fault(Node node, string part, string fault, Rig rig)
    {
        var id = part == "kit" ? Parts.Gauge : new PartId(part);
        if (part == "gauge" || !rig.Has(id))
        {
            var has = rig
                .Body.Parts.Where(p => p.Kind is not (PartKind.Supply or PartKind.Site))
                .Select(p => p.Id.Value);
            node.Optional("part")!
                .Value.Wrong(
                    $"\"{(part.Length > 40 ? part[..40] + "…" : part)}\" is not a part that this rig has; "
                        + $"{string.Join(", ", has)}, kit"
                );
            return null;
        }

        var kind = FaultCatalogue.Named(fault, rig[id].Kind)?.Kind;
        if (kind is not { } known)
        {
            var choices = FaultCatalogue.Choices(rig.Body).Where(c => c.Part == part).Select(c => c.Kind.Id).Distinct();
            node.Optional("fault")!
                .Value.Wrong(
                    $"\"{(fault.Length > 40 ? fault[..40] + "…" : fault)}\" is not a fault of {part}; "
                        + string.Join(", ", choices.DefaultIfEmpty("it has none"))
                );
            return null;
        }

        var size = node.Optional("size") is { } s
            ? s.ValueOf<LeakSize>(
                t =>
                    t switch
                    {
                        "weep" => LeakSize.Weep,
                        "small" => LeakSize.Small,
                        "large" => LeakSize.Large,
                        "gush" => LeakSize.Gush,
                        _ => null,
                    },
                "a size; weep, small, large or gush"
            )
            : LeakSize.Small;
        if (known != FaultKind.Leaks && node.Optional("size") is { } idle)
            idle.Wrong("only a leak has a size");
        var by = known switch
        {
            FaultKind.ZeroOffset => node.Required("by") is { } b ? b.InRange(-15, 15, "psid") : null,
            FaultKind.GaugeHeight => node.Required("inches") is { } i
                ? i.InRange(-FarthestGauge, FarthestGauge, "in")
                : null,
            _ => 0,
        };
        return by is { } amount && size is { } big ? new(id, known, big, amount) : null;
    }

    private static Sizes Scale(Node node)
    {
        if (!node.IsObject())
            return Sizes.Usual;
        node.Only("leaks", "openings", "compliances");
        double Factor(string name) => node.Optional(name) is { } n ? n.InRange(0.1, 10, "times") ?? 1 : 1;
        return Sizes.Usual.Times(Factor("leaks"), Factor("openings"), Factor("compliances"));
    }
}
