using System.Globalization;

namespace Mordel.DemoData;

/// <summary>
/// A place of the invented town: name, street, district, position in metres from the zero stone, owner's index, and
/// what its assemblies serve.
/// </summary>
public sealed record TownPlace(
    string Name,
    string Street,
    string District,
    int East,
    int North,
    int Owner,
    string Contact,
    string Access,
    params string[] Serves
);

/// <summary>
/// Ravelsund, which exists nowhere: a harbour town on a sound, with a river, the Isk, coming down from Eastfell.
/// Everything in it is made up.
/// </summary>
public static class TownData
{
    public const string Town = "Ravelsund",
        Firm = "Fennmark Backflow Testing",
        Guild = "Ravelsund Guild of Water Testers";
    public const string Board = "Ravelsund Water Board",
        Valley = "Eastfell Valley Supply";

    /// <summary>Where the firm is reached.</summary>
    public const string FirmPhone = "0199 100 777",
        FirmMail = "office@fennmark.invalid";

    /// <summary>Where the board is told at once of a failure on a high hazard.</summary>
    public const string BoardAlerts = "alerts@ravelsund-water.invalid";

    /// <summary>Where the two authorities take reports; nothing leaves the house, both are stand-ins.</summary>
    public const string BoardIntake = "simulated://intake.ravelsund-water.invalid",
        ValleyIntake = "simulated://intake.eastfell-valley.invalid";

    /// <summary>The key that the valley's simulated intake asks for.</summary>
    public const string ValleyKey = "demo-key-of-the-valley";

    /// <summary>The hours in which a place can do without water; null where any will do.</summary>
    public static string? FixedHours(string place) =>
        place switch
        {
            "Infirmary" => "06:00..07:30",
            "Covered market" => "05:00..06:30",
            "Sundial Hotel" => "10:00..12:00",
            "Clock Street bakery" => "11:00..15:00",
            "Lantern Lane school" or "Lower school" => "13:30..16:30",
            _ => null,
        };

    /// <summary>Owners: name, address, telephone, mail, language of letters.</summary>
    public static readonly (string Name, string Address, string Phone, string Mail, string Language)[] Owners =
    [
        ("Ravelsund Town Works", "Council House, 1 Zero Square", "0199 100 210", "works@ravelsund.invalid", ""),
        ("Saltings Fish Cooperative", "14 Curing Row", "0199 100 344", "hall@saltings-fish.invalid", ""),
        ("Isk Mills Ltd", "2 Weir Street", "0199 100 417", "engineers@isk-mills.invalid", ""),
        ("Terrace Homes Association", "80 Upper Terrace", "0199 100 523", "homes@terraces.invalid", ""),
        ("Harbour Dues Office", "Old Quay 5", "0199 100 655", "dues@closed.invalid", ""),
        ("Eastfell Growers", "Packing House, Fell Road", "0199 100 781", "packhaus@eastfell-growers.invalid", "de"),
        ("Lanternhouse Schools", "9 Lantern Lane", "0199 100 836", "caretakers@lanternhouse.invalid", ""),
        ("Northyard Properties", "33 Northyard", "0199 100 902", "", ""),
    ];

    /// <summary>The places. Those under Eastfell belong to the valley's authority.</summary>
    public static readonly TownPlace[] Sites =
    [
        .. Places
            .Replace("\n  ", " | ", StringComparison.Ordinal)
            .Split('\n')
            .Select(row => row.Split(" | "))
            .Select(c => new TownPlace(
                c[0],
                c[1],
                c[2],
                int.Parse(c[3], CultureInfo.InvariantCulture),
                int.Parse(c[4], CultureInfo.InvariantCulture),
                int.Parse(c[5], CultureInfo.InvariantCulture),
                c[6],
                c[7],
                c[8].Split("; ")
            )),
    ];

