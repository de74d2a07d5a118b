using Mordel.Core.Serialization;
using Mordel.Data.Processes;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Rounds;

/// <summary>Rings when rounds are to be looked for.</summary>
public sealed class PlanBell(Neighbours neighbours) : Bell(neighbours);

/// <summary>Begins a proposal of rounds; it is looked for in the background.</summary>
public sealed class ProposeRounds(Store store, RoundProblems problems, PlanBell bell, TimeProvider clock)
{
    private const int MostDays = 10,
        MostTesters = 12,
        MostStops = 300;

    /// <summary>Begins it.</summary>
    /// <param name="wished">What is to be planned.</param>
    /// <param name="author">Who wishes it.</param>
    /// <param name="cancel">Ends it.</param>
    public async Task<Reply<Guid>> With(WishedRounds wished, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(wished);
        var fields = new FieldErrors();
        fields.That("day", wished.Days.Length is > 0 and <= MostDays, $"Plan from one day to {MostDays} at once.");
        fields.That("day", wished.Days.All(d => d >= clock.Today()), "That day is over. Choose one that lies ahead.");
        fields.That("testers", wished.Testers.Length is > 0 and <= MostTesters, "Choose who may go.");
        fields.That(
            "ids",
            wished.Assemblies.Length <= MostStops,
            $"{wished.Assemblies.Length} are more than {MostStops}, the most that is planned at once. Choose fewer."
        );
        if (fields.Any)
            return fields;
        var problem = await problems.Of(wished, cancel);
        if (problem.Stops.IsEmpty)
            return Reply<Guid>.Refused("There is nothing to plan: choose assemblies, or days that have rounds.");
        if (problem.Stops.Length > MostStops)
            return Reply<Guid>.Refused(
                $"With what is in these rounds already it is {problem.Stops.Length} stops, more than {MostStops}, the "
                    + "most that is planned at once. Choose fewer days or testers."
            );
        if (problem.Shifts.IsEmpty)
            return Reply<Guid>.Refused("The working day is over for everybody who was chosen.");
        var row = new ProposalRow
        {
            Id = Guid.CreateVersion7(),
            At = clock.Now(),
            By = author.By,
            State = ProposalStates.Looking,
            FirstDay = wished.Days.Min(),
            LastDay = wished.Days.Max(),
            Stops = problem.Stops.Length,
            LeftOut = problem.Stops.Length,
            Problem = PlanFormat.Write(problem),
        };
        store.Proposals.Add(row);
        await store.SaveChangesAsync(cancel);
        bell.Ring();
        return row.Id;
    }
}
