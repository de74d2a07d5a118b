using System.Collections.Immutable;
using Mordel.Core.Repairs;
using Mordel.Core.Rigs;

namespace Mordel.Core.Views;

/// <summary>What a repair is made with beside its plan: who is there, and which parts fit.</summary>
/// <param name="Contact">Whom one asks for at the place.</param>
/// <param name="Owner">The owner, who is told of a stopgap.</param>
/// <param name="Wants">What is ordered: make, model and size.</param>
/// <param name="Today">The day.</param>
/// <param name="Spares">The parts that fit.</param>
public sealed record RepairPlace(
    string Contact,
    string Owner,
    string Wants,
    DateOnly Today,
    ImmutableArray<SpareView> Spares
)
{
    /// <summary>How long a stopgap may stay so where nobody says otherwise, in days.</summary>
    public const int StopgapDays = 30;
}

/// <summary>A spare part that fits.</summary>
/// <param name="Id">Its place in the list of parts.</param>
/// <param name="Name">What it is called.</param>
/// <param name="Part">The part of the assembly that it is for; empty where it is for all.</param>
/// <param name="Van">How many lie in the van.</param>
/// <param name="Store">How many lie in the store.</param>
public sealed record SpareView(Guid Id, string Name, string Part, int Van, int Store);

/// <summary>A stage of a repair.</summary>
/// <param name="Name">What it is called.</param>
/// <param name="State"><c>past</c>, <c>now</c> or <c>ahead</c>.</param>
public sealed record RepairStageView(string Name, string State);

/// <summary>An opened part of the body.</summary>
/// <param name="Title">What was opened.</param>
/// <param name="Lines">Part by part: what was found and done.</param>
public sealed record RepairOpeningView(string Title, ImmutableArray<string> Lines);

/// <summary>What the screen of a repair shows: a pure function of log and plan.</summary>
public sealed record RepairView
{
    /// <summary>How many entries the log has.</summary>
    public required int Entries { get; init; }

    /// <summary>The stages.</summary>
    public required ImmutableArray<RepairStageView> Stages { get; init; }

    /// <summary>Why it was broken off; null while it goes on.</summary>
    public string? LeftOff { get; init; }

    /// <summary>What is said above the step.</summary>
    public required string Eyebrow { get; init; }

    /// <summary>What is to be done or said.</summary>
    public required string Title { get; init; }

    /// <summary>What to beware of; null for nothing.</summary>
    public string? Caution { get; init; }

    /// <summary>Why, or what it means, a sentence each.</summary>
    public required ImmutableArray<string> Why { get; init; }

    /// <summary>What is minded at the parts at hand.</summary>
    public required ImmutableArray<string> Minded { get; init; }

    /// <summary>What is filled in or ticked at this step.</summary>
    public required ImmutableArray<FieldView> Fields { get; init; }

    /// <summary>What can be done at this step, the most likely first.</summary>
    public required ImmutableArray<ActionView> Acts { get; init; }

    /// <summary>What can be done at any time.</summary>
    public required ImmutableArray<ActionView> Tools { get; init; }

    /// <summary>What is open, drawn apart; null where nothing is.</summary>
    public string? Drawing { get; init; }

    /// <summary>What a picture taken now shows.</summary>
    public required string Shows { get; init; }

    /// <summary>What was opened so far.</summary>
    public required ImmutableArray<RepairOpeningView> Openings { get; init; }

    /// <summary>Parts that were used.</summary>
    public required ImmutableArray<string> Used { get; init; }

    /// <summary>What is to be put right later.</summary>
    public required ImmutableArray<string> Later { get; init; }

    /// <summary>Notes.</summary>
    public required ImmutableArray<string> Notes { get; init; }

    /// <summary>Whether the whole test comes now.</summary>
    public required bool IsClosedUp { get; init; }
}

/// <summary>What a device takes along so that it can repair an assembly without a signal.</summary>
/// <param name="Sheets">The bench sheets by which it is opened.</param>
/// <param name="TurnedDiscHolds">Whether a disc that was turned over is a repair in this firm.</param>
/// <param name="Contact">Whom one asks for at the place.</param>
/// <param name="Owner">The owner.</param>
/// <param name="Wants">Make, model and size.</param>
/// <param name="Spares">The parts that fit.</param>
public sealed record RepairPlaceFile(
    ImmutableArray<string> Sheets,
    bool TurnedDiscHolds,
    string Contact,
    string Owner,
    string Wants,
    ImmutableArray<SpareView> Spares
)
{
    /// <summary>The view of a repair of a body that was made with this.</summary>
    /// <param name="body">The body.</param>
    /// <param name="log">The entries, in order.</param>
    /// <param name="today">The day.</param>
    public RepairView View(AssemblyBody body, IReadOnlyCollection<RepairEntry> log, DateOnly today) =>
        RepairViews.Build(
            new(body, [.. Sheets.Select(BenchSheets.Named).OfType<BenchSheet>()]) { TurnedDiscHolds = TurnedDiscHolds },
            log,
            new(Contact, Owner, Wants, today, Spares)
        );
}
