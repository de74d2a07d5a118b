using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

// How a step is taken.
public partial class WaterModel
{
    // Springs from the supply on; whatever is not right comes to rest in the first seconds.
    private void FirstGuess()
    {
        var p = Situation.Supply.Psi;
        for (var i = 0; i < network.Cells.Length; i++)
        {
            var check = Array.FindIndex(network.Checks, c => c.Down == i);
            if (check >= 0)
                p = Math.Max(0, p - (check == 0 ? Situation.Springs.Cv1 : Situation.Springs.Cv2));
            var cell = network.Cells[i];
            var body = i <= network.SiteCell;
            if (!body)
                cell.Vented = true;
            solver.Now.P[i] =
                !body ? cell.FloorHead
                : i == network.SiteCell && Situation.SiteBehind.Plumbing == SitePlumbing.OwnPressure
                    ? Math.Max(p, Situation.SiteBehind.Pressure)
                : p;
        }
    }

    private void Once(double most)
    {
        Breathe();
        network.Tap.Conductance = TapOpen ? Situation.Sizes.Tap : 0;
        if (network.InletOrifice is { } door)
            door.Conductance = Situation.Sizes.Inlet * InletOpening;
        var gauge = GaugeHeight() * Sizes.PsiPerInch;
        foreach (var (link, side) in network.Hung)
        {
            link.Head = gauge * Wet(side);
            network.Cells[side].Raised = network.Cells[side].Vented ? 0 : link.Head / 2;
        }
        var h = Math.Min(step, most);
        var felt = Felt;
        while (true)
        {
            budget?.Spend();
            var solved = solver.Try(h, MainPressure(Time + (Solver.Gamma * h)), MainPressure(Time + h));
            var allowed = Tolerance + (RelativeTolerance * Math.Abs(solver.Now.P[network.Supplied]));
            if ((solved && solver.Error <= allowed && Overshoot() <= PopWithin) || h <= ShortestStep)
            {
                if (solved)
                    solver.Accept();
                // Not met in any test; time goes on all the same, and the water stays as it was for a moment.
                else
                    h = Math.Min(most, Stuck);
                var room = solved ? Math.Sqrt(allowed / Math.Max(solver.Error, 1e-12)) * 0.8 : 1;
                // A step that was only cut short by the end of the run says nothing against the next.
                if (h >= step || room < 1)
                    step = Math.Clamp(h * Math.Min(room, 3), ShortestStep, LongestStep);
                break;
            }

            h = Math.Max(ShortestStep, h / (solved && solver.Error > allowed ? 2 : 4));
            step = h;
        }

        Time += h;
        Steps++;
        needle.Move((felt + Felt) / 2, h);
        TurnInlet();
    }

    // How far the tried step falls past the inlet's opening point, psi.
    private double Overshoot() => network.Body < 0 || InletOpen ? 0 : opensAt - HeldBy(solver.Tried);

    private double HeldBy(Pressures at)
    {
        var body = at.P[network.Body] - network.Cells[network.Body].TopHead;
        // A spill-resistant inlet is held by the supply side of its check as well.
        return Situation.Rig.Has(Parts.VentScrew)
            ? Math.Max(body, at.P[network.BeforeFirst] - network.Cells[network.Body].TopHead)
            : body;
    }

    private void TurnInlet()
    {
        if (network.Body < 0)
            return;
        var held = HeldBy(solver.Now);
        if (!InletOpen && held < opensAt)
            (InletOpen, NeedleAtPop, poppedAt) = (true, needle.At, Time);
        else if (InletOpen && Time > poppedAt + Drops && held > opensAt * Situation.Sizes.InletShuts)
            InletOpen = false;
        else
            return;
        step = Math.Min(step, FirstStep);
    }

    // Where air comes and goes. A space that is shut again keeps the air that has come in; water that runs through
    // carries it off.
    private void Breathe()
    {
        for (var i = 0; i < network.Cells.Length; i++)
        {
            if (i == network.Tube)
                continue;
            var cell = network.Cells[i];
            var open =
                network.OpenToAir[i]
                || (i == network.Body && InletOpen)
                || (i == network.UnderTube && solver.U[network.Tube] < TubeEmpty);
            if (cell.Vented && !open)
                cell.Air = Math.Max(cell.StubbornAir, cell.Holds - solver.U[i]);
            else if (!open && cell.Air > cell.StubbornAir)
                cell.Air = Math.Max(
                    cell.StubbornAir,
                    cell.Air * Math.Max(0, 1 - (Leaving(i) * Math.Min(step, 0.1) / cell.Holds))
                );
            if (cell.Air < 1e-9)
                cell.Air = 0;
            cell.Vented = open;
        }
    }

    private double Leaving(int cell)
    {
        var sum = 0.0;
        foreach (var element in network.Elements)
        {
            if (element.From == cell && element.Q > 0)
                sum += element.Q;
            else if (element.To == cell && element.Q < 0)
                sum -= element.Q;
        }

        return sum;
    }

    private double Wet(int side)
    {
        var cell = network.Cells[side];
        var air = cell.Vented
            ? 1 - (solver.U[side] / cell.Holds)
            : cell.Air * Sizes.Atmosphere / Math.Max(solver.Now.P[side] + Sizes.Atmosphere, 0.3) / cell.Holds;
        return 1 - Math.Clamp(air, 0, 1);
    }

    private double GaugeHeight()
    {
        if (Rig.Lifted is { } inches)
            return (double)inches;
        return Rig.Held is { } held
            ? LevelOf(held.With) + (Situation.Kit(FaultKind.GaugeHeight) ?? 0)
            : Situation.Sizes.GaugeHangs;
    }

    // A swing without sines, whose last digits differ between machines: two parabolas.
    private double MainPressure(double at)
    {
        var supply = Situation.Supply;
        if (supply.Swing == 0 || supply.Period <= 0)
            return supply.Psi;
        var turn = (at / supply.Period) + (Situation.Seed * 0.381966);
        var x = (2 * (turn - Math.Floor(turn))) - 1;
        return Math.Max(0, supply.Psi + (supply.Swing * 4 * x * (1 - Math.Abs(x))));
    }
}
