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
    Standing? So1,
    Standing So2 = Standing.Open,
    int Cocks = 0,
    Standing CockStands = Standing.Open
)
{
    public static readonly Arrival NotEntered = new("not entered", null);

    public static readonly Arrival InService = new("in service", Standing.Open);

    public static readonly Arrival Drained = new("drained for the season", Standing.Closed, Standing.Open, 2);

    public static readonly IReadOnlyList<Arrival> All =
    [
        NotEntered,
        InService,
        new("shut at SO1", Standing.Closed),
        new("shut at both", Standing.Closed, Standing.Closed),
        new("shut at SO2", Standing.Open, Standing.Closed),
        new("throttled", Standing.Partly, Standing.Partly),
        Drained,
        new("drained, a cock part open", Standing.Closed, Standing.Partly, 1, Standing.Partly),
        new("a cock running in service", Standing.Open, Standing.Open, 1),
    ];

    public static Arrival Named(string name) => All.Single(a => a.Name == name);

    /// <summary>What is entered about it.</summary>
    public IReadOnlyList<(PartId Part, Standing Standing)> Of(AssemblyBody body) =>
        So1 is not { } so1
            ? []
            :
            [
                (Parts.So1, so1),
                (Parts.So2, So2),
                .. Standings.Drains(body).Reverse().Take(Cocks).Select(c => (c, CockStands)),
            ];

    /// <summary>How a valve stood, as entered or as it stands in service.</summary>
    public Standing At(PartId part, AssemblyBody body) =>
        Of(body).Where(f => f.Part == part).Select(f => (Standing?)f.Standing).FirstOrDefault()
        ?? (part == Parts.So1 || part == Parts.So2 ? Standing.Open : Standing.Closed);
}
