using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// The cells of a rig, fixed, and the elements between them, made anew whenever a hand has changed the rig.
/// </summary>
internal sealed class Network
{
    // A hose lies flat: its bore is all the height its water has, in.
    private const double KitFloor = -0.02;

    private readonly Situation situation;
    private readonly Dictionary<string, int> byName = [];
    private readonly List<Element> building = [];

    public Network(Situation situation)
    {
        this.situation = situation;
        var (rig, sizes) = (situation.Rig, situation.Sizes);
        var cells = new List<Cell>();
        void Add(Cell cell)
        {
            byName.Add(cell.Name, cells.Count);
            cells.Add(cell);
        }

        foreach (var chamber in rig.Body.Chambers)
        {
            var site = chamber.Ports.Any(p => p.Part == Parts.Site);
            var top =
                !chamber.Ports.Any(p => p.Part == Parts.AirInlet) ? sizes.CockHeight
                : rig.Has(Parts.VentScrew) ? sizes.VentHeight
                : sizes.InletHeight;
            Add(new(chamber.Id, site ? sizes.SiteGives : sizes.ChamberGives, sizes.ChamberHolds, top, sizes.Floor));
        }

        var airLeft = situation.Kit(FaultKind.AirInHoses) is null ? 0 : sizes.AirLeft * sizes.HoseHolds;
        foreach (var side in rig.Kit.Chambers)
        {
            var hose = side.Ports.Any(p => rig[p.Part].Kind == PartKind.Hose);
            Add(
                new(
                    side.Id,
                    hose ? sizes.HoseGives : sizes.ManifoldGives,
                    hose ? sizes.HoseHolds : sizes.ManifoldHolds,
                    0,
                    KitFloor
                )
                {
                    StubbornAir = hose ? airLeft : 0,
                }
            );
        }

        Add(
            new(
                "tube",
                sizes.ManifoldGives,
                sizes.TubeBore * sizes.TubeLength,
                sizes.CockHeight + sizes.TubeLength,
                sizes.CockHeight
            )
            {
                Vented = true,
            }
        );
        Add(new("tee", sizes.ManifoldGives, sizes.ManifoldHolds, sizes.CockHeight, sizes.Floor));
        Cells = [.. cells];
        Air = Cells.Length;
        (Tube, Tee) = (byName["tube"], byName["tee"]);
        (Supplied, SiteCell) = (At(Parts.Supply, "out"), At(Parts.Site, "in"));
        BeforeFirst = At(Parts.Cv1, "in");
        Body = rig.Has(Parts.AirInlet) ? At(Parts.AirInlet, "in") : -1;
        (High, Low) = (At(Parts.Gauge, "high"), At(Parts.Gauge, "low"));
        Checks =
        [
            .. rig.Body.Parts.Where(p => p.Kind == PartKind.Check).Select(p => (At(p.Id, "in"), At(p.Id, "out"))),
        ];
    }

    /// <summary>The cells: the body's in flow order, the kit's, the sight tube, the tee.</summary>
    public Cell[] Cells { get; }

    /// <summary>What stands between them now.</summary>
    public Element[] Elements { get; private set; } = [];

    /// <summary>The checks as pairs of cells, whose discs give a little.</summary>
    public (int Up, int Down)[] Checks { get; }

    /// <summary>How much a check's disc gives, in³/psi.</summary>
    public double CheckGive => situation.Sizes.CheckGive;

    /// <summary>The number that stands for the air.</summary>
    public int Air { get; }

    public int Tube { get; }

    public int Tee { get; }

    public int Supplied { get; }

    public int SiteCell { get; }

    public int BeforeFirst { get; }

    /// <summary>The cell with the air inlet; −1 without one.</summary>
    public int Body { get; }

    public int High { get; }

    public int Low { get; }

    /// <summary>The main's boundary, the air inlet's opening and the tap, which change without a rebuilding.</summary>
    public Orifice Main { get; private set; } = null!;

    public Orifice? InletOrifice { get; private set; }

    public Orifice Tap { get; private set; } = null!;

    /// <summary>
    /// Hoses from a cock or tee to the kit, whose head hangs on the gauge's height and the air in them.
    /// </summary>
    public (Orifice Link, int Side)[] Hung { get; private set; } = [];

    /// <summary>
    /// For each cell whether an opening lets air in as the rig stands (the tube and the air inlet aside).
    /// </summary>
    public bool[] OpenToAir { get; private set; } = [];

    /// <summary>The cell under the sight tube; −1 while it is not fitted or its cock is shut.</summary>
    public int UnderTube { get; private set; } = -1;

    /// <summary>The cell of a chamber.</summary>
    public int Named(string chamber) =>
        byName.TryGetValue(chamber, out var at)
            ? at
            : throw new ArgumentException($"There is no chamber {chamber} on this rig.", nameof(chamber));

    private int At(PartId part, string port) => byName[situation.Rig.At(new(part, port))!.Id];

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
