using System.Collections.Immutable;

namespace Mordel.Core.Rigs;

/// <summary>What stands in a space of the rig, in the coarsest words that are still true.</summary>
public enum Filling
{
    /// <summary>Air: nothing has run through yet, or it has drained.</summary>
    Air,

    /// <summary>Water that stands open to the air.</summary>
    Open,

    /// <summary>Water shut in; it keeps some pressure, or what a check's spring holds.</summary>
    Held,

    /// <summary>Joined to the main.</summary>
    Live,
}

/// <summary>
/// Where the water is, by reasoning over the plumbing alone: what is joined to the main, what is shut in, what is open
/// to air, where water runs. It assumes sound checks and says nothing about pressures in numbers; screens label it as a
/// sketch. It carries on from one state to the next because shut-in water remembers how it came to be there.
/// </summary>
/// <param name="Fillings">By space: a chamber's id, or <c>tc2.out</c> for what lies behind a cock.</param>
/// <param name="Running">Parts that water runs through at this moment.</param>
/// <param name="Purged">Sides of the kit that have run free of air since their hose was connected.</param>
public sealed record WaterSketch(
    ImmutableDictionary<string, Filling> Fillings,
    ImmutableHashSet<PartId> Running,
    ImmutableHashSet<string> Purged
)
{
    private const string Air = "air";

    /// <summary>Before anything is sketched.</summary>
    public static WaterSketch Nothing { get; } = new(ImmutableDictionary<string, Filling>.Empty, [], []);

    /// <summary>What stands in a space.</summary>
    public Filling In(string space) => Fillings.GetValueOrDefault(space, Filling.Air);

    /// <summary>The sketch after the rig has come to a state.</summary>
    public WaterSketch After(RigState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        var links = Links(state);
        var spaces = links
            .SelectMany(l => new[] { l.From, l.To })
            .Concat(state.Rig.Chambers.Select(c => c.Id))
            .Where(s => s != Air)
            .Distinct()
            .ToArray();
        var source = state.Rig.At(new(Parts.Supply, "out"))!.Id;
        var live = Reach(source, links);
        var running = RunningParts(source, links);
        var next = spaces.ToImmutableDictionary(
            s => s,
            s =>
                live.Contains(s) ? Filling.Live
                : DrainsFreely(s, links) ? (In(s) == Filling.Air || Loose(s, state) ? Filling.Air : Filling.Open)
                : In(s) is Filling.Live ? Filling.Held
                : In(s)
        );
        var kitSides = state.Rig.Kit.Chambers.Select(c => c.Id).ToHashSet();
        var purged = Purged
            .Union(
                links
                    .Where(l => running.Contains(l.Part))
                    .SelectMany(l => new[] { l.From, l.To })
                    .Where(kitSides.Contains)
            )
            .Where(side => !Loose(side, state))
            .ToImmutableHashSet();
        return new(next, running, purged);
    }

    private static bool Loose(string side, RigState state) =>
        state.Rig.Parts.Any(p =>
            p.Kind == PartKind.Hose
            && state.Rig.At(new(p.Id, "kit"))?.Id == side
            && !state.Connections.ContainsKey(p.Id)
        );

    private sealed record Link(string From, string To, PartId Part, bool OneWay = false);

    private static List<Link> Links(RigState state)
    {
        var rig = state.Rig;
        var links = new List<Link>();
        foreach (var part in rig.Parts)
        {
            string Outlet() => state.On(part.Id) is null ? Air : $"{part.Id}.out";
            string? Space(string port) => rig.At(new(part.Id, port))?.Id;
            switch (part.Kind)
            {
                case PartKind.Shutoff or PartKind.Control when state[part.Id].IsOpen:
                    links.Add(new(Space("in")!, Space("out")!, part.Id));
                    break;
                case PartKind.Check:
                    links.Add(new(Space("in")!, Space("out")!, part.Id, OneWay: true));
                    break;
                case PartKind.Cock when state[part.Id].IsOpen:
                    links.Add(new(Space("in")!, Outlet(), part.Id));
                    break;
                case PartKind.Screw when state[part.Id].IsOpen:
                    links.Add(new(Space("in")!, Air, part.Id));
                    break;
                case PartKind.Bleed when state[part.Id].IsOpen:
                    links.Add(new(Space("in")!, Air, part.Id));
                    break;
                case PartKind.Hose:
                    links.Add(
                        new(
                            state.Connections.TryGetValue(part.Id, out var to) ? $"{to}.out" : Air,
                            Space("kit")!,
                            part.Id
                        )
                    );
                    break;
                case PartKind.SightTube when state.Connections.TryGetValue(part.Id, out var cock):
                    links.Add(new($"{cock}.out", Air, part.Id));
                    break;
                case PartKind.BleedOff when state.Connections.TryGetValue(part.Id, out var under):
                    if (state[part.Id].IsOpen)
                        links.Add(new($"{under}.out", Air, part.Id));
                    links.Add(new($"{under}.out", state.On(part.Id) is null ? Air : $"{part.Id}.out", part.Id));
                    break;
            }
        }

        foreach (var part in rig.Parts.Where(p => p.Kind == PartKind.Relief && Opens(p, rig, links)).ToList())
            links.Add(new(rig.At(new(part.Id, "in"))!.Id, Air, part.Id));
        return links;
    }

    // The relief's diaphragm feels the supply side of CV1 against the zone: with the two joined, or the supply side
    // open to air, it opens.
    private static bool Opens(Part relief, Rig rig, List<Link> links)
    {
        var zone = rig.At(new(relief.Id, "in"))!.Id;
        var before = rig.At(new(Parts.Cv1, "in"))!.Id;
        var joined = Reach(before, [.. links.Where(l => !l.OneWay)]).Contains(zone);
        return joined
            || (DrainsFreely(before, links) && !Reach(rig.At(new(Parts.Supply, "out"))!.Id, links).Contains(before));
    }

    private static HashSet<string> Reach(string from, List<Link> links)
    {
        var seen = new HashSet<string> { from };
        var open = new Queue<string>(seen);
        while (open.TryDequeue(out var here))
        {
            foreach (var (next, _) in Ways(here, links))
                if (next != Air && seen.Add(next))
                    open.Enqueue(next);
        }

        return seen;
    }

    private static IEnumerable<(string Next, Link Link)> Ways(string here, List<Link> links)
    {
        foreach (var link in links)
        {
            if (link.From == here)
                yield return (link.To, link);
            else if (link.To == here && !link.OneWay)
                yield return (link.From, link);
        }
    }

    // Open to air without a check between: a check's spring would keep its differential.
    private static bool DrainsFreely(string space, List<Link> links)
    {
        var free = links.Where(l => !l.OneWay).ToList();
        return Reach(space, free).Any(s => free.Any(l => (l.From == s && l.To == Air) || (l.To == s && l.From == Air)));
    }

    private static ImmutableHashSet<PartId> RunningParts(string source, List<Link> links)
    {
        var running = ImmutableHashSet.CreateBuilder<PartId>();
        var path = new List<Link>();
        var visited = new HashSet<string> { source };
        void Walk(string here)
        {
            foreach (var (next, link) in Ways(here, links))
            {
                path.Add(link);
                if (next == Air)
                    running.UnionWith(path.Select(l => l.Part));
                else if (visited.Add(next))
                {
                    Walk(next);
                    visited.Remove(next);
                }

                path.RemoveAt(path.Count - 1);
            }
        }

        Walk(source);
        return running.ToImmutable();
    }
}
