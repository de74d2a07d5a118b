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
    /// <summary>Before anything is sketched.</summary>
    public static WaterSketch Nothing { get; } = new(ImmutableDictionary<string, Filling>.Empty, [], []);

    /// <summary>What stands in a space.</summary>
    public Filling In(string space) => Fillings.GetValueOrDefault(space, Filling.Air);

    /// <summary>The sketch after the rig has come to a state.</summary>
    public WaterSketch After(RigState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        var plumbing = state.Rig.Plumbing;
        var ways = new Ways(plumbing, state);
        var live = ways.Reach(plumbing.Source, freely: false);
        var drains = ways.DrainingFreely();
        var fillings = Fillings.ToBuilder();
        for (var i = 0; i < plumbing.Spaces.Length; i++)
        {
            var (space, bit) = (plumbing.Spaces[i], 1UL << i);
            if ((ways.There & bit) == 0)
            {
                fillings.Remove(space);
                continue;
            }

            var was = In(space);
            var now =
                (live & bit) != 0 ? Filling.Live
                : (drains & bit) != 0
                    ? was == Filling.Air || (ways.Loose & bit) != 0 ? Filling.Air
                        : Filling.Open
                : was is Filling.Live ? Filling.Held
                : was;
            if (now != was || !fillings.ContainsKey(space))
                fillings[space] = now;
        }

        var running = ways.Running();
        return new(
            fillings.ToImmutable(),
            Same(Running, running, plumbing),
            Purged.Union(plumbing.Named(ways.EndsOf(running) & plumbing.KitSides)).Except(plumbing.Named(ways.Loose))
        );
    }

    private static ImmutableHashSet<PartId> Same(ImmutableHashSet<PartId> before, ulong running, Plumbing plumbing)
    {
        var count = 0;
        var all = true;
        for (var rest = running; rest != 0; rest &= rest - 1, count++)
            all &= before.Contains(plumbing.Part(rest).Id);
        if (all && count == before.Count)
            return before;
        var now = ImmutableHashSet.CreateBuilder<PartId>();
        for (var rest = running; rest != 0; rest &= rest - 1)
            now.Add(plumbing.Part(rest).Id);
        return now.ToImmutable();
    }
}
