using System.Collections.Immutable;
using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>Turns kit-independent acts into sentences and moves for one kit, through the kit's own plumbing.</summary>
public static class Expansion
{
    /// <summary>The instruction for an act on a rig.</summary>
    public static Instruction For(this Act act, Rig rig) => new(Say(act, rig), MovesFor(act, rig));

    /// <summary>The moves alone, in order.</summary>
    public static ImmutableArray<Move> MovesFor(this Act act, Rig rig)
    {
        ArgumentNullException.ThrowIfNull(rig);
        return act switch
        {
            Act.Do d => [d.Move],
            Act.Blip b => OpenAndClose(b.Part),
            Act.Purge p when rig.Kit.HasBleeds => OpenAndClose(Bleed(p.Side)),
            Act.Purge p => [new Move.Turn(Parts.BypassControl, Opening.Full), .. OpenAndClose(Control(p.Side)), new Move.Turn(Parts.BypassControl, Opening.Closed)],
            Act.CloseKit => Each(rig.Kit, Opening.Closed),
            Act.DrainKit => Each(rig.Kit, Opening.Full),
            Act.RelieveHoses => [.. Relieving(rig.Kit).Select(p => new Move.Turn(p, Opening.Full))],
            Act.Look => [],
            _ => throw new InvalidOperationException("Unknown act."),
        };
    }

    private static string Say(Act act, Rig rig) => act switch
    {
        Act.Do d => d.Say ?? Sentence(d.Move, rig),
        Act.Blip b => b.Say,
        Act.Purge p when rig.Kit.HasBleeds => $"Open the {rig[Bleed(p.Side)].Label} until the water runs without air, then close it.",
        Act.Purge p => $"Open the bypass control, then the {rig[Control(p.Side)].Label}, until the bypass hose runs without air. Close the {rig[Control(p.Side)].Label}, then the bypass control.",
        Act.CloseKit => "Close every valve of the kit.",
        Act.DrainKit => "Open every valve of the kit and let it drain.",
        Act.RelieveHoses => $"Open the {string.Join(" and the ", Relieving(rig.Kit).Select(p => rig[p].Label))} to relieve the hoses.",
        Act.Look l => l.Say,
        _ => throw new InvalidOperationException("Unknown act."),
    };

    private static PartId Bleed(Side side) => side == Side.High ? Parts.HighBleed : Parts.LowBleed;

    private static PartId Control(Side side) => side == Side.High ? Parts.HighControl : Parts.LowControl;

    private static PartId[] Relieving(Kit kit) => kit.HasBleeds ? [Parts.HighBleed, Parts.LowBleed] : [Parts.BypassControl, Parts.HighControl];

    private static ImmutableArray<Move> OpenAndClose(PartId part) => [new Move.Turn(part, Opening.Full), new Move.Turn(part, Opening.Closed)];

    private static ImmutableArray<Move> Each(Kit kit, Opening to) => [.. kit.Parts.Where(p => p.Turns).Select(p => (Move)new Move.Turn(p.Id, to))];

    private static string Sentence(Move move, Rig rig)
    {
        string Name(PartId id) => rig[id].Kind is PartKind.Shutoff or PartKind.Cock ? rig[id].Label : $"the {rig[id].Label}";
        return move switch
        {
            Move.Turn t => $"{(t.To.IsOpen ? "Open" : "Close")} {Name(t.Part)}{(t.Slowly ? " slowly" : "")}.",
            Move.Connect c => $"Connect the {rig[c.Item].Label} to {Name(c.To)}.",
            Move.TakeOff o => $"Take the {rig[o.Item].Label} off.",
            Move.Hold h => h.Level.With == Parts.SightTube
                ? "Hold the gauge's centre level with the water in the sight tube."
                : $"Hold the gauge's centre level with the middle of {Name(h.Level.With)}.",
            _ => throw new InvalidOperationException("Unknown move."),
        };
    }
}
