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
public sealed record WaterSketch
{
    // By space, in the order of the plumbing: what stands in it. Air where nothing is known.
    private readonly Filling[] fillings = [];
    private readonly Plumbing? plumbing;
    private readonly ulong running,
        purged;

    private WaterSketch() { }

    private WaterSketch(
        Plumbing plumbing,
        Filling[] fillings,
        (ulong Bits, ImmutableHashSet<PartId> Parts) running,
        (ulong Bits, ImmutableHashSet<string> Sides) purged
    )
    {
        (this.plumbing, this.fillings, this.running, this.purged) = (plumbing, fillings, running.Bits, purged.Bits);
        (Running, Purged) = (running.Parts, purged.Sides);
    }

    /// <summary>Before anything is sketched.</summary>
    public static WaterSketch Nothing { get; } = new();

    /// <summary>Parts that water runs through at this moment.</summary>
    public ImmutableHashSet<PartId> Running { get; } = [];

    /// <summary>Sides of the kit that have run free of air since their hose was connected.</summary>
    public ImmutableHashSet<string> Purged { get; init; } = [];

    /// <summary>What stands in a space: a chamber's id, or <c>tc2.out</c> for what lies behind a cock.</summary>
    public Filling In(string space) => plumbing?.At(space) is { } at and >= 0 ? fillings[at] : Filling.Air;

    /// <summary>The sketch after the rig has come to a state.</summary>
    public WaterSketch After(RigState state)
    {
        ArgumentNullException.ThrowIfNull(state);
        var here = state.Rig.Plumbing;
        var goesOn = ReferenceEquals(here, plumbing);
        var ways = new Ways(here, state);
        var live = ways.Reach(here.Source, freely: false);
        var drains = ways.DrainingFreely();
        var now = new Filling[here.Spaces.Length];
        for (var i = 0; i < now.Length; i++)
        {
            var bit = 1UL << i;
            if ((ways.There & bit) == 0)
                continue;
            var was = goesOn ? fillings[i] : In(here.Spaces[i]);
            now[i] =
                (live & bit) != 0 ? Filling.Live
                : (drains & bit) != 0
                    ? was == Filling.Air || (ways.Loose & bit) != 0 ? Filling.Air
                        : Filling.Open
                : was is Filling.Live ? Filling.Held
                : was;
        }

        var runs = ways.Running();
        var free = ((goesOn ? purged : 0) | (ways.EndsOf(runs) & here.KitSides)) & ~ways.Loose;
        return new(
            here,
            now,
            (runs, goesOn && runs == running ? Running : [.. here.PartsOf(runs)]),
            (free, goesOn && free == purged ? Purged : [.. here.Named(free)])
        );
    }
}
