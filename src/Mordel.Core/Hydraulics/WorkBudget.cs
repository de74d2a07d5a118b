using System.Globalization;

namespace Mordel.Core.Hydraulics;

/// <summary>
/// A simulation that was asked for takes more work than it may: it is given up, and nothing of it is kept.
/// </summary>
public sealed class TooMuchWorkException(long most)
    : Exception(
        string.Create(
            CultureInfo.InvariantCulture,
            $"This takes more work than is done for one request ({most:N0} steps of the water). Make the test "
                + $"shorter, or do less in it."
        )
    );

/// <summary>
/// How much simulated work may be done for somebody. It counts the solver's tries, which cost about the same each
/// wherever they run, so that the bound is the same on a slow machine and a fast one; and it looks now and then whether
/// anybody still waits for the answer.
/// </summary>
/// <param name="most">The most tries.</param>
/// <param name="cancel">Set when nobody waits any more.</param>
public sealed class WorkBudget(long most, CancellationToken cancel = default)
{
    // Tries between two looks at who waits.
    private const long LookEvery = 256;

    /// <summary>
    /// Tries of the solver that one request may cost: several times what the longest honest test costs.
    /// </summary>
    public const long ForOneRequest = 800_000;

    private long lookAt;

    /// <summary>Tries so far.</summary>
    public long Spent { get; private set; }

    /// <summary>Spends one try, or what costs as much as a few.</summary>
    /// <exception cref="TooMuchWorkException">It is used up.</exception>
    /// <exception cref="OperationCanceledException">Nobody waits any more.</exception>
    public void Spend(int tries = 1)
    {
        Spent += tries;
        if (Spent > most)
            throw new TooMuchWorkException(most);
        if (Spent < lookAt)
            return;
        lookAt = Spent + LookEvery;
        cancel.ThrowIfCancellationRequested();
    }
}
