using System.Collections.Immutable;
using Mordel.Core.Diagnosis;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Core.Units;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Views;

/// <summary>
/// A run on a device: its setup, its log as far as the device knows it, and the same views that the server makes of
/// both. It keeps what it has worked out until the log grows.
/// </summary>
public sealed class DeviceRun
{
    private readonly PlayedLog played;

    private DeviceRun(RunSetup setup) => (Setup, played) = (setup, new(setup.Plan));

    /// <summary>What the run is made with.</summary>
    public RunSetup Setup { get; }

    /// <summary>The log.</summary>
    public RunLog Log => played.Log;

    /// <summary>Where it leads.</summary>
    public RunState State => played.State;

    /// <summary>A run begun with a setup in its complete form; null where that cannot be read.</summary>
    /// <param name="setup">The setup.</param>
    /// <param name="begunAt">When it was begun on the device; null where the setup says it.</param>
    /// <param name="errors">Every error with its place.</param>
    public static DeviceRun? Open(string setup, DateTimeOffset? begunAt, out ImmutableArray<InputError> errors) =>
        RunSetupFormat.Read(setup, null, out errors) is { } read
            ? new(begunAt is { } at ? read with { BegunAt = at } : read)
            : null;

    /// <summary>Takes entries in; those that are there already are passed over.</summary>
    /// <param name="batch">As they are sent to the server.</param>
    /// <returns>Every error with its place; nothing is taken then.</returns>
    public ImmutableArray<InputError> Take(string batch)
    {
        var entries = EntryFormat.ReadBatch(batch, out var errors);
        if (!errors.IsEmpty)
            return errors;
        played.Take(entries);
        return [];
    }

    /// <summary>What the run screen shows.</summary>
    /// <param name="isSealed">Whether the run was signed.</param>
    public RunView View(bool isSealed) => RunViews.Of(Setup, Log, isSealed, State);

    /// <summary>The verdict, and what is asked before it is signed.</summary>
    /// <param name="previous">
    /// The verdict on the test before, as <c>mordel.verdict/1</c>; null where there is none.
    /// </param>
    /// <param name="offset">How far the device's clock is from UTC: the day of the test is the day there.</param>
    public VerdictView Verdict(string? previous, TimeSpan offset)
    {
        var told = SigningObstacles.LastTold(Log.Entries.Select(e => new ReceivedEntry(e, e.At)));
        var day = DateOnly.FromDateTime((told?.Entry.At ?? Setup.BegunAt).ToOffset(offset).DateTime);
        var certificates = Setup.Tester.Certificate is { } one ? new[] { one } : [];
        return VerdictViews.Build(
            Setup,
            Log,
            State,
            ResultsOf(previous),
            day,
            SigningRights.Of(Setup.Tester.Name, certificates, Setup.Assembly.Type, Setup.Place.Authority, day)
        );
    }

    /// <summary>What the run has seen and read, as evidence, a line each.</summary>
    public ImmutableArray<string> Seen =>
        [.. RunEvidence.Observations(Setup.Plan, State).Select(ObservationFormat.Write)];

    /// <summary>The answers of a verdict that was kept; null where it cannot be read.</summary>
    public static Results? ResultsOf(string? verdict)
    {
        var errors = new List<InputError>();
        return verdict is { Length: > 0 } && Node.Root(verdict, errors) is { } root
            ? VerdictReader.Read(root)?.Results
            : null;
    }
}

/// <summary>A number as it is asked to be weighed before it is taken.</summary>
/// <param name="Step">The key of the step.</param>
/// <param name="Value">What was typed; null where a gauge shows it.</param>
/// <param name="Shown">What a gauge shows; it is rounded to the gauge's smallest step.</param>
/// <param name="Speed">How fast the needle moves, a second; null where nobody knows.</param>
public sealed record Weighing(string? Step, string? Value, string? Shown, string? Speed)
{
    /// <summary>The number as it would stand; null with errors where it is none, or no step asks for it.</summary>
    /// <param name="plan">What the run is made with.</param>
    /// <param name="state">Where its log leads.</param>
    /// <param name="errors">Every error with its place.</param>
    public WeighedView? On(RunPlan plan, RunState state, out ImmutableArray<InputError> errors)
    {
        ArgumentNullException.ThrowIfNull(plan);
        errors = [];
        if (Read(Value ?? Shown, Signed) is not { } amount || Math.Abs(amount) > Differential.Largest)
        {
            errors = [new(Value is null && Shown is not null ? "shown" : "value", "a number is wanted here")];
            return null;
        }

        decimal? fast = Speed is null ? null : Read(Speed, Unsigned) ?? decimal.MaxValue;
        if (fast > Differential.Largest)
        {
            errors = [new("speed", "a number, not negative, is wanted here")];
            return null;
        }

        var (resolution, unit) = (plan.Resolution, plan.Resolution.Unit);
        if (Value is null)
            amount = Read(RunSession.Rounded(plan, amount), Signed)!.Value;
        var reading = new Reading(
            new(amount, unit),
            resolution,
            fast is { } speed ? new Differential(speed, unit) : null
        );
        if (RunViews.Weigh(plan, state, Step ?? "", reading) is { } weighed)
            return weighed;
        errors = [new("step", "no number is asked for at this step")];
        return null;
    }

    private const System.Globalization.NumberStyles Unsigned = System.Globalization.NumberStyles.AllowDecimalPoint,
        Signed = Unsigned | System.Globalization.NumberStyles.AllowLeadingSign;

    private static decimal? Read(string? text, System.Globalization.NumberStyles styles) =>
        decimal.TryParse(text, styles, System.Globalization.CultureInfo.InvariantCulture, out var amount)
            ? amount
            : null;
}
