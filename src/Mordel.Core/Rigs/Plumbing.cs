using System.Collections.Frozen;
using System.Collections.Immutable;
using System.Numerics;

namespace Mordel.Core.Rigs;

/// <summary>
/// The spaces and parts of a rig as numbered bits, so that reasoning over the plumbing walks sets instead of names. A
/// space is a chamber, or what lies behind a cock (<c>tc2.out</c>); there are at most 64 of either.
/// </summary>
internal sealed class Plumbing
{
    /// <summary>Stands for the open air where a space is wanted.</summary>
    public const int Air = -1;

    private readonly ImmutableArray<Part> parts;
    private readonly FrozenDictionary<string, int> places;
    private readonly FrozenDictionary<PartId, int> numbers;
    private readonly int[] ins,
        outs,
        kits,
        outlets;

    /// <summary>Numbers the spaces and parts of a rig.</summary>
    /// <exception cref="ArgumentException">It has more than 64 of either.</exception>
    public Plumbing(Rig rig)
    {
        parts = rig.Parts;
        Spaces = [.. rig.Chambers.Select(c => c.Id), .. parts.Where(p => p.HasOutlet).Select(p => $"{p.Id}.out")];
        if (Spaces.Length > 64 || parts.Length > 64)
            throw new ArgumentException(
                $"A rig has at most 64 spaces and parts; here {Spaces.Length}, {parts.Length}."
            );
        numbers = parts.Select((p, i) => (p.Id, i)).ToFrozenDictionary(p => p.Id, p => p.i);
        places = Spaces.Select((s, i) => (s, i)).ToFrozenDictionary(p => p.s, p => p.i, StringComparer.Ordinal);
        int Space(Part part, string port) =>
            rig.At(new(part.Id, port)) is { } chamber ? Spaces.IndexOf(chamber.Id) : Air;
        ins = [.. parts.Select(p => Space(p, "in"))];
        outs = [.. parts.Select(p => Space(p, "out"))];
        kits = [.. parts.Select(p => Space(p, "kit"))];
        outlets = [.. parts.Select(p => p.HasOutlet ? Spaces.IndexOf($"{p.Id}.out") : Air)];
        Source = outs[Index(Parts.Supply)];
        BeforeFirstCheck = parts.Any(p => p.Id == Parts.Cv1) ? ins[Index(Parts.Cv1)] : Air;
        Chambers = (1UL << rig.Chambers.Length) - 1;
        foreach (var chamber in rig.Kit.Chambers)
            KitSides |= 1UL << Spaces.IndexOf(chamber.Id);
    }

    /// <summary>The spaces in the order of their bits: the chambers first.</summary>
    public ImmutableArray<string> Spaces { get; }

    /// <summary>The space behind the supply.</summary>
    public int Source { get; }

    /// <summary>The space before the first check.</summary>
    public int BeforeFirstCheck { get; }

    /// <summary>The chambers, which are always there.</summary>
    public ulong Chambers { get; }

    /// <summary>The chambers of the kit.</summary>
    public ulong KitSides { get; }

    /// <summary>The parts in the order of their bits.</summary>
    public ImmutableArray<Part> All => parts;

    /// <summary>The space at a part's inlet.</summary>
    public int In(int part) => ins[part];

    /// <summary>The space at a part's outlet, inside the rig.</summary>
    public int Out(int part) => outs[part];

    /// <summary>The space of the kit that a hose ends in.</summary>
    public int Kit(int part) => kits[part];

    /// <summary>The space behind a cock.</summary>
    public int Outlet(PartId part) => outlets[Index(part)];

    /// <summary>The space behind a cock by its bit.</summary>
    public int Outlet(int part) => outlets[part];

    /// <summary>The parts of bits.</summary>
    public IEnumerable<PartId> PartsOf(ulong bits)
    {
        for (; bits != 0; bits &= bits - 1)
            yield return parts[BitOperations.TrailingZeroCount(bits)].Id;
    }

    /// <summary>The bit of a space by its name; less than 0 where there is none.</summary>
    public int At(string space) => places.GetValueOrDefault(space, Air);

    /// <summary>The names of spaces.</summary>
    public IEnumerable<string> Named(ulong spaces)
    {
        for (; spaces != 0; spaces &= spaces - 1)
            yield return Spaces[BitOperations.TrailingZeroCount(spaces)];
    }

    /// <summary>The bit of a part.</summary>
    /// <exception cref="ArgumentException">It is not a part of this rig.</exception>
    public int Index(PartId id) =>
        numbers.TryGetValue(id, out var at) ? at : throw new ArgumentException($"{id} is not a part of this rig.");
}

/// <summary>Where water can go in one state of a rig.</summary>
internal sealed class Ways
{
    private readonly record struct Link(int From, int To, int Part, bool OneWay);

    private readonly Plumbing plumbing;
    private readonly List<Link> links = new(32);

    // By space: where its links lead, those without a check, and which spaces touch the air; by part: what carries
    // something.
    private readonly ulong[] next,
        free;
    private readonly ulong carrying;
    private ulong airy;

