using System.Collections.Immutable;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Repairs;

/// <summary>A stop of a day, with what is known of its assembly.</summary>
/// <param name="Tag">Its tag.</param>
/// <param name="Make">Its make.</param>
/// <param name="Model">Its model.</param>
/// <param name="Size">Its size.</param>
/// <param name="HasFailed">Whether its last test failed.</param>
/// <param name="ChanceToFail">The chance that the next test fails, in percent; null where none is told.</param>
/// <param name="LikelyPart">The part that it will most likely fail by, <c>cv1</c>; null where none is told.</param>
/// <param name="FollowUps">What was ordered for stopgaps that are open there.</param>
public sealed record CarryStop(
    string Tag,
    string Make,
    string Model,
    string Size,
    bool HasFailed,
    int? ChanceToFail,
    string? LikelyPart,
    ImmutableArray<string> FollowUps
);

/// <summary>A part that could be carried.</summary>
/// <param name="Id">Its place in the list.</param>
/// <param name="Part">What it is; <see cref="SparePart.InStore"/> says how many lie in the store.</param>
/// <param name="InVan">How many lie in the van.</param>
/// <param name="Used">How often it was used on this make and model in the last three years.</param>
public sealed record CarryPart(Guid Id, SparePart Part, int InVan, int Used);

/// <summary>Something to be carried.</summary>
/// <param name="Name">What it is, with the make and model it fits.</param>
/// <param name="Count">How many.</param>
/// <param name="InVan">How many lie in the van already.</param>
/// <param name="InStore">How many can be taken from the store.</param>
/// <param name="Why">Why, a reason each.</param>
public sealed record Carried(string Name, int Count, int InVan, int InStore, ImmutableArray<string> Why)
{
    /// <summary>How many are to be taken from the store.</summary>
    public int ToTake => Math.Min(Math.Max(Count - InVan, 0), InStore);

    /// <summary>How many are nowhere.</summary>
    public int Missing => Math.Max(Count - InVan - InStore, 0);
}

/// <summary>
/// What to carry for a day's stops: what was ordered for open stopgaps, kits for what failed or will likely fail, and
/// what this make and model used oftenest before.
/// </summary>
public static class CarryProposal
{
    // A part that was used so often on a make and model is worth its place.
    private const int Often = 2;

    /// <summary>The proposal, what has the strongest reason first.</summary>
    public static ImmutableArray<Carried> For(
        IReadOnlyCollection<CarryStop> stops,
        IReadOnlyCollection<CarryPart> parts
    )
    {
        ArgumentNullException.ThrowIfNull(stops);
        ArgumentNullException.ThrowIfNull(parts);
        var found = new List<(Carried What, int Weight)>();
        foreach (var part in parts.Where(p => p.Part.Part != SparePart.Whole))
        {
            var reasons = stops
                .Where(s => Fits(part.Part, s))
                .Select(s => (Stop: s, Why: Why(part, s)))
                .Where(r => r.Why.Weight > 0)
                .ToList();
            if (reasons.Count > 0)
                found.Add(
                    (
                        new(
                            $"{part.Part.Name}, {part.Part.Make} {part.Part.Model} {part.Part.Size}".TrimEnd(),
                            reasons.Count,
                            part.InVan,
                            part.Part.InStore,
                            [.. reasons.Select(r => $"{r.Stop.Tag}: {r.Why.Says}")]
                        ),
                        reasons.Max(r => r.Why.Weight)
                    )
                );
        }

        // What was ordered and is in no list is carried all the same.
        foreach (var stop in stops)
        foreach (var order in stop.FollowUps.Where(o => !parts.Any(p => Fits(p.Part, stop) && p.Part.Name == o)))
            found.Add((new(order, 1, 0, 0, [$"{stop.Tag}: ordered for the stopgap there; not in the parts list"]), 4));
        return
        [
            .. found
                .OrderByDescending(f => f.Weight)
                .ThenBy(f => f.What.Name, StringComparer.Ordinal)
                .Select(f => f.What),
        ];
    }

    private static bool Fits(SparePart part, CarryStop stop) =>
        part.Make == stop.Make && part.Model == stop.Model && (part.Size.Length == 0 || part.Size == stop.Size);

    private static (string Says, int Weight) Why(CarryPart part, CarryStop stop) =>
        stop.FollowUps.Contains(part.Part.Name) ? ("ordered for the stopgap there", 4)
        : stop.HasFailed ? ("failed at its last test", 3)
        : LikelyToFail.Is(stop.ChanceToFail) && stop.LikelyPart == part.Part.Part
            ? ($"will likely fail: {stop.ChanceToFail} in 100", 2)
        : part.Used >= Often ? ($"used {part.Used} times on this make and model in three years", 1)
        : ("", 0);
}
