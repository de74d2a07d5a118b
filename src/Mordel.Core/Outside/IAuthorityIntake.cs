using System.Collections.Immutable;

namespace Mordel.Core.Outside;

/// <summary>A sealed report on its way to the authority that asked for the test.</summary>
/// <param name="Key">The same for every try at the same report; the intake takes each key once.</param>
/// <param name="Authority">The authority's name.</param>
/// <param name="Address">Where its service is.</param>
/// <param name="Number">The report's number.</param>
/// <param name="File">The report in the form that the authority asks for.</param>
public sealed record Submission(string Key, string Authority, string Address, string Number, Enclosure File)
{
    /// <summary>What the service is told so that it knows who calls; null where it does not ask.</summary>
    public string? Secret { get; init; }
}

/// <summary>What an authority decided after it had answered: it changes its mind, or says once more what it
/// said.</summary>
/// <param name="Number">Its place among the rulings of this authority, from 1; later ones have higher numbers.</param>
/// <param name="Key">The key of the report.</param>
/// <param name="Taken">Whether the report is accepted.</param>
/// <param name="Receipt">The receipt, where it is.</param>
/// <param name="Why">Why not, where it is not.</param>
public sealed record IntakeRuling(long Number, string Key, bool Taken, string? Receipt, string? Why);

/// <summary>An authority's service that takes reports.</summary>
public interface IAuthorityIntake
{
    /// <summary>
    /// Hands a report in. Handing in the same key twice is harmless and gives the same receipt. A service that cannot
    /// be reached is said by the answer, not by an exception.
    /// </summary>
    Task<Delivery> Submit(Submission submission, CancellationToken cancel);

    /// <summary>
    /// What the authority has decided since, in its order; the same again when it is asked again. Empty where there is
    /// nothing, or it cannot be told just now.
    /// </summary>
    /// <param name="address">Where the service is.</param>
    /// <param name="secret">What it is told so that it knows who calls; null where it does not ask.</param>
    /// <param name="after">The number of the last ruling that is known; 0 for none.</param>
    /// <param name="cancel">Ends the wait.</param>
    Task<ImmutableArray<IntakeRuling>> Rulings(string address, string? secret, long after, CancellationToken cancel);
}
