using System.Collections.Immutable;
using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Diagnosis;

/// <summary>What lay in an opened part (handbook chapter 5).</summary>
public enum OpenedFinding
{
    /// <summary>Nothing odd.</summary>
    Clean,

    /// <summary>Debris on disc or seat.</summary>
    Debris,

    /// <summary>A cut disc.</summary>
    DiscCut,

    /// <summary>A worn disc.</summary>
    DiscWorn,

    /// <summary>A nicked seat.</summary>
    SeatNicked,

    /// <summary>A broken spring.</summary>
    SpringBroken,

    /// <summary>A spring that has gone weak.</summary>
    SpringWeak,

    /// <summary>A bound stem or guide.</summary>
    StemBound,

    /// <summary>A torn diaphragm.</summary>
    DiaphragmTorn,

    /// <summary>A blocked sensing passage.</summary>
    SensingBlocked,
}

/// <summary>One thing that was seen, read or found.</summary>
public abstract record Observed
{
    private Observed() { }

    /// <summary>Where it stands in the evidence: <c>looks[1]</c>.</summary>
    public required string Place { get; init; }

    /// <summary>What the relief port or the canopy did.</summary>
    /// <param name="Look">The look's id.</param>
    /// <param name="Seen">What was seen.</param>
    public sealed record PortSeen(string Look, PortState Seen) : Observed;

    /// <summary>Somebody looked and is not sure: it stands in the log and weighs nothing.</summary>
    /// <param name="Look">The look's id.</param>
    public sealed record Unsure(string Look) : Observed;

    /// <summary>The static pressure of the main.</summary>
    /// <param name="Psi">psi.</param>
    public sealed record LineRead(double Psi) : Observed;

    /// <summary>A sight of a run sheet.</summary>
    /// <param name="Step">The step's path, without its attempt.</param>
    /// <param name="Sight">The sight's id; <see cref="None"/> where nothing of what the sheet offers was seen.</param>
    public sealed record SightMet(string Step, string Sight) : Observed
    {
        /// <summary>The step was passed, and nothing of what its sheet offers was seen.</summary>
        public const string None = "none";

        /// <summary>The test ended before the step.</summary>
        public const string NotReached = "not-reached";
    }

    /// <summary>The result of an item.</summary>
    /// <param name="Item">The item.</param>
    /// <param name="Value">The answer.</param>
    public sealed record ItemRead(TestItem Item, ItemValue Value) : Observed
    {
        /// <summary>
        /// All answers that say something of their own: not how high a port stands, nor what two numbers differ by.
        /// </summary>
        /// <param name="results">The answers.</param>
        /// <param name="place">What stands before an item's name in each one's place.</param>
        public static IEnumerable<ItemRead> All(Results results, string place)
        {
            ArgumentNullException.ThrowIfNull(results);
            foreach (var item in TestItem.All)
                if (item != TestItem.ReliefClearance && item != TestItem.ReliefBuffer && results[item] is { } value)
                    yield return new(item, value) { Place = place + item.Id };
        }
    }

    /// <summary>What lay in an opened part.</summary>
    /// <param name="Part">The part.</param>
    /// <param name="Lay">What was found.</param>
    public sealed record PartOpened(PartId Part, OpenedFinding Lay) : Observed;
}

/// <summary>What is known of an assembly and what was seen of it, in order.</summary>
/// <param name="Body">The body.</param>
/// <param name="Observations">What was seen.</param>
public sealed record Evidence(AssemblyBody Body, ImmutableArray<Observed> Observations)
{
    /// <summary>The school that sights and results are of; null where there are none.</summary>
    public string? Procedure { get; init; }

    /// <summary>The accuracy of the kit, psid.</summary>
    public double Accuracy { get; init; } = 0.2;

    /// <summary>Springs that are known, psid: the assembly's last readings.</summary>
    public ImmutableDictionary<PartId, double> Springs { get; init; } = ImmutableDictionary<PartId, double>.Empty;

    /// <summary>What may not be asked of the person at hand.</summary>
    public Doer By { get; init; } = Doer.Repairer;

    /// <summary>The parts that can be opened: checks, relief valve, air inlet.</summary>
    public static ImmutableArray<PartId> Openable(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return
        [
            .. body.Parts.Where(p => p.Kind is PartKind.Check or PartKind.Relief or PartKind.Inlet).Select(p => p.Id),
        ];
    }

    /// <summary>Whether a look in service has been made.</summary>
    public bool Made(string look) => Observations.Any(o => o is Observed.PortSeen p && p.Look == look);
}

/// <summary>The names of what is found, in files and in words.</summary>
public static class FoundNames
{
    private static readonly ImmutableArray<(OpenedFinding Found, string Name, string Words)> All =
    [
        (OpenedFinding.Clean, "clean", "clean"),
        (OpenedFinding.Debris, "debris", "debris on the seat"),
        (OpenedFinding.DiscCut, "disc-cut", "the disc is cut"),
        (OpenedFinding.DiscWorn, "disc-worn", "the disc is worn"),
        (OpenedFinding.SeatNicked, "seat-nicked", "the seat is nicked"),
        (OpenedFinding.SpringBroken, "spring-broken", "the spring is broken"),
        (OpenedFinding.SpringWeak, "spring-weak", "the spring is weak"),
        (OpenedFinding.StemBound, "stem-bound", "the stem binds"),
        (OpenedFinding.DiaphragmTorn, "diaphragm-torn", "the diaphragm is torn"),
        (OpenedFinding.SensingBlocked, "sensing-blocked", "the sensing passage is blocked"),
    ];

    /// <summary>All names.</summary>
    public static IEnumerable<string> Names => All.Select(a => a.Name);

    /// <summary>The name in files.</summary>
    public static string Name(this OpenedFinding found) => All.First(a => a.Found == found).Name;

    /// <summary>In words.</summary>
    public static string Words(this OpenedFinding found) => All.First(a => a.Found == found).Words;

    /// <summary>By its name in files; null when there is none.</summary>
    public static OpenedFinding? Named(string name)
    {
        foreach (var one in All)
            if (one.Name == name)
                return one.Found;
        return null;
    }

    /// <summary>What can lie in a part of this kind.</summary>
    public static IEnumerable<OpenedFinding> In(PartKind kind) =>
        All.Select(a => a.Found)
            .Where(f =>
                f switch
                {
                    OpenedFinding.DiaphragmTorn or OpenedFinding.SensingBlocked => kind == PartKind.Relief,
                    _ => true,
                }
            );
}
