using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// The cells of a rig, fixed, and the elements between them, made anew whenever a hand has changed the rig.
/// </summary>
internal sealed partial class Network
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
        Elimination = new(Cells.Length);
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

    /// <summary>Solves the systems that these elements make.</summary>
    public Elimination Elimination { get; }

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
}
