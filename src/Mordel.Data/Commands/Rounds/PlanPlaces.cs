using Mordel.Core.Planning;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>The places of a problem, each once.</summary>
internal sealed class PlanPlaces
{
    private const string Home = "home";

    private readonly List<PlanPlace> all = [];
    private readonly Dictionary<string, int> numbers = [];

    public IEnumerable<PlanPlace> All => all;

    /// <summary>Whether nobody has said where it is; a tester's yard may lie at the zero stone.</summary>
    public static bool IsNowhere(PlanPlace place) =>
        place is { East: 0, North: 0 } && !place.Id.StartsWith(Home, StringComparison.Ordinal);

    public int Of(PlaceRow place) => Number(place.Id.ToString(), place.Name, place.East, place.North);

    public int Yard(WorkingHoursRow work) =>
        Number(FormattableString.Invariant($"{Home} {work.East} {work.North}"), "the yard", work.East, work.North);

    private int Number(string id, string name, int east, int north)
    {
        if (numbers.TryGetValue(id, out var known))
            return known;
        all.Add(new(id, name, east, north));
        return numbers[id] = all.Count - 1;
    }
}
