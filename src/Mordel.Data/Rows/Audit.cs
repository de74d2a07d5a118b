namespace Mordel.Data.Rows;

/// <summary>
/// Something that somebody did with the installation. Never changed and never taken away; each is chained to the one
/// before it, and the end is signed.
/// </summary>
public sealed class AuditRow
{
    /// <summary>Its place, from 1.</summary>
    public long Number { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Who did it; null where it was Mordel itself, the command line, or nobody who is known.</summary>
    public Guid? AccountId { get; set; }

    /// <summary>The name as it was then.</summary>
    public required string Who { get; set; }

    /// <summary>What was done, one of <see cref="Data.Audit.AuditKinds"/>.</summary>
    public required string What { get; set; }

    /// <summary>To what: its id, or its name; empty where it is about the whole.</summary>
    public required string On { get; set; }

    /// <summary>The rest, in a sentence. No password, no key, no link.</summary>
    public required string Says { get; set; }

    /// <summary>The network address it came from; empty where it came from none.</summary>
    public required string From { get; set; }

    /// <summary>The hash of all until here, 64 hexadecimal digits.</summary>
    public required string Hash { get; set; }
}

/// <summary>The signed end of the audit log; one row.</summary>
public sealed class AuditEndRow
{
    public int Id { get; set; }

    /// <summary>As <c>mordel.audit-end/1</c>.</summary>
    public required string Text { get; set; }
    public required string Signature { get; set; }
}
