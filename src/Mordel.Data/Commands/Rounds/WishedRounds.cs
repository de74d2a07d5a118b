using System.Collections.Immutable;

namespace Mordel.Data.Commands.Rounds;

/// <summary>What is to be planned, as it is chosen.</summary>
/// <param name="Days">The days.</param>
/// <param name="Testers">Who may go.</param>
/// <param name="Assemblies">What is to be tested, beside what is in the rounds of these days already.</param>
/// <param name="From">On the first day, from which hour; null for the whole of it.</param>
public sealed record WishedRounds(
    ImmutableArray<DateOnly> Days,
    ImmutableArray<Guid> Testers,
    ImmutableArray<Guid> Assemblies,
    TimeOnly? From = null
)
{
    /// <summary>Who has no kit on these days, for it has failed.</summary>
    public ImmutableArray<Guid> WithoutKit { get; init; } = [];
}