    // Name | street | district | metres east | north | owner
    //   whom to ask for | way in | what is fed
    private const string Places = """
        Curing Row smokehouse | 14 Curing Row | Saltings | 1240 | -620 | 1
          Dag Ullen, foreman | Ring at the loading door. | brine tanks; wash-down hoses
        Ice plant | 3 Curing Row | Saltings | 1310 | -580 | 1
          Dag Ullen, foreman | Ear protection inside. | ice makers
        Net loft | 22 Strand | Saltings | 1480 | -700 | 1
          Moa Ferrin | Key at the cooperative. | rinse basins
        Auction hall | 1 Strand | Saltings | 1390 | -760 | 1
          Moa Ferrin | Closed until ten on sale days. | floor wash; fire line
        Harbour office | Old Quay 5 | Old Quay | 620 | -410 | 4
          Signe Ost, porter | Porter's lodge, left of the arch. | boiler feed
        Pilot house | Old Quay 19 | Old Quay | 840 | -520 | 4
          Watch officer | Always manned. | dock hydrants
        Ferry steps | Old Quay 2 | Old Quay | 560 | -450 | 4
          Signe Ost, porter | Pit in the pavement, two lids. | ferry supply; kiosk
        Customs baths | Tar Lane 8 | Old Quay | 450 | -330 | 0
          Bath attendant | Plant room behind the hot room. | pool make-up; shower block
        Chandler's Court | Tar Lane 21 | Old Quay | 390 | -290 | 7
          Caretaker Brill | Meter cupboard under the stair. | flats 1 to 12
        Weir Street mill | 2 Weir Street | Millrace | -310 | 260 | 2
          Shift engineer | Sign in at the gate; safety shoes. | size kitchen; humidifiers; fire line
        Dye house | 6 Weir Street | Millrace | -360 | 300 | 2
          Shift engineer | Sign in at the gate. | rinse line
        Wheel house | 1 Race Bank | Millrace | -250 | 340 | 2
          Shift engineer | Key in the gate house. | bearing cooling
        Bobbin works | 18 Race Bank | Millrace | -190 | 410 | 7
          Lise Tamm | Yard door; beware of the dog. | steam boxes
        Race Bank laundry | 30 Race Bank | Millrace | -120 | 455 | 7
          Lise Tamm | Side door, ring twice. | washers; boiler feed
        Council House | 1 Zero Square | Centre | 40 | 25 | 0
          Caretaker Holm | Basement, red door. | heating make-up; fire line
        Covered market | 4 Zero Square | Centre | 95 | -30 | 0
          Market warden | Before seven or after two. | stall taps; fish hall wash
        Town library | 12 Book Street | Centre | -60 | 80 | 0
          Front desk | Basement, behind the stacks. | humidifier
        Clock Street bakery | 7 Clock Street | Centre | 130 | 110 | 7
          Baker Runa | After the morning bake. | steam ovens
        Sundial Hotel | 15 Clock Street | Centre | 170 | 140 | 7
          House manager | Ask for the house manager. | kitchen; laundry; cooling
        Lantern Lane school | 9 Lantern Lane | Centre | -180 | -90 | 6
          Caretaker Aune | Boiler room, yard side. | kitchen; laboratory
        Lower school | 31 Lantern Lane | Centre | -240 | -150 | 6
          Caretaker Aune | Key at Lantern Lane school. | wash rooms
        Upper Terrace 80 | 80 Upper Terrace | Terraces | -720 | 540 | 3
          Block warden | Cellar, first door left. | flats, stair A
        Upper Terrace 96 | 96 Upper Terrace | Terraces | -780 | 590 | 3
          Block warden | Cellar; low beam. | flats, stair A; flats, stair B
        Terrace baths | 12 Steam Walk | Terraces | -650 | 620 | 3
          Bath keeper | Plant room, rear. | hot baths
        Infirmary | 1 Steam Walk | Terraces | -600 | 700 | 0
          Plant engineer, extension 4 | Agreed window only; sign in. | boiler feed; laundry
        Lookout gardens | Lookout Path | Terraces | -860 | 730 | 0
          Head gardener | Box in the hedge by the sundial. | garden line
        Reading rooms | 44 Upper Terrace | Terraces | -690 | 500 | 3
          Front desk | Cupboard by the cloakroom. | heating make-up
        Northyard 33 | 33 Northyard | Northyard | 210 | 1120 | 7
          Yard master | Report at the weighbridge. | truck wash
        Cold store | 41 Northyard | Northyard | 280 | 1180 | 7
          Yard master | Gloves: the room is at four degrees. | condensers; fire line
        Print works | 52 Northyard | Northyard | 350 | 1210 | 7
          Olle Krage | Ring; machine noise. | plate rinse
        Glass works | 60 Northyard | Northyard | 430 | 1290 | 7
          Furnace foreman | No shut-off while the furnace draws. | furnace cooling
        Tram depot | 5 Points Road | Northyard | 160 | 1260 | 0
          Depot desk | Mind the rails. | wash hall; staff block
        Gas holder house | 2 Points Road | Northyard | 90 | 1310 | 0
          Depot desk | No open flame. | seal water
        Fell Road packing house | Fell Road 1 | Eastfell | 2600 | 1900 | 5
          Grower's desk | Gate code from the desk. | wash line; cold room
        Glasshouse row | Fell Road 14 | Eastfell | 2750 | 2050 | 5
          Vera Lund | House 3, north end. | irrigation; misting
        Seed barn | Fell Road 22 | Eastfell | 2840 | 2140 | 5
          Vera Lund | Key under the trough. | yard taps
        Eastfell dairy | Churn Lane 3 | Eastfell | 3010 | 1820 | 5
          Dairy foreman | Hair cover, clean boots. | cleaning station; boiler feed
        Fell school | Churn Lane 12 | Eastfell | 3100 | 1760 | 6
          Caretaker Fjell | Boiler room. | kitchen
        Spring inn | Fell Road 40 | Eastfell | 2960 | 2300 | 5
          Landlady | Cellar hatch in the bar. | kitchen
        Valley clinic | Churn Lane 1 | Eastfell | 2980 | 1700 | 0
          Clinic desk | Agreed window only. | heating make-up
        """;