    public Ways(Plumbing plumbing, RigState state)
    {
        this.plumbing = plumbing;
        (next, free) = (new ulong[plumbing.Spaces.Length], new ulong[plumbing.Spaces.Length]);
        There = plumbing.Chambers;
        foreach (var (_, to) in state.Connections)
            carrying |= 1UL << plumbing.Index(to);
        for (var i = 0; i < plumbing.All.Length; i++)
            Join(i, state);
        // What opens is told before any has opened.
        var reliefs = 0UL;
        for (var i = 0; i < plumbing.All.Length; i++)
            if (plumbing.All[i].Kind == PartKind.Relief && Opens(i))
                reliefs |= 1UL << i;
        for (; reliefs != 0; reliefs &= reliefs - 1)
            if (BitOperations.TrailingZeroCount(reliefs) is var relief)
                Add(plumbing.In(relief), Plumbing.Air, relief);
    }

    /// <summary>The spaces that are there in this state.</summary>
    public ulong There { get; private set; }

    /// <summary>The sides of the kit whose hose hangs free.</summary>
    public ulong Loose { get; private set; }

    /// <summary>What can be reached from a space; freely, without passing a check.</summary>
    public ulong Reach(int from, bool freely) => Spread(1UL << from, freely ? free : next);

    /// <summary>
    /// What is open to air without a check between: a check's spring would keep its differential.
    /// </summary>
    public ulong DrainingFreely() => Spread(airy, free);

    /// <summary>The parts on any way from the main to the air.</summary>
    public ulong Running()
    {
        var running = 0UL;
        Walk(plumbing.Source, 1UL << plumbing.Source, 0, ref running);
        return running;
    }

    /// <summary>The spaces at the ends of parts.</summary>
    public ulong EndsOf(ulong parts)
    {
        var ends = 0UL;
        foreach (var link in links)
            if ((parts & (1UL << link.Part)) != 0)
                ends |= Bit(link.From) | Bit(link.To);
        return ends;
    }

    private static ulong Bit(int space) => space == Plumbing.Air ? 0 : 1UL << space;

    private static ulong Spread(ulong from, ulong[] ways)
    {
        var seen = from;
        for (var open = from; open != 0; )
        {
            var found = 0UL;
            for (; open != 0; open &= open - 1)
                found |= ways[BitOperations.TrailingZeroCount(open)];
            open = found & ~seen;
            seen |= open;
        }

        return seen;
    }

    private void Walk(int here, ulong visited, ulong path, ref ulong running)
    {
        foreach (var link in links)
        {
            int to;
            if (link.From == here)
                to = link.To;
            else if (link.To == here && !link.OneWay)
                to = link.From;
            else
                continue;
            var further = path | (1UL << link.Part);
            if (to == Plumbing.Air)
                running |= further;
            else if ((visited & (1UL << to)) == 0)
                Walk(to, visited | (1UL << to), further, ref running);
        }
    }

    private void Join(int i, RigState state)
    {
        var part = plumbing.All[i];
        int Outlet() => (carrying & (1UL << i)) == 0 ? Plumbing.Air : plumbing.Outlet(i);
        switch (part.Kind)
        {
            case PartKind.Shutoff or PartKind.Control when state[part.Id].IsOpen:
                Add(plumbing.In(i), plumbing.Out(i), i);
                break;
            case PartKind.Check:
                Add(plumbing.In(i), plumbing.Out(i), i, oneWay: true);
                break;
            case PartKind.Cock when state[part.Id].IsOpen:
                Add(plumbing.In(i), Outlet(), i);
                break;
            case PartKind.Screw or PartKind.Bleed when state[part.Id].IsOpen:
                Add(plumbing.In(i), Plumbing.Air, i);
                break;
            case PartKind.Hose:
                if (!state.Connections.TryGetValue(part.Id, out var to))
                    Loose |= Bit(plumbing.Kit(i));
                Add(to == default ? Plumbing.Air : plumbing.Outlet(to), plumbing.Kit(i), i);
                break;
            case PartKind.SightTube when state.Connections.TryGetValue(part.Id, out var cock):
                Add(plumbing.Outlet(cock), Plumbing.Air, i);
                break;
            case PartKind.BleedOff when state.Connections.TryGetValue(part.Id, out var under):
                if (state[part.Id].IsOpen)
                    Add(plumbing.Outlet(under), Plumbing.Air, i);
                Add(plumbing.Outlet(under), Outlet(), i);
                break;
        }
    }

    private void Add(int from, int to, int part, bool oneWay = false)
    {
        links.Add(new(from, to, part, oneWay));
        There |= Bit(from) | Bit(to);
        if (from == Plumbing.Air || to == Plumbing.Air)
        {
            if (!oneWay)
                airy |= Bit(from) | Bit(to);
            return;
        }

        next[from] |= 1UL << to;
        if (oneWay)
            return;
        next[to] |= 1UL << from;
        free[from] |= 1UL << to;
        free[to] |= 1UL << from;
    }

    // The relief's diaphragm feels the supply side of CV1 against the zone: with the two joined, or the supply side
    // open to air, it opens.
    private bool Opens(int relief)
    {
        var (zone, before) = (Bit(plumbing.In(relief)), plumbing.BeforeFirstCheck);
        return (Reach(before, freely: true) & zone) != 0
            || ((DrainingFreely() & Bit(before)) != 0 && (Reach(plumbing.Source, freely: false) & Bit(before)) == 0);
    }
}
