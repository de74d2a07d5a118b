namespace Mordel.Data.Rows;

/// <summary>A run: what it is made with, and its seal once signed. Its content is in <see cref="EntryRow"/>.</summary>
public sealed class RunRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }
    public Guid? StopId { get; set; }
    public Guid TesterId { get; set; }
    public Account? Tester { get; set; }
    public Guid KitId { get; set; }
    public KitRow? Kit { get; set; }
    public required string ProcedureId { get; set; }
    public required string ProfileId { get; set; }
    public int ProfileVersion { get; set; }
    public DateTimeOffset StartedAt { get; set; }

    public DateTimeOffset? SignedAt { get; set; }
    public string? SignedName { get; set; }
    public string? Certificate { get; set; }

    /// <summary>Serial numbers as they were when it was signed: the register may be corrected later, a seal may not.</summary>
    public string? SealedSerial { get; set; }
    public string? SealedKit { get; set; }

    /// <summary>The drawn signature as SVG path data.</summary>
    public string? Ink { get; set; }
    public string? PreviousHash { get; set; }
    public string? Hash { get; set; }

    /// <summary>The installation's signature over the hash, base 64.</summary>
    public string? KeySignature { get; set; }

    /// <summary>Projections of the log, for lists.</summary>
    public string? Outcome { get; set; }
    public string? Summary { get; set; }

    /// <summary>What was found, as the remarks have it.</summary>
    public string? FoundText { get; set; }
    public List<EntryRow> Entries { get; } = [];
    public List<AmendmentRow> Amendments { get; } = [];
    public List<ResultRow> Results { get; } = [];

    public bool IsSealed => SignedAt is not null;
}

/// <summary>One entry of a log, as it was entered. Never updated, never deleted.</summary>
public sealed class EntryRow
{
    public Guid RunId { get; set; }
    public Guid EntryId { get; set; }
    public long Tick { get; set; }

    /// <summary>The canonical form.</summary>
    public required string Json { get; set; }
    public DateTimeOffset ReceivedAt { get; set; }
}

/// <summary>Words added to a sealed run; itself sealed.</summary>
public sealed class AmendmentRow
{
    public Guid Id { get; set; }
    public Guid RunId { get; set; }
    public required string Text { get; set; }
    public required string By { get; set; }
    public DateTimeOffset At { get; set; }
    public required string PreviousHash { get; set; }
    public required string Hash { get; set; }
    public required string KeySignature { get; set; }
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
