using System.Globalization;
using Mordel.Core.Catalogue;
using Mordel.Data;
using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>What is true of an assembly through the years, apart from its row.</summary>
/// <param name="Row">The row.</param>
/// <param name="Index">Its number in the town, from which everything that happens to it is drawn.</param>
/// <param name="New">Its springs when it was new.</param>
/// <param name="Years">How many years ago it was installed.</param>
/// <param name="Wear">psid that a small spring loses in a year.</param>
/// <param name="LastTested">How many days ago it was last to be tested; of no meaning for a seasonal line.</param>
/// <param name="Trouble">What befalls it.</param>
public sealed record TownValve(
    AssemblyRow Row,
    int Index,
    Springs New,
    double Years,
    double Wear,
    int LastTested,
    Trouble Trouble
);

/// <summary>What befalls an assembly of the town beside wear.</summary>
public enum Trouble
{
    /// <summary>Nothing.</summary>
    None,

    /// <summary>The discs of its delivery swell.</summary>
    BadDiscs,

    /// <summary>Grit from works on the main lay under a check this autumn.</summary>
    GritNow,

    /// <summary>Grit from works on the main lay under a check two years ago.</summary>
    GritThen,

    /// <summary>SO1 leaks.</summary>
    So1Leaks,

    /// <summary>SO2 leaks.</summary>
    So2Leaks,

    /// <summary>It was missed this year.</summary>
    Missed,
}

/// <summary>
/// The assemblies that the firm took over from another. Everything is drawn from seeds of its own: each assembly's
/// story hangs on its number alone, so that what was performed on the water once holds on any day.
/// </summary>
public sealed class DemoTakenOver(Store store)
{
    private const int Seed = 7717,
        HousesInAStreet = 7,
        BadOnes = 14;

    private static readonly string[] Flows =
    [
        "LeftToRight",
        "RightToLeft",
        "LeftToRight",
        "Upward",
        "RightToLeft",
        "Downward",
    ];

    /// <summary>Adds owners, places and assemblies; in the order of their tags.</summary>
    public List<TownValve> Add(AuthorityRow board, AuthorityRow valley, DateOnly today)
    {
        ArgumentNullException.ThrowIfNull(board);
        ArgumentNullException.ThrowIfNull(valley);
        var chance = new SeededChance(Seed);
        var owners = TakenOverData
            .Owners.Select(
                (o, n) =>
                    new OwnerRow
                    {
                        Id = chance.NewId(),
                        Name = o.Name,
                        Address = $"{o.Address}, {TownData.Town}",
                        Phone = o.Phone,
                        // Two of three had left an address for letters with the firm that was taken over.
                        Mail =
                            n % 3 == 2
                                ? ""
                                : $"{string.Concat(o.Name.Where(char.IsAsciiLetter)).ToLowerInvariant()}@post.invalid",
                    }
            )
            .ToList();
        store.Owners.AddRange(owners);
        var valves = new List<TownValve>();
        foreach (var (street, number) in TakenOverData.Streets.Select((s, i) => (s, i)))
            for (var house = 0; house < HousesInAStreet; house++)
            {
                var (kind, serves, ask, wayIn) = TakenOverData.Kinds[
                    ((number * 5) + (house * 3) + chance.Next(3)) % TakenOverData.Kinds.Length
                ];
                var door = 3 + (house * 6) + chance.Next(5);
                var place = new PlaceRow
                {
                    Id = chance.NewId(),
                    OwnerId = owners[(number + (house % 2)) % owners.Count].Id,
                    Name = string.Format(CultureInfo.InvariantCulture, kind, $"{street.Name} {door}"),
                    Address = $"{door} {street.Name}",
                    District = street.District,
                    East = street.East + (street.ToEast * house / HousesInAStreet) + chance.Next(-12, 13),
                    North = street.North + (street.ToNorth * house / HousesInAStreet) + chance.Next(-12, 13),
                    Contact = ask,
                    Access = wayIn,
                };
                store.Places.Add(place);
                foreach (var fed in serves)
                {
                    var valve = Valve(
                        place,
                        fed,
                        street.District == "Eastfell" ? valley : board,
                        valves.Count,
                        valves.Count(v => v.Trouble == Trouble.BadDiscs),
                        today
                    );
                    store.Assemblies.Add(valve.Row);
                    valves.Add(valve);
                }
            }

        return valves;
    }

    private static TownValve Valve(
        PlaceRow place,
        string serves,
        AuthorityRow authority,
        int index,
        int badSoFar,
        DateOnly today
    )
    {
        var chance = new SeededChance(Seed + 1 + index);
        var id = chance.NewId();
        var type = TownData.TypeFor(serves);
        var fire = serves == "fire line";
        var makes = TownData.Makes.Where(m => m.Type == type).ToArray();
        var bad = type == "DC" && !fire && badSoFar < BadOnes && chance.Next(3) == 0;
        var make = bad
            ? makes.First(m => (m.Make, m.Model) == (TakenOverData.BadMake, TakenOverData.BadModel))
            : makes[chance.Next(makes.Length)];
        var years = bad ? 2.3 + (chance.Fraction() * 0.3) : 1.6 + (chance.Fraction() * 11);
        var trouble =
            bad ? Trouble.BadDiscs
            : place.District == "Millrace" && type is "DC" or "RP" && chance.Next(5) < 2 ? Trouble.GritNow
            : place.District == "Northyard" && type is "DC" or "RP" && chance.Next(5) < 2 ? Trouble.GritThen
            : chance.Next(14) switch
            {
                0 => Trouble.So1Leaks,
                1 => Trouble.So2Leaks,
                2 => Trouble.Missed,
                _ => Trouble.None,
            };
        var row = TownAssembly.Draw(
            chance,
            id,
            place,
            authority,
            $"F-{3001 + index}",
            serves,
            UseOf(serves),
            (make.Make, make.Model),
            () =>
                bad
                    ? $"{TakenOverData.BadSerials}{40010 + (7 * badSoFar)}"
                    : $"{make.Make[0]}{chance.Next(10, 90)}-{chance.Next(10000, 99999)}",
            Flows[index % Flows.Length],
            ("Outside wall, yard side", "Cellar wall")
        );
        row.InstalledOn = today.AddDays(-(int)(years * 365));
        var tested = trouble == Trouble.GritNow ? chance.Next(9, 46) : chance.Next(10, 356);
        return new(
            row,
            index,
            new(make.Cv1, make.Cv2, make.Relief, make.Inlet),
            years,
            0.02 + (chance.Fraction() * 0.08),
            tested,
            trouble
        );
    }

    private static string UseOf(string serves) =>
        serves switch
        {
            "fire line" => "fire",
            "garden line" or "irrigation" => "irrigation",
            "aspirator water" => "medical",
            "wash rooms" => "school",
            "kettle feed" or "plate rinse" or "wash bay" or "condensers" or "humidifier" => "industrial",
            _ when serves.StartsWith("flats", StringComparison.Ordinal) => "residential",
            _ => "commercial",
        };
}
