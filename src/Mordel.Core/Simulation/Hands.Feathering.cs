using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Simulation;

// A valve that is held part way, by what the needle and the drip do.
internal partial class Hands
{
    /// <summary>
    /// Closes SO1 so slowly that a body which loses its water shows it before the needle has run down.
    /// </summary>
    public void CloseFeather(PartId shutoff)
    {
        (feathered, feather) = (shutoff, 0.1);
        for (; feather > 1e-6 && !eyes.OffThePeg; feather *= 0.7)
        {
            Open(shutoff, feather);
            Wait(0.5);
        }

        // It falls by itself: a hair more, until the eyes are on the inlet.
        braking = eyes.OffThePeg;
        if (braking)
            Open(shutoff, feather = Math.Min(1, feather * 3));
        else
            Make(new Move.Turn(shutoff, Opening.Closed));
    }

    /// <summary>
    /// Holds a fall that happens by itself to a readable speed with the shutoff that was left open by a hair, until the
    /// inlet opens.
    /// </summary>
    public void Brake(double most)
    {
        var wrist = new ValveControl();
        for (var waited = 0.0; waited < most && eyes.NeedleAtPop is null && eyes.Needle > 0.05; waited += Tick)
        {
            if (feathered is { } shutoff)
            {
                feather = Math.Clamp(
                    Math.Max(feather, 1e-6) / wrist.Turn(eyes.Falling(), Speed(eyes.Needle)),
                    1e-6,
                    0.5
                );
                Open(shutoff, feather);
            }

            Wait(Tick);
        }

        braking = false;
    }

    /// <summary>Bleeds until the outlet only drips, and no further: halves the way between running and not.</summary>
    public void BleedToTheDrip()
    {
        if (feathered is not { } valve)
            return;
        var (runs, stops) = (0.0, feather);
        while (eyes.Outlet > Perception.Drop && stops < 1)
        {
            runs = stops;
            feather = stops = Math.Min(1, stops * 1.3);
            Open(valve, stops);
            Wait(2);
        }

        for (var i = 0; i < 14 && eyes.Outlet is > Perception.Drop or < Perception.SlowDrop / 2; i++)
        {
            feather = (runs + stops) / 2;
            Open(valve, feather);
            Wait(3);
            if (eyes.Outlet > Perception.SlowDrop)
                runs = feather;
            else
                stops = feather;
        }

        // Left on the running side: a bleed that takes more than comes in would draw the needle down.
        Open(valve, feather = eyes.Outlet < Perception.SlowDrop / 2 ? runs : feather);
        Wait(3);
    }

    // Opens a valve bit by bit, so that the needle falls readably, until what is waited for comes or the end of its
    // travel is reached.
    private void Ease(PartId valve, Cue cue, double most)
    {
        (feathered, feather) = (valve, eyes.Needle < 9 ? 0.0006 : 0.002);
        var wrist = new ValveControl();
        var (idle, first, firstOutlet) = (0.0, eyes.Needle, eyes.Outlet);
        for (var waited = 0.0; waited < 1200; waited += Tick)
        {
            Open(valve, feather);
            Wait(cue.Kind == CueKind.SlowsOrFalls ? 2 : Tick);
            if (Met(cue, first, firstOutlet) || (cue.Kind == CueKind.Pop && eyes.Needle < 0.02 && waited > 10))
                return;
            idle = Math.Abs(eyes.Falling(4)) < 0.005 && (feather >= most || eyes.Needle < 0.05) ? idle + Tick : 0;
            if (idle > 15)
            {
                ReachedTheEnd = true;
                return;
            }

            if (cue.Kind == CueKind.SlowsOrFalls)
                feather = Math.Min(most, feather * 1.3);
            else if (eyes.Pegged)
                feather = Math.Min(waited < 90 ? Math.Min(0.02, most) : most, feather * 1.06);
            else
                feather = Math.Clamp(feather * wrist.Turn(eyes.Falling(), Speed(eyes.Needle)), 1e-4, most);
        }
    }
}
