namespace Mordel.Core.Rigs;

/// <summary>Where a shutoff or a cock stands when the tester comes or goes.</summary>
public enum ValvePosition
{
    /// <summary>Fully open.</summary>
    Open,

    /// <summary>Closed.</summary>
    Closed,

    /// <summary>In between.</summary>
    Partly,
}

/// <summary>How valves stand and how far they are open.</summary>
public static class ValvePositions
{
    /// <summary>How far a valve is open that stands so; halfway where it stands in between.</summary>
    public static Opening AsOpening(this ValvePosition standing) =>
        standing switch
        {
            ValvePosition.Open => Opening.Full,
            ValvePosition.Closed => Opening.Closed,
            _ => Opening.Half,
        };

    /// <summary>How a valve stands that is open so far.</summary>
    public static ValvePosition AsPosition(this Opening opening) =>
        opening == Opening.Full ? ValvePosition.Open
        : opening.IsOpen ? ValvePosition.Partly
        : ValvePosition.Closed;

    /// <summary>
    /// The valves whose standing is written down on arrival and on leaving: both shutoffs, and every cock or screw
    /// behind the first that drains the body.
    /// </summary>
    public static IEnumerable<PartId> WrittenDownFor(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return [Parts.So1, Parts.So2, .. Drains(body)];
    }

    /// <summary>
    /// How a valve stands on a line that is drained for the season: SO1 shut, SO2 open so that the line empties back
    /// through the body, the last cock and one more open, the others shut (handbook chapter 6).
    /// </summary>
    public static ValvePosition WhenDrained(AssemblyBody body, PartId valve) =>
        valve == Parts.So2 || Drains(body).Reverse().Take(2).Contains(valve)
            ? ValvePosition.Open
            : ValvePosition.Closed;

    /// <summary>The cocks and screws that drain the body once SO1 is shut.</summary>
    public static IEnumerable<PartId> Drains(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return [.. body.Cocks, .. body.Parts.Where(p => p.Kind == PartKind.Screw).Select(p => p.Id)];
    }
}
