using System.Collections.Immutable;

namespace Mordel.Core.Planning;

/// <summary>
/// How long the ways between places take, by the time of leaving: a table of minutes for each part of the day.
/// </summary>
public sealed class TravelTable
{
    private readonly ImmutableArray<int> begins;
    private readonly ImmutableArray<ImmutableArray<int>> minutes;

    /// <summary>What stands for a way that there is not.</summary>
    public const int NoWay = -1;

    /// <summary>The longest way, in minutes.</summary>
    public const int Longest = 12 * 60;

    /// <summary>Makes a table.</summary>
    /// <param name="places">How many places there are.</param>
    /// <param name="parts">
    /// For each part of the day the minute it begins at, the first at 0 and rising, and the minutes from each place
    /// to each, row by row; <see cref="NoWay"/> where there is no way.
    /// </param>
    /// <exception cref="ArgumentException">The parts are not as they should be.</exception>
    public TravelTable(int places, IReadOnlyList<(int Begins, ImmutableArray<int> Minutes)> parts)
    {
        ArgumentNullException.ThrowIfNull(parts);
        if (
            parts.Count == 0
            || parts[0].Begins != 0
            || parts.Zip(parts.Skip(1)).Any(p => p.First.Begins >= p.Second.Begins)
        )
            throw new ArgumentException("The parts of the day begin at midnight and follow each other.", nameof(parts));
        if (parts.Any(p => p.Minutes.Length != places * places || p.Minutes.Any(m => m is < NoWay or > Longest)))
            throw new ArgumentException("Each part has the minutes from each place to each.", nameof(parts));
        (Places, begins, minutes) = (places, [.. parts.Select(p => p.Begins)], [.. parts.Select(p => p.Minutes)]);
    }

    /// <summary>How many places it knows.</summary>
    public int Places { get; }

    /// <summary>The parts of the day: the minute each begins at, and its minutes row by row.</summary>
    public IEnumerable<(int Begins, ImmutableArray<int> Minutes)> Parts => begins.Zip(minutes);

    /// <summary>The minutes of a way when leaving at a minute of the day; null where there is none.</summary>
    public int? Minutes(int from, int to, int leaving)
    {
        var part = begins.Length - 1;
        while (part > 0 && begins[part] > leaving)
            part--;
        return from == to ? 0
            : minutes[part][(from * Places) + to] is var m and not NoWay ? m
            : null;
    }

    /// <summary>
    /// The most minutes that a way takes when leaving between two minutes of the day; null where there is none.
    /// </summary>
    public int? Slowest(int from, int to, int earliest, int latest)
    {
        int? slowest = null;
        for (var part = 0; part < begins.Length; part++)
        {
            var ends = part + 1 < begins.Length ? begins[part + 1] : int.MaxValue;
            if (ends <= earliest || begins[part] > latest)
                continue;
            if (Minutes(from, to, begins[part]) is not { } here)
                return null;
            slowest = Math.Max(slowest ?? 0, here);
        }

        return slowest ?? Minutes(from, to, earliest);
    }
}
