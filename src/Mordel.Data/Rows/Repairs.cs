namespace Mordel.Data.Rows;

/// <summary>
/// A repair. What was entered is in <see cref="RepairEntryRow"/>, which only grows; the columns from
/// <see cref="Stage"/> on repeat where that leads, for lists.
/// </summary>
public sealed class RepairRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }

    /// <summary>The test that failed; null where it was opened without one.</summary>
    public Guid? RunId { get; set; }

    /// <summary>Where what it finds counts as evidence.</summary>
    public Guid DiagnosisId { get; set; }

    /// <summary>The bench sheets it is opened by, as they were offered when it was begun.</summary>
    public required string Sheets { get; set; }

    /// <summary>Whether a disc that was turned over was a repair in this firm when it was begun.</summary>
    public bool TurnedDiscHolds { get; set; }
    public DateTimeOffset OpenedAt { get; set; }
    public required string OpenedBy { get; set; }
    public Guid OpenedById { get; set; }
    public required string Stage { get; set; }

    /// <summary>What was done, in a line.</summary>
    public string? Summary { get; set; }

    /// <summary>When the body was closed and under pressure again; null while it is not.</summary>
    public DateTimeOffset? ClosedAt { get; set; }

    /// <summary>The test after it; null while none was begun.</summary>
    public Guid? RetestId { get; set; }
    public List<RepairEntryRow> Entries { get; } = [];
    public List<FollowUpRow> FollowUps { get; } = [];
}

/// <summary>One entry of a repair's log. Never updated, never deleted.</summary>
public sealed class RepairEntryRow
{
    public Guid Id { get; set; }
    public Guid RepairId { get; set; }

    /// <summary>Its place in the log, from 1.</summary>
    public int Number { get; set; }

    /// <summary>When it was entered, by that device's clock.</summary>
    public DateTimeOffset At { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
    public required string By { get; set; }

    /// <summary>What it says, in its written form.</summary>
    public required string Json { get; set; }
}

/// <summary>Projection of a stopgap: what is to be put right, and by when.</summary>
public sealed class FollowUpRow
{
    /// <summary>The entry that opened it.</summary>
    public Guid Id { get; set; }
    public Guid RepairId { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }
    public required string What { get; set; }
    public required string Order { get; set; }
    public required string Told { get; set; }
    public DateOnly Due { get; set; }

    /// <summary>How it was settled; null while it is open.</summary>
    public string? How { get; set; }
}

/// <summary>A spare part that the firm uses.</summary>
public sealed class PartItemRow
{
    public Guid Id { get; set; }
    public required string Make { get; set; }
    public required string Model { get; set; }

    /// <summary>The nominal size it fits; empty where it fits all.</summary>
    public required string Size { get; set; }

    /// <summary>What it is: check kit, relief kit, seat, cover O-ring, complete internals.</summary>
    public required string Name { get; set; }

    /// <summary>The part of the assembly that it is for, <c>cv1</c>; null where it is for more than one.</summary>
    public string? Part { get; set; }
    public decimal Price { get; set; }
    public required string SupplierNumber { get; set; }
    public int LeadDays { get; set; }

    /// <summary>How many should lie in the store; below it stands on the order list.</summary>
    public int Least { get; set; }
    public List<PartMoveRow> Moves { get; } = [];
}

/// <summary>Parts that came or went. Never updated, never deleted: what is in stock is their sum.</summary>
public sealed class PartMoveRow
{
    /// <summary>The entry of the repair it was used in, or an id of its own.</summary>
    public Guid Id { get; set; }
    public Guid ItemId { get; set; }

    /// <summary>Whose van; null for the store.</summary>
    public Guid? HolderId { get; set; }
    public int Count { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
    public required string Why { get; set; }
}
