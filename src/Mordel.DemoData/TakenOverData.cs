namespace Mordel.DemoData;

/// <summary>
/// What the firm took over this summer from Kobber &amp; Daughter, who tested by ledger for thirty years: houses along
/// the town's streets. Made up, like everything here.
/// </summary>
public static class TakenOverData
{
    public const string Firm = "Kobber & Daughter",
        Tester = "Henrik Kobber",
        Kit = "Gallibrand G3, GB-2207";

    /// <summary>
    /// Streets: name, district, where their first house stands in metres from the zero stone, and how they run from
    /// there to the last.
    /// </summary>
    public static readonly (string Name, string District, int East, int North, int ToEast, int ToNorth)[] Streets =
    [
        ("Rope Walk", "Old Quay", 520, -380, 330, -60),
        ("Ballast Lane", "Old Quay", 430, -250, 260, 90),
        ("Anchor Yard", "Old Quay", 700, -330, 120, 110),
        ("Strand", "Saltings", 1100, -690, 330, -60),
        ("Pan Street", "Saltings", 1180, -520, 260, 70),
        ("Gull Row", "Saltings", 1420, -560, 180, 120),
        ("Race Bank", "Millrace", -240, 360, 190, 120),
        ("Weir Street", "Millrace", -380, 230, 150, 90),
        ("Sluice Lane", "Millrace", -180, 300, 120, -100),
        ("Book Street", "Centre", -120, 60, 160, 50),
        ("Clock Street", "Centre", 80, 90, 150, 80),
        ("Lantern Lane", "Centre", -90, -60, -180, -110),
        ("Chandler Street", "Centre", 60, -110, 190, -60),
        ("Upper Terrace", "Terraces", -640, 470, -190, 160),
        ("Steam Walk", "Terraces", -580, 610, -110, 120),
        ("Linden Steps", "Terraces", -500, 520, -90, -130),
        ("Northyard", "Northyard", 180, 1080, 280, 220),
        ("Points Road", "Northyard", 60, 1200, 120, 160),
        ("Siding Street", "Northyard", 300, 1060, 220, 60),
        ("Fell Road", "Eastfell", 2550, 1860, 430, 450),
        ("Churn Lane", "Eastfell", 2920, 1650, 240, 220),
        ("Orchard Way", "Eastfell", 2680, 1760, 260, 60),
    ];

    /// <summary>Kinds of houses: what they are, what their assemblies feed, whom to ask for, the way in.</summary>
    public static readonly (string Kind, string[] Serves, string Ask, string WayIn)[] Kinds =
    [
        ("Flats {0}", ["flats, stair A"], "House warden", "Cellar, key at the warden's."),
        ("Bakehouse {0}", ["steam ovens"], "Master baker", "After the morning bake."),
        ("Dental rooms {0}", ["aspirator water"], "Front desk", "Agreed window only."),
        ("Guest house {0}", ["kitchen", "garden line"], "House manager", "Side door, ring twice."),
        ("Wash house {0}", ["washers", "boiler feed"], "Attendant", "Plant room behind the counter."),
        ("Garage {0}", ["wash bay"], "Workshop foreman", "Gate stands open by day."),
        ("Brewhouse {0}", ["kettle feed", "wash-down hoses"], "Brewer", "Not on brewing days."),
        ("Chapel {0}", ["heating make-up"], "Verger", "Key under the third flowerpot."),
        ("Workshop {0}", ["humidifier"], "Foreman", "Ring; machine noise."),
        ("Kindergarten {0}", ["wash rooms", "garden line"], "Head", "Before eight or after four."),
        ("Flats {0}", ["flats, stair A", "flats, stair B"], "House warden", "Cellar, key at the warden's."),
        ("Printing shop {0}", ["plate rinse"], "Shop desk", "Service cupboard in the yard."),
        ("Allotments {0}", ["irrigation"], "Plot warden", "Box in the hedge by the gate."),
        ("Store {0}", ["condensers", "fire line"], "Duty engineer", "Report at the gate."),
    ];

    /// <summary>Owners: name, address, telephone.</summary>
    public static readonly (string Name, string Address, string Phone)[] Owners =
    [
        ("Quayside Lettings", "4 Rope Walk", "0199 101 014"),
        ("Marsh & Pan Holdings", "11 Pan Street", "0199 101 037"),
        ("Linden Steps Housing Union", "2 Linden Steps", "0199 101 066"),
        ("Siding Street Traders", "19 Siding Street", "0199 101 082"),
        ("Orchard Way Smallholders", "7 Orchard Way", "0199 101 105"),
        ("Book Street Estates", "31 Book Street", "0199 101 128"),
        ("Sluice Lane Makers", "5 Sluice Lane", "0199 101 141"),
        ("Gull Row Friendly Society", "9 Gull Row", "0199 101 177"),
        ("Churn Lane Partners", "16 Churn Lane", "0199 101 190"),
    ];

    /// <summary>
    /// The make and model whose discs of one delivery swell in two years, and how the serials of that delivery begin.
    /// </summary>
    public const string BadMake = "Thistle & Bore",
        BadModel = "Pair",
        BadSerials = "T96-";
}
