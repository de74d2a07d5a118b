using Mordel.Data.Rows;

namespace Mordel.DemoData;

/// <summary>
/// How an assembly of the town is built and stands: by what it feeds, and the rest by lot.
/// </summary>
internal static class TownAssembly
{
    /// <summary>Draws one.</summary>
    /// <param name="chance">The lot.</param>
    /// <param name="id">Its id.</param>
    /// <param name="place">Where it stands.</param>
    /// <param name="authority">Whose rules hold there.</param>
    /// <param name="tag">Its tag.</param>
    /// <param name="serves">What it feeds.</param>
    /// <param name="use">The class of use.</param>
    /// <param name="make">Make and model.</param>
    /// <param name="serial">Gives its serial.</param>
    /// <param name="flow">How it lies, where its type does not say.</param>
    /// <param name="walls">The wall outside and the one inside where it may hang.</param>
    public static AssemblyRow Draw(
        SeededChance chance,
        Guid id,
        PlaceRow place,
        AuthorityRow authority,
        string tag,
        string serves,
        string use,
        (string Make, string Model) make,
        Func<string> serial,
        string flow,
        (string Outside, string Inside) walls
    )
    {
        var type = TownData.TypeFor(serves);
        var fire = serves == "fire line";
        var vacuum = type is "PVB" or "SVB";
        var metric = type == "RP" && place.District == "Eastfell";
        const string pit = "Meter pit";
        var row = new AssemblyRow
        {
            Id = id,
            PlaceId = place.Id,
            Place = place,
            AuthorityId = authority.Id,
            Authority = authority,
            Tag = tag,
            Type = type,
            Body =
                type != "RP" ? null
                : metric ? "three-tap"
                : "four-cock",
            Strainer = metric && chance.Next(2) == 0,
            FittedCocks = chance.Next(4) == 0,
            BypassLine = fire,
            ReliefPort = type == "RP" ? 20m : null,
            Make = make.Make,
            Model = make.Model,
            Size = fire ? "4 in" : TownData.Sizes[chance.Next(vacuum ? 3 : 5)],
            Serial = serial(),
            Flow = vacuum ? "Upward" : flow,
            Location =
                type == "PVB" ? walls.Outside
                : fire ? "Valve room, ground floor"
                : chance.Next(3) switch
                {
                    0 => walls.Inside,
                    1 => pit,
                    _ => "Service cupboard",
                },
            Serves = serves,
            Hazard = type == "RP" ? "high" : "low",
            Use = use,
            Season = TownData.SeasonOf(serves),
            Protection = chance.Next(3) == 0 ? "isolation" : "containment",
            FireLine = fire,
            HowToFind = place.Access,
            WaterOff = fire ? "07:00..10:00" : TownData.FixedHours(place.Name),
        };
        row.ConfinedSpace = row.Location == pit;
        return row;
    }
}
