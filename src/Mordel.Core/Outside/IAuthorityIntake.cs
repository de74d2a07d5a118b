namespace Mordel.Core.Outside;

/// <summary>A sealed report on its way to the authority that asked for the test.</summary>
/// <param name="Key">The same for every try at the same report; the intake takes each key once.</param>
/// <param name="Authority">The authority's name.</param>
/// <param name="Address">Where its service is.</param>
/// <param name="Number">The report's number.</param>
/// <param name="Report">The report as <c>mordel.sealed-report/1</c>, with its seal.</param>
public sealed record Submission(string Key, string Authority, string Address, string Number, string Report);

/// <summary>An authority's service that takes reports.</summary>
public interface IAuthorityIntake
{
    /// <summary>
    /// Hands a report in. Handing in the same key twice is harmless and gives the same receipt. A service that cannot
    /// be reached is said by the answer, not by an exception.
    /// </summary>
    Task<Delivery> Submit(Submission submission, CancellationToken cancel);
}
