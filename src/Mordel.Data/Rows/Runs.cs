namespace Mordel.Data.Rows;

/// <summary>
/// A run. While it is open, what it is made with is in <see cref="Setup"/>, what was entered in <see cref="EntryRow"/>;
/// once it is sealed both are in its record, in <see cref="SealRow"/>. The other columns repeat some of that for lists,
/// and a check compares them.
/// </summary>
public sealed class RunRow
{
    public Guid Id { get; set; }

    /// <summary>The assembly whose chain it belongs to; after a replacement was found, the new one.</summary>
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }
    public Guid? StopId { get; set; }
    public Guid TesterId { get; set; }
    public Account? Tester { get; set; }
    public Guid KitId { get; set; }
    public required string ProcedureId { get; set; }
    public required string ProfileId { get; set; }
    public int ProfileVersion { get; set; }
    public DateTimeOffset StartedAt { get; set; }

    /// <summary>The report's number; null until an older run has been brought forward.</summary>
    public string? Number { get; set; }

    /// <summary>
    /// What it is made with, as <c>mordel.run-setup/1</c>; null until an older run has been brought forward,
    /// <see cref="InItsRecord"/> where it is sealed.
    /// </summary>
    public string? Setup { get; set; }

    /// <summary>Stands for what a sealed run was made with: its record has it.</summary>
    public const string InItsRecord = "";

    /// <summary>Projections of the seal, for lists.</summary>
    public DateTimeOffset? SignedAt { get; set; }
    public string? SignedName { get; set; }
    public string? Outcome { get; set; }
    public string? Summary { get; set; }

    /// <summary>What was found, as the remarks have it.</summary>
    public string? FoundText { get; set; }

    /// <summary>
    /// Where the needle stood with both ports open to air, in the kit's unit; 0 where it was confirmed that it reads
    /// zero, null where nobody said.
    /// </summary>
    public decimal? ZeroHigh { get; set; }

    /// <summary>How many facts of the report nobody entered.</summary>
    public int NotEntered { get; set; }

    /// <summary>Whether something was mended in the middle of it.</summary>
    public bool WasMended { get; set; }
    public List<EntryRow> Entries { get; } = [];
    public List<AmendmentRow> Amendments { get; } = [];
    public List<ResultRow> Results { get; } = [];
    public List<SealRow> Seals { get; } = [];
}

/// <summary>
/// One entry of the log of an open run, as it was entered. Never updated; when the run is sealed its record has it, and
/// the row goes.
/// </summary>
public sealed class EntryRow
{
    public Guid RunId { get; set; }
    public Guid EntryId { get; set; }
    public long Tick { get; set; }

    /// <summary>The canonical form.</summary>
    public required string Json { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
}

/// <summary>Words added to a sealed run; themselves sealed.</summary>
public sealed class AmendmentRow
{
    public Guid Id { get; set; }
    public Guid RunId { get; set; }
    public required string Text { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
}

/// <summary>Projection: one judged item of a sealed run, for charts and lists.</summary>
public sealed class ResultRow
{
    public Guid RunId { get; set; }
    public required string Item { get; set; }
    public required string Result { get; set; }
    public decimal? Value { get; set; }
    public string? Unit { get; set; }
    public decimal? Limit { get; set; }
    public string? Text { get; set; }
}
