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
        var bleeds = rig.Kit.HasBleeds;
        return act switch
        {
            Act.Do d => [d.Move],
            Act.Blip b => [Full(b.Part), Shut(b.Part)],
            Act.LetRun r when bleeds => [Full(Bleed(r.Side))],
            Act.LetRun { Also: true } r => [Full(Control(r.Side))],
            Act.LetRun r => [Full(Parts.BypassControl), Full(Control(r.Side))],
            Act.StopRun s when bleeds => [Shut(Bleed(s.Side))],
            Act.StopRun { Last: false } s => [Shut(Control(s.Side))],
            Act.StopRun s => [Shut(Control(s.Side)), Shut(Parts.BypassControl)],
            Act.Purge p => [.. new Act.LetRun(p.Side).MovesFor(rig), .. new Act.StopRun(p.Side).MovesFor(rig)],
            Act.RestoreZone when bleeds => [Full(Parts.LowBleed), Shut(Parts.LowBleed)],
            Act.RestoreZone z =>
            [
                Shut(Parts.HighControl),
                .. z.BypassOn is { } cock
                    ? (Move[])[Shut(cock), new Move.TakeOff(Parts.BypassHose, IfThere: true)]
                    : [],
                Full(Parts.BypassControl),
                Full(Parts.LowControl),
                Shut(Parts.LowControl),
                Shut(Parts.BypassControl),
            ],
            Act.FeedZone =>
            [
                .. bleeds ? [] : (Move[])[Shut(Parts.BypassControl)],
                Full(Parts.HighControl),
                new Move.Turn(Parts.LowControl, Opening.QuarterTurn, Slowly: true),
            ],
            Act.LowerPressure l when bleeds => [new Move.Turn(Parts.HighBleed, l.To, Slowly: l.To.IsOpen)],
            Act.LowerPressure { To.IsOpen: false } => [Shut(Parts.HighControl), Shut(Parts.BypassControl)],
            Act.LowerPressure l => [Full(Parts.BypassControl), new Move.Turn(Parts.HighControl, l.To, Slowly: true)],
            Act.CloseKit => Each(rig.Kit, Opening.Closed),
            Act.DrainKit => Each(rig.Kit, Opening.Full),
            // A kit without bleeds empties through its bypass hose, which must hang free for that.
            Act.RelieveHoses =>
            [
                .. bleeds ? [] : (Move[])[new Move.TakeOff(Parts.BypassHose, IfThere: true)],
                .. Relieving(rig.Kit).Select(Full),
            ],
            Act.CloseCocks => [.. Drained(rig).Select(p => Shut(p.Id))],
            Act.Uncouple =>
            [
                .. rig
                    .Parts.Where(p => p.Attaches)
                    .OrderBy(p => p.Kind == PartKind.BleedOff)
                    .Select(p => new Move.TakeOff(p.Id, IfThere: true)),
            ],
            Act.Look or Act.OpenTap or Act.CloseTap => [],
            Act.AsWritten w => w.Instruction.Moves,
            _ => throw new InvalidOperationException("Unknown act."),
        };
    }

    private static string Say(Act act, Rig rig)
    {
        var bleeds = rig.Kit.HasBleeds;
        return act switch
        {
            Act.Do d => d.Say ?? Sentence(d.Move, rig),
            Act.Blip b => b.Say ?? $"Open {rig[b.Part].Label}, let it run, close it.",
            Act.LetRun r when bleeds => $"Open the {rig[Bleed(r.Side)].Label} until the water runs without "
                + $"air{(r.Also ? "" : ", and leave it running")}.",
            Act.LetRun { Also: true } r =>
                $"Open the {rig[Control(r.Side)].Label} too, until the bypass hose runs without air.",
            Act.LetRun r =>
                $"Open the bypass control, then the {rig[Control(r.Side)].Label}, until the bypass hose runs "
                    + $"without air; leave it running.",
            Act.StopRun s when bleeds => $"Close the {rig[Bleed(s.Side)].Label}.",
            Act.StopRun { Last: false } s => $"Close the {rig[Control(s.Side)].Label}.",
            Act.StopRun s => $"Close the {rig[Control(s.Side)].Label}, then the bypass control.",
            Act.Purge p when bleeds =>
                $"Open the {rig[Bleed(p.Side)].Label} until the water runs without air, then close it.",
            Act.Purge p =>
                $"Open the bypass control, then the {rig[Control(p.Side)].Label}, until the bypass hose runs "
                    + $"without air. Close the {rig[Control(p.Side)].Label}, then the bypass control.",
            Act.RestoreZone when bleeds =>
                "Restore the zone: open the low bleed until the needle is back up, then close it.",
            Act.RestoreZone z => "Restore the zone: close the high control"
                + (
                    z.BypassOn is { } cock
                        ? $"; if the bypass hose is on {rig[cock].Label}, shut {rig[cock].Label} and take it off"
                        : ""
                )
                + ". With the bypass hose at the drain open the bypass and low controls until the needle is back up, "
                + "then close both.",
            Act.FeedZone =>
                $"{(bleeds ? "" : "Bypass control closed. ")}Open the high control one turn, then the low control "
                    + $"slowly, at most a quarter turn.",
            Act.LowerPressure { To.IsOpen: false } when bleeds => "Close the high bleed.",
            Act.LowerPressure { To.IsOpen: false } => "Close the high control and the bypass control.",
            Act.LowerPressure l when bleeds => l.To == Opening.Full
                ? "Open the high bleed fully."
                : "Crack the high bleed slowly; a finger over the drain tube steadies it.",
            Act.LowerPressure l => l.To == Opening.Full
                ? "With the bypass control open, open the high control fully."
                : "Open the bypass control, then crack the high control, at most a quarter turn.",
            Act.CloseKit => "Close every valve of the kit.",
            Act.DrainKit => "Open every valve of the kit and let it drain.",
            Act.RelieveHoses { Lettered: true } when !bleeds =>
                "Open C, A and B to relieve the hoses; C's hose must hang free.",
            Act.RelieveHoses when bleeds => "Open the high and low bleeds to relieve the hoses.",
            Act.RelieveHoses =>
                "If the bypass hose is on a cock, loosen it slowly over the bucket and take it off. Open the "
                    + "bypass, high and low controls: the other hoses are relieved through it.",
            Act.CloseCocks => $"Close {string.Join(", ", Drained(rig).Select(p => p.Named))}.",
            Act.Uncouple => "Take hoses and fittings off.",
            Act.Look l => l.Say,
            Act.OpenTap t => t.Say,
            Act.CloseTap t => t.Say,
            Act.AsWritten w => w.Instruction.Say,
            _ => throw new InvalidOperationException("Unknown act."),
        };
    }

    private static Move.Turn Full(PartId part) => new Move.Turn(part, Opening.Full);

    private static Move.Turn Shut(PartId part) => new Move.Turn(part, Opening.Closed);

    private static PartId Bleed(Side side) => side == Side.High ? Parts.HighBleed : Parts.LowBleed;

    private static PartId Control(Side side) => side == Side.High ? Parts.HighControl : Parts.LowControl;

    private static IEnumerable<Part> Drained(Rig rig) =>
        rig.Body.Parts.Where(p => p.Kind is PartKind.Cock or PartKind.Screw);

    private static PartId[] Relieving(Kit kit) =>
        kit.HasBleeds ? [Parts.HighBleed, Parts.LowBleed] : [Parts.BypassControl, Parts.HighControl, Parts.LowControl];

    private static ImmutableArray<Move> Each(Kit kit, Opening to) =>
        [.. kit.Parts.Where(p => p.Turns).Select(p => (Move)new Move.Turn(p.Id, to))];

    private static string Sentence(Move move, Rig rig)
    {
        string Name(PartId id) =>
            rig[id].Kind is PartKind.Shutoff or PartKind.Cock ? rig[id].Label : $"the {rig[id].Label}";
        return move switch
        {
            Move.Turn { To: { IsOpen: true, Fraction: < 1m } } t => $"Open {Name(t.Part)} a little, slowly.",
            Move.Turn t => $"{(t.To.IsOpen ? "Open" : "Close")} {Name(t.Part)}{(t.Slowly ? " slowly" : "")}.",
            Move.Connect c => $"Connect the {rig[c.Item].Label} to {Name(c.To)}.",
            Move.TakeOff o => $"Take the {rig[o.Item].Label} off.",
            Move.Hold h => h.Level.With == Parts.SightTube
                ? "Hold the gauge's centre level with the water in the sight tube."
                : rig[h.Level.With].Kind switch
                {
                    PartKind.Inlet => "Hold the gauge's centre level with the air inlet.",
                    PartKind.Screw => "Hold the gauge's centre level with the vent screw.",
                    _ => $"Hold the gauge's centre level with the middle of {Name(h.Level.With)}.",
                },
            _ => throw new InvalidOperationException("Unknown move."),
        };
    }
}
