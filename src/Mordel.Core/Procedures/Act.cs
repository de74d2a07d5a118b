using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>Which hose of the kit.</summary>
public enum Side
{
    /// <summary>The high side.</summary>
    High,

    /// <summary>The low side.</summary>
    Low,
}

/// <summary>
/// One instruction of a run sheet, free of any kit. Expanded for a kit it becomes a sentence and the moves that the sentence asks for.
/// </summary>
public abstract record Act
{
    private Act() { }

    /// <summary>A single move; the sentence is made from it unless one is given.</summary>
    public sealed record Do(Move Move, string? Say = null) : Act;

    /// <summary>Opens a valve for a moment and closes it.</summary>
    public sealed record Blip(PartId Part, string Say) : Act;

    /// <summary>Runs a side free of air (handbook chapter 2, table of moves).</summary>
    public sealed record Purge(Side Side) : Act;

    /// <summary>Shuts every valve of the kit.</summary>
    public sealed record CloseKit : Act;

    /// <summary>Opens every valve of the kit so that it drains.</summary>
    public sealed record DrainKit : Act;

    /// <summary>Lets the pressure out of the hoses before they come off.</summary>
    public sealed record RelieveHoses : Act;

    /// <summary>Something for hands or eyes that turns no valve of the rig.</summary>
    public sealed record Look(string Say) : Act;
}

/// <summary>An instruction for one kit.</summary>
/// <param name="Say">The sentence.</param>
/// <param name="Moves">The moves, in order; empty for a look.</param>
public sealed record Instruction(string Say, ImmutableArray<Move> Moves)
{
    /// <summary>The parts a hand goes to.</summary>
    public IEnumerable<PartId> Touches => Moves.Select(m => m.About).Distinct();
}
