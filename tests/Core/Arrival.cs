using Mordel.Core.Procedures;
using Mordel.Core.Rigs;

namespace Mordel.Core.Tests;

/// <summary>How a line may be found when the tester comes.</summary>
/// <param name="Name">In words, for test names.</param>
/// <param name="So1">SO1; null where nobody entered anything.</param>
/// <param name="So2">SO2.</param>
/// <param name="Cocks">How many cocks stand open, the last ones first.</param>
/// <param name="CockStands">How they stand.</param>
internal sealed record Arrival(
    string Name,
    ValvePosition? So1,
    ValvePosition So2 = ValvePosition.Open,
    int Cocks = 0,
    ValvePosition CockStands = ValvePosition.Open
)
{
    public static readonly Arrival NotEntered = new("not entered", null);

    public static readonly Arrival InService = new("in service", ValvePosition.Open);

    public static readonly Arrival Drained = new("drained for the season", ValvePosition.Closed, ValvePosition.Open, 2);

    public static readonly IReadOnlyList<Arrival> All =
    [
        NotEntered,
        InService,
        new("shut at SO1", ValvePosition.Closed),
        new("shut at both", ValvePosition.Closed, ValvePosition.Closed),
        new("shut at SO2", ValvePosition.Open, ValvePosition.Closed),
        new("throttled", ValvePosition.Partly, ValvePosition.Partly),
        Drained,
        new("drained, a cock part open", ValvePosition.Closed, ValvePosition.Partly, 1, ValvePosition.Partly),
        new("a cock running in service", ValvePosition.Open, ValvePosition.Open, 1),
    ];

    public static Arrival Named(string name) => All.Single(a => a.Name == name);

    /// <summary>What is entered about it.</summary>
    public IReadOnlyList<(PartId Part, ValvePosition Position)> Of(AssemblyBody body) =>
        So1 is not { } so1
            ? []
            :
            [
                (Parts.So1, so1),
                (Parts.So2, So2),
                .. ValvePositions.Drains(body).Reverse().Take(Cocks).Select(c => (c, CockStands)),
            ];

    /// <summary>A line that was found so and is left so.</summary>
    public LinePositions On(AssemblyBody body) => new(p => At(p, body), p => At(p, body));

    /// <summary>How a valve stood, as entered or as it stands in service.</summary>
    public ValvePosition At(PartId part, AssemblyBody body) =>
        Of(body).Where(f => f.Part == part).Select(f => (ValvePosition?)f.Position).FirstOrDefault()
        ?? (part == Parts.So1 || part == Parts.So2 ? ValvePosition.Open : ValvePosition.Closed);
}
