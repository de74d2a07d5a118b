using Mordel.Core.Rigs;
using static Mordel.Core.Procedures.Hand;

namespace Mordel.Core.Procedures;

/// <summary>What comes after every test (handbook chapter 6): ask, take off, restore slowly, look, drain the kit, tag, tell.</summary>
public static class ClosingUp
{
    /// <summary>The stage.</summary>
    /// <param name="setup">What is closed up.</param>
    /// <param name="lettersControls">Whether the school calls the kit's controls A, B and C.</param>
    public static Stage For(Setup setup, bool lettersControls)
    {
        ArgumentNullException.ThrowIfNull(setup);
        var vacuum = setup.Body.Type is AssemblyType.PVB or AssemblyType.SVB;
        return new("finish", "Close up", StageKind.Finish,
        [
            new("finish.ask", "Nobody is working downstream", [Look("Ask before restoring: someone may have opened the pipe meanwhile.")],
                "Water let into an open pipe floods it and empties the main into it.") { Asks = Question.BeforeRestoring, Caution = "Nobody may be working downstream when the water returns." },
            new("finish.off", "Cocks closed, hoses and fittings off, plugs back",
                [new Act.CloseCocks(), new Act.RelieveHoses(lettersControls), new Act.Uncouple(), Look("Plugs back in the cocks.")],
                "Pressure first, then the coupling: hoses whip.") { Caution = "Relieve the pressure before a coupling is undone." },
            new("finish.open", "SO1, then SO2, slowly: as found", [OpenSlowly(Parts.So1), OpenSlowly(Parts.So2), .. vacuum ? (Act[])[Look("Canopy or hood back on.")] : []],
                "Slow water brings no hammer and shows a leak early.")
            {
                Asks = Question.Departure,
                Caution = setup.Body.Features.BypassLine ? "Open slowly. Fire line: bypass open again, everything fully open, sealed as found, alarm company told." : "Open slowly: water hammer and trapped air break pipes.",
            },
            new("finish.look", "No drips at cocks; wiped dry, looked at again", [Look("Wipe dry and look again.")], "A weep shows only on a dry body."),
            new("finish.drain", "Kit drained, valves open, nothing left behind", [new Act.DrainKit()], "Water left in a kit freezes and destroys it."),
            new("finish.tag", "Tag hung", [Look("Date, result, tester, next due.")], "The next person sees at once how it stands."),
            new("finish.tell", "Occupant told the result", [Look("Tell the occupant; a failed high-hazard assembly is told at once, to the authority too.")],
                "They live with it until the next test."),
        ]);
    }
}
