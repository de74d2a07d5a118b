namespace Mordel.Data.Rows;

/// <summary>
/// Somebody signed in on a device. Ended here, it is ended: what a stolen cookie says does not matter.
/// </summary>
public sealed class SessionRow
{
    public Guid Id { get; set; }
    public Guid AccountId { get; set; }
    public Account? Account { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>When it was last used, to within some minutes.</summary>
    public DateTimeOffset LastSeenAt { get; set; }

    /// <summary>When whoever has it last showed that they are who they are.</summary>
    public DateTimeOffset ProvedAt { get; set; }

    /// <summary>The network address it came from.</summary>
    public required string From { get; set; }

    /// <summary>The browser and its system, in words.</summary>
    public required string Device { get; set; }

    /// <summary>By what they came in: a password, a passkey.</summary>
    public required string How { get; set; }
    public DateTimeOffset? EndedAt { get; set; }

    /// <summary>When a round was last taken along on that device; null where none was.</summary>
    public DateTimeOffset? TookAlongAt { get; set; }

    /// <summary>When the office cut the device off: what was taken along is wiped there.</summary>
    public DateTimeOffset? CutOffAt { get; set; }
}
