using System.Collections.Immutable;
using Mordel.Core.Collections;
using Mordel.Core.Rigs;

namespace Mordel.Core.Repairs;

/// <summary>A part of an opening, with what was found at it and done.</summary>
/// <param name="Part">The part.</param>
/// <param name="Of">The part of the assembly that it belongs to; null where it is none of the body's.</param>
public sealed record OpenedPart(BenchPart Part, PartId? Of)
{
    /// <summary>What may be found at it.</summary>
    public ImmutableArray<PartFinding> LookFor => Inspections.LookFor(Part.Form);

    /// <summary>What was found; null while nobody has looked, empty when it is in order.</summary>
    public ImmutableArray<PartFinding>? Found { get; init; }

    /// <summary>What was done to it, in the order in which it was done.</summary>
    public EquatableArray<RepairAct> Acts { get; init; } = [];

    /// <summary>The follow-up it has; null where none was opened.</summary>
    public FollowUp? FollowUp { get; init; }

    /// <summary>Whether what was found still waits for what is done about it.</summary>
    public bool WantsAct => Found is { IsEmpty: false } && (Acts.IsEmpty || WantsFollowUp);

    /// <summary>Whether what was done holds for a while only, and nobody has said until when.</summary>
    public bool WantsFollowUp =>
        FollowUp is null
        && Acts is [.., var last]
        && (last == RepairAct.Left || (last == RepairAct.Turned && !TurnedHolds));

    /// <summary>Whether a disc that was turned over is a repair in this firm.</summary>
    public bool TurnedHolds { get; init; }
}

/// <summary>One cover: opened, looked into, put right, closed.</summary>
/// <param name="Number">Its place in the log, from 1.</param>
/// <param name="SheetId">The sheet's name, or <see cref="OutsideSheet.Id"/>.</param>
/// <param name="Part">The part under that cover; null where all come out together.</param>
/// <param name="Sheet">The sheet; null where it needs no opening.</param>
/// <param name="Parts">Its parts that are looked at.</param>
/// <param name="Out">The steps out that are left.</param>
/// <param name="In">The steps in that are left.</param>
public sealed record RepairOpening(
    int Number,
    string SheetId,
    PartId? Part,
    BenchSheet? Sheet,
    ImmutableArray<OpenedPart> Parts,
    ImmutableArray<RepairStep> Out,
    ImmutableArray<RepairStep> In
)
{
    /// <summary>How far it is.</summary>
    public RepairStage Stage =>
        Out.Length > 0 ? RepairStage.Open
        : Parts.Any(p => p.Found is null) ? RepairStage.Inspect
        : Parts.Any(p => p.WantsAct) ? RepairStage.Do
        : In.Length > 0 ? RepairStage.Assemble
        : RepairStage.Choose;

    /// <summary>Whether it is closed again.</summary>
    public bool IsClosed => Stage == RepairStage.Choose;
}

/// <summary>Something that holds for a while only.</summary>
/// <param name="Id">The entry that opened it.</param>
/// <param name="What">What was done, and to what.</param>
/// <param name="Due">By when it is to be put right.</param>
/// <param name="Order">What is to be ordered.</param>
/// <param name="Told">Who was told.</param>
/// <param name="How">How it was settled; null while it is open.</param>
public sealed record FollowUp(Runs.EntryId Id, string What, DateOnly Due, string Order, string Told, string? How);

/// <summary>Where a repair stands.</summary>
public sealed record RepairState
{
    /// <summary>What it is made with.</summary>
    public required RepairPlan Plan { get; init; }

    /// <summary>How far it is.</summary>
    public required RepairStage Stage { get; init; }

    /// <summary>The steps of this stage that are left, the one at hand first; empty where none is made.</summary>
    public required ImmutableArray<RepairStep> Steps { get; init; }

    /// <summary>The openings so far.</summary>
    public required ImmutableArray<RepairOpening> Openings { get; init; }

    /// <summary>Who allowed it; null while nobody has.</summary>
    public string? Permission { get; init; }

    /// <summary>Parts that were used.</summary>
    public EquatableArray<RepairBody.PartUsed> Used { get; init; } = [];

    /// <summary>Pictures.</summary>
    public EquatableArray<RepairBody.Pictured> Photos { get; init; } = [];

    /// <summary>Notes.</summary>
    public EquatableArray<string> Notes { get; init; } = [];

    /// <summary>Follow-ups, open and settled.</summary>
    public EquatableArray<FollowUp> FollowUps { get; init; } = [];

    /// <summary>Why it was broken off for today; null while it goes on.</summary>
    public string? LeftOff { get; init; }

    /// <summary>The last entry that can be taken back; null where there is none.</summary>
    public RepairEntry? Last { get; init; }

    /// <summary>The opening at hand; null where nothing is open.</summary>
    public RepairOpening? Now => Openings is [.., { IsClosed: false } open] ? open : null;

    /// <summary>Whether the body is closed and under pressure again.</summary>
    public bool IsClosedUp => Stage == RepairStage.Retest;
}
