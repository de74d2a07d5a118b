using Mordel.Core.Rigs;

namespace Mordel.Core.Procedures;

/// <summary>What comes after every test (handbook chapter 6): ask, take off, restore slowly, look, drain the kit, tag, tell.</summary>
public static class ClosingUp
{
    /// <summary>The stage.</summary>
    public static Stage Stage { get; } = new("finish", "Close up", StageKind.Finish,
    [
        new("finish.ask", "Nobody is working downstream", [new Act.Look("Ask before restoring: someone may have opened the pipe meanwhile.")],
            "Water let into an open pipe floods it and empties the main into it.") { Caution = "Nobody may be working downstream when the water returns." },
        new("finish.off", "Cocks closed, hoses and fittings off, plugs back",
        [
            new Act.Look("All cocks closed."), new Act.RelieveHoses(),
            new Act.Do(new Move.TakeOff(Parts.HighHose)), new Act.Do(new Move.TakeOff(Parts.BleedOff)), new Act.Do(new Move.TakeOff(Parts.SightTube)),
            new Act.Look("Plugs back in the cocks."),
        ], "Pressure first, then the coupling: hoses whip.") { Caution = "Relieve the pressure before a coupling is undone." },
        new("finish.open", "SO1, then SO2, slowly: as found",
        [
            new Act.Do(new Move.Turn(Parts.So1, Opening.Full, Slowly: true)), new Act.Do(new Move.Turn(Parts.So2, Opening.Full, Slowly: true)),
        ], "Slow water brings no hammer and shows a leak early.") { Caution = "Open slowly: water hammer and trapped air break pipes." },
        new("finish.look", "No drips at cocks; wiped dry, looked at again", [new Act.Look("Wipe dry and look again.")], "A weep shows only on a dry body."),
        new("finish.drain", "Kit drained, valves open, nothing left behind", [new Act.DrainKit()], "Water left in a kit freezes and destroys it."),
        new("finish.tag", "Tag hung", [new Act.Look("Date, result, tester, next due.")], "The next person sees at once how it stands."),
        new("finish.tell", "Occupant told the result", [new Act.Look("Tell the occupant; a failed high-hazard assembly is told at once, to the authority too.")],
            "They live with it until the next test."),
    ]);
}
