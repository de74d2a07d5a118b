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
/// One instruction of a run sheet, free of any kit. Expanded for a kit it becomes a sentence and the moves that the
/// sentence asks for (handbook chapter 2, table of moves).
/// </summary>
public abstract record Act
{
    private Act() { }

    /// <summary>
    /// A single move; the sentence is made from it unless one is given. <paramref name="Until"/> is what a slow hand
    /// waits for.
    /// </summary>
    public sealed record Do(Move Move, string? Say = null, Cue? Until = null) : Act;

    /// <summary>Opens a valve for a moment and closes it.</summary>
    public sealed record Blip(PartId Part, string? Say = null) : Act;

    /// <summary>
    /// Opens a side to the drain and leaves it running; <paramref name="Also"/> while the other side runs already.
    /// </summary>
    public sealed record LetRun(Side Side, bool Also = false) : Act;

    /// <summary>Shuts a side that was running; <paramref name="Last"/> when no other runs.</summary>
    public sealed record StopRun(Side Side, bool Last = true) : Act;

    /// <summary>Runs a side free of air and shuts it.</summary>
    public sealed record Purge(Side Side) : Act;

    /// <summary>Brings an RP's zone back down, so that the needle stands up again.</summary>
    /// <param name="BypassOn">The cock that may carry the bypass hose: a kit without bleeds needs that hose at the
    /// drain.</param>
    public sealed record RestoreZone(PartId? BypassOn = null) : Act;

    /// <summary>Lets supply water into the zone, slowly.</summary>
    public sealed record FeedZone : Act;

    /// <summary>Lowers the pressure of a one-hose hook-up through the kit: a crack, fully, or shut again.</summary>
    public sealed record LowerPressure(Opening To) : Act;

    /// <summary>Shuts every valve of the kit.</summary>
    public sealed record CloseKit : Act;

    /// <summary>Opens every valve of the kit so that it drains.</summary>
    public sealed record DrainKit : Act;

    /// <summary>Lets the pressure out of the hoses before they come off.</summary>
    /// <param name="Lettered">Whether the sentence calls a kit's controls A (high), B (low) and C (vent).</param>
    public sealed record RelieveHoses(bool Lettered = false) : Act;

    /// <summary>Shuts every cock and screw of the assembly.</summary>
    public sealed record CloseCocks : Act;

    /// <summary>Takes hoses and fittings off, those that are on.</summary>
    public sealed record Uncouple : Act;

    /// <summary>Opens a tap somewhere behind SO2.</summary>
    public sealed record OpenTap(string Say) : Act;

    /// <summary>Closes it again.</summary>
    public sealed record CloseTap(string Say) : Act;

    /// <summary>An instruction as it was written out once, whatever its sentence would be today.</summary>
    /// <param name="Instruction">Sentence and moves.</param>
    public sealed record AsWritten(Instruction Instruction) : Act;

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

/// <summary>Short words for acts, so that a school's file reads like its run sheet.</summary>
public static class Hand
{
    /// <summary>Opens a valve fully.</summary>
    public static Act Open(PartId part, string? say = null) => new Act.Do(new Move.Turn(part, Opening.Full), say);

    /// <summary>Opens a valve fully, slowly.</summary>
    public static Act OpenSlowly(PartId part, string? say = null) =>
        new Act.Do(new Move.Turn(part, Opening.Full, Slowly: true), say);

    /// <summary>Opens a valve by a quarter turn, slowly, until what is waited for is seen.</summary>
    public static Act Crack(PartId part, string? say = null, Cue? until = null) =>
        new Act.Do(new Move.Turn(part, Opening.QuarterTurn, Slowly: true), say, until);

    /// <summary>Shuts a valve.</summary>
    public static Act Close(PartId part, string? say = null) => new Act.Do(new Move.Turn(part, Opening.Closed), say);

    /// <summary>Shuts a valve slowly.</summary>
    public static Act CloseSlowly(PartId part, string? say = null) =>
        new Act.Do(new Move.Turn(part, Opening.Closed, Slowly: true), say);

    /// <summary>Puts a hose's end, a tube or a tee on a part.</summary>
    public static Act Put(PartId item, PartId on, string? say = null) => new Act.Do(new Move.Connect(item, on), say);

    /// <summary>Takes a hose's end, a tube or a tee off, if it is on.</summary>
    public static Act TakeOff(PartId item, string? say = null) =>
        new Act.Do(new Move.TakeOff(item, IfThere: true), say);

    /// <summary>Holds the gauge level with a part.</summary>
    public static Act LevelWith(PartId part, string? say = null) => new Act.Do(new Move.Hold(new(part)), say);

    /// <summary>Opens a cock for a moment and closes it.</summary>
    public static Act Flush(PartId part, string? say = null) => new Act.Blip(part, say);

    /// <summary>Something to see or to do that turns no valve of the rig.</summary>
    public static Act Look(string say) => new Act.Look(say);
}