    /// <summary>
    /// Makers and models of assemblies with their springs when new, in psid; relief and inlet where the type has them.
    /// </summary>
    public static readonly (
        string Type,
        string Make,
        string Model,
        double Cv1,
        double Cv2,
        double Relief,
        double Inlet
    )[] Makes =
    [
        ("DC", "Corvane", "Twin 40", 2.6, 2.2, 0, 0),
        ("DC", "Corvane", "Twin 60", 3.1, 2.4, 0, 0),
        ("DC", "Aldwater Brass", "D-21", 2.2, 2.0, 0, 0),
        ("DC", "Aldwater Brass", "D-24", 2.4, 2.1, 0, 0),
        ("DC", "Thistle & Bore", "Pair", 1.9, 1.8, 0, 0),
        ("DC", "Nordquay", "Stave 2", 3.4, 2.9, 0, 0),
        ("RP", "Corvane", "Lock 40", 7.9, 1.9, 3.2, 0),
        ("RP", "Aldwater Brass", "Z-31", 8.6, 2.2, 3.6, 0),
        ("RP", "Nordquay", "Stave 3", 7.2, 1.7, 2.9, 0),
        ("PVB", "Thistle & Bore", "Hedge", 1.8, 0, 0, 1.9),
        ("PVB", "Aldwater Brass", "P-12", 1.6, 0, 0, 1.7),
        ("SVB", "Thistle & Bore", "Sill", 3.1, 0, 0, 1.8),
        ("SVB", "Corvane", "Indoor 15", 2.7, 0, 0, 1.6),
    ];

    /// <summary>How the town's makes are built: make, model, family, family of the relief valve.</summary>
    public static readonly (string Make, string Model, string Family, string? Relief)[] Builds =
    [
        ("Corvane", "Twin 40", "screw-cap-poppet", null),
        ("Corvane", "Twin 60", "in-line-stack", null),
        ("Aldwater Brass", "D-21", "caged-cartridge", null),
        ("Thistle & Bore", "Pair", "screw-cap-poppet", null),
        ("Nordquay", "Stave 2", "tower-check", null),
        ("Corvane", "Lock 40", "screw-cap-poppet", "relief-piston"),
        ("Aldwater Brass", "Z-31", "caged-cartridge", null),
        ("Nordquay", "Stave 3", "cam-arm-sleeve", "relief-cartridge"),
        ("Thistle & Bore", "Hedge", "vacuum-breaker", null),
        ("Thistle & Bore", "Sill", "vacuum-breaker", null),
    ];

    /// <summary>
    /// The type that the hazard of what is served asks for; a double check where nothing else is said.
    /// </summary>
    public static string TypeFor(string serves) =>
        serves switch
        {
            "brine tanks"
            or "size kitchen"
            or "rinse line"
            or "plate rinse"
            or "seal water"
            or "laboratory"
            or "furnace cooling"
            or "cleaning station"
            or "boiler feed"
            or "pool make-up"
            or "steam boxes"
            or "dock hydrants"
            or "aspirator water"
            or "wash bay"
            or "kettle feed" => "RP",
            "garden line" or "irrigation" or "misting" or "yard taps" or "wash-down hoses" => "PVB",
            "humidifiers" or "humidifier" or "wash rooms" or "rinse basins" or "stall taps" => "SVB",
            _ => "DC",
        };

    /// <summary>The class of use of what is fed at a place.</summary>
    public static string UseOf(TownPlace site, string serves)
    {
        ArgumentNullException.ThrowIfNull(site);
        return serves switch
        {
            "fire line" => "fire",
            "garden line" or "irrigation" or "misting" or "yard taps" => "irrigation",
            "flats 1 to 12" or "flats, stair A" or "flats, stair B" => "residential",
            _ when site.Name is "Infirmary" or "Valley clinic" => "medical",
            _ when site.Name.EndsWith("school", StringComparison.Ordinal) => "school",
            _ when site.District is "Millrace" or "Northyard" or "Saltings" => "industrial",
            _ => "commercial",
        };
    }

    /// <summary>When a seasonal line of the town is in use; null for what runs all year.</summary>
    public static string? SeasonOf(string serves) =>
        serves is "garden line" or "irrigation" or "misting" ? "04-15..10-15" : null;

    public static readonly string[] Sizes = ["3/4 in", "1 in", "1 1/2 in", "2 in", "3 in", "4 in"];
}
