namespace Mordel.Planning;

/// <summary>How long a plan is looked for.</summary>
/// <param name="Time">The longest, whatever is found.</param>
/// <param name="Solutions">
/// After how many solutions it ends; what ends by these is the same each time it is made with one seed.
/// </param>
public sealed record PlanEffort(TimeSpan Time, int Solutions)
{
    private const int Usual = 3_000;

    /// <summary>As good as it becomes in a time; a small problem is done sooner.</summary>
    public static PlanEffort Within(TimeSpan time) => new(time, Usual);
}

/// <summary>How far the search is.</summary>
/// <param name="Solutions">How many solutions it has looked at.</param>
/// <param name="Stops">How many stops the best one has in it.</param>
/// <param name="Cost">What it costs to the solver.</param>
/// <param name="Seconds">How long it has been looked for.</param>
public sealed record PlanProgress(int Solutions, int Stops, long Cost, double Seconds);
