using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>
/// Stops that are made in one visit, one behind the other: those on one line or in one pit, or one alone.
/// </summary>
/// <param name="Stops">The stops in their order.</param>
public sealed record PlanBlock(ImmutableArray<PlanStop> Stops)
{
    /// <summary>Where it is.</summary>
    public int Place => Stops[0].Place;

    /// <summary>How long all of it takes.</summary>
    public int Minutes => Stops.Sum(s => s.Minutes);

    /// <summary>The blocks of a problem, in the order of their first stops.</summary>
    public static ImmutableArray<PlanBlock> Of(IEnumerable<PlanStop> stops)
    {
        ArgumentNullException.ThrowIfNull(stops);
        return
        [
            .. stops
                .GroupBy(s => s.Together is { } key ? (key, s.Place) : (s.Id, -1 - s.Place))
                .Select(g => new PlanBlock([.. g])),
        ];
    }

    /// <summary>When the work may begin, so that each of its stops lies within its own windows.</summary>
    /// <param name="hours">What the whole work lies within as well.</param>
    public ImmutableArray<Window> Begins(Window hours)
    {
        // Windows of beginnings; each further stop cuts them.
        var offset = 0;
        ImmutableArray<Window> may = [new(hours.From, hours.Until - Minutes)];
        foreach (var stop in Stops)
        {
            var shifted = stop.Pin?.At is { } at
                ? [new Window(at - offset, at - offset)]
                : stop.Windows.Select(w => new Window(w.From - offset, w.Until - stop.Minutes - offset)).ToList();
            if (stop.Pin?.At is { } pinned && !stop.Windows.Any(w => w.Holds(new(pinned, pinned + stop.Minutes))))
                shifted = [];
            may =
            [
                .. from a in may
                from b in shifted
                let both = new Window(Math.Max(a.From, b.From), Math.Min(a.Until, b.Until))
                where both.From <= both.Until
                orderby both.From
                select both,
            ];
            offset += stop.Minutes;
        }

        return may;
    }
}
