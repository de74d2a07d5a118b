using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

// How the network is laid out from a rig.
internal partial class Network
{
    /// <summary>Makes the elements for a state of the rig.</summary>
    public void Build(RigState state)
    {
        var (rig, sizes) = (situation.Rig, situation.Sizes);
        building.Clear();
        OpenToAir = new bool[Cells.Length];
        foreach (var cell in Cells)
            cell.Raised = 0;
        UnderTube = -1;
        var hung = new List<(Orifice, int)>();
        Main = Put(new Orifice(Parts.Supply, Supplied, Air, sizes.Main));
        Tap = Put(new Orifice(Parts.Site, SiteCell, Air, 0, outOnly: true));
        var site = situation.SiteBehind;
        if (site.Plumbing == SitePlumbing.OpenOutlet)
            Put(
                new Orifice(
                    Parts.Site,
                    SiteCell,
                    Air,
                    sizes.Outlet,
                    site.OutletHeight * Sizes.PsiPerInch,
                    outOnly: true
                )
            );
        if (site.Plumbing == SitePlumbing.OwnPressure)
            Put(new Orifice(Parts.Site, SiteCell, Air, sizes.Main, site.Pressure));
        foreach (var part in rig.Parts)
        {
            var open = part.Turns ? (double)state[part.Id].Fraction : 1;
            var leak = situation.Leak(part.Id);
            switch (part.Kind)
            {
                case PartKind.Shutoff when open > 0 || leak > 0:
                    Put(
                        new Orifice(
                            part.Id,
                            At(part.Id, "in"),
                            At(part.Id, "out"),
                            (sizes.Shutoff * open) + (open < 1 ? leak : 0)
                        )
                    );
                    break;
                case PartKind.Check:
                    Put(
                        new SpringCheck(
                            part.Id,
                            At(part.Id, "in"),
                            At(part.Id, "out"),
                            part.Id == Parts.Cv1 ? situation.Springs.Cv1 : situation.Springs.Cv2,
                            sizes.Check,
                            sizes.CheckLift
                        )
                    );
                    if (leak > 0)
                        Put(new Orifice(part.Id, At(part.Id, "in"), At(part.Id, "out"), leak, seesDrained: true));
                    break;
                case PartKind.Relief:
                    if (situation.Of(part.Id, FaultKind.StuckClosed) is null)
                        Put(
                            new ReliefSeat(
                                At(part.Id, "in"),
                                BeforeFirst,
                                Air,
                                situation.Springs.Relief,
                                sizes.Relief,
                                sizes.ReliefStroke
                            )
                            {
                                Senses = BeforeFirst,
                            }
                        );
                    if (leak > 0)
                        Put(new Orifice(part.Id, At(part.Id, "in"), Air, leak, outOnly: true));
                    break;
                case PartKind.Inlet:
                    InletOrifice = Put(new Orifice(part.Id, Body, Air, 0, Cells[Body].TopHead, outOnly: true));
                    if (leak > 0)
                        Put(new Orifice(part.Id, Body, Air, leak, Cells[Body].TopHead, outOnly: true));
                    break;
                case PartKind.Screw when open > 0:
                    Put(
                        new Orifice(
                            part.Id,
                            At(part.Id, "in"),
                            Air,
                            sizes.Screw * open,
                            sizes.VentHeight * Sizes.PsiPerInch,
                            outOnly: true
                        )
                    );
                    OpenToAir[At(part.Id, "in")] = true;
                    break;
                case PartKind.Control when open > 0:
                    Put(new Orifice(part.Id, At(part.Id, "in"), At(part.Id, "out"), sizes.Needle * open));
                    break;
                case PartKind.Bleed when open > 0:
                    Put(new Orifice(part.Id, At(part.Id, "in"), Air, sizes.Needle * open, outOnly: true));
                    OpenToAir[At(part.Id, "in")] = true;
                    break;
                case PartKind.Cock when open > 0 && situation.Of(part.Id, FaultKind.Blocked) is null:
                    Cock(state, part.Id, sizes.Cock * open, hung);
                    break;
                case PartKind.Hose when !state.Connections.ContainsKey(part.Id):
                    Put(new Orifice(part.Id, At(part.Id, "kit"), Air, sizes.Hose, outOnly: true));
                    OpenToAir[At(part.Id, "kit")] = true;
                    break;
                case PartKind.Hose when state.Connections[part.Id] == Parts.BleedOff:
                    Hang(part.Id, Tee, sizes.Hose, hung);
                    break;
                case PartKind.SightTube when state.Connections.ContainsKey(part.Id):
                    Put(new Orifice(part.Id, Tube, Air, sizes.Cock, Cells[Tube].TopHead, outOnly: true));
                    break;
                case PartKind.BleedOff when state.Connections.ContainsKey(part.Id):
                    if (open > 0)
                        Put(
                            new Orifice(
                                part.Id,
                                Tee,
                                Air,
                                sizes.Tee * open,
                                sizes.CockHeight * Sizes.PsiPerInch,
                                outOnly: true
                            )
                        );
                    // Its free end is capped while no hose is on it.
                    OpenToAir[Tee] = open > 0;
                    break;
            }
        }

        OpenThroughTheManifold(state);
        Elements = [.. building];
        Elimination.Learn(Elements, Checks);
        Hung = [.. hung];
    }

    private void Cock(RigState state, PartId cock, double conductance, List<(Orifice, int)> hung)
    {
        var cell = At(cock, "in");
        var on = state.On(cock);
        if (on is null)
        {
            Put(
                new Orifice(cock, cell, Air, conductance, situation.Sizes.CockHeight * Sizes.PsiPerInch, outOnly: true)
            );
            OpenToAir[cell] = true;
        }
        else if (on == Parts.BleedOff)
            Put(new Orifice(cock, cell, Tee, conductance, seesDrained: true));
        else if (on == Parts.SightTube)
        {
            Put(new Orifice(cock, cell, Tube, conductance));
            UnderTube = cell;
        }
        else
            Hang(
                on.Value,
                cell,
                1 / Math.Sqrt((1 / (conductance * conductance)) + (1 / (situation.Sizes.Hose * situation.Sizes.Hose))),
                hung
            );
    }

    private void Hang(PartId hose, int from, double conductance, List<(Orifice, int)> hung)
    {
        var side = At(hose, "kit");
        hung.Add((Put(new Orifice(hose, from, side, conductance, seesDrained: true)), side));
    }

    // A loose bypass hose lets air in through whatever controls stand open.
    private void OpenThroughTheManifold(RigState state)
    {
        var rig = situation.Rig;
        if (!rig.Has(Parts.BypassControl))
            return;
        var controls = new[] { Parts.BypassControl, Parts.HighControl, Parts.LowControl }
            .Where(c => state[c].IsOpen)
            .Select(c => At(c, "in"))
            .ToArray();
        if (!controls.Any(c => OpenToAir[c]))
            return;
        OpenToAir[Named("manifold")] = true;
        foreach (var side in controls)
            OpenToAir[side] = true;
    }

    private T Put<T>(T element)
        where T : Element
    {
        building.Add(element);
        return element;
    }
}
