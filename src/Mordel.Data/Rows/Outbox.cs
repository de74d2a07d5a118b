namespace Mordel.Data.Rows;

/// <summary>By which way something leaves the house.</summary>
public static class OutboxWays
{
    /// <summary>As a letter.</summary>
    public const string Mail = "mail";

    /// <summary>To an authority's service.</summary>
    public const string Service = "service";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Mail, Service];
}

/// <summary>In which form a report leaves the house.</summary>
public static class ReportForms
{
    /// <summary>On paper, with its seal behind it.</summary>
    public const string Pdf = "pdf";

    /// <summary>As <c>mordel.sealed-report/1</c>.</summary>
    public const string Data = "json";

    /// <summary>As a table, a line for each item.</summary>
    public const string Table = "csv";

    /// <summary>All of them.</summary>
    public static readonly string[] All = [Pdf, Data, Table];

    /// <summary>The forms of a text that has them with a space between; where there is none, those of the
    /// way.</summary>
    public static string[] Of(string? forms, string way) =>
        forms?.Split(' ', StringSplitOptions.RemoveEmptyEntries) is { Length: > 0 } some ? some
        : way == OutboxWays.Service ? [Data]
        : [Pdf, Data];
}

/// <summary>How far something in the outbox is.</summary>
public static class OutboxStates
{
    /// <summary>It waits for its next try.</summary>
    public const string Waiting = "waiting";

    /// <summary>It is there.</summary>
    public const string Delivered = "delivered";

    /// <summary>It was refused; somebody must look at it.</summary>
    public const string Refused = "refused";

    /// <summary>It was delivered and came back; somebody must look at it.</summary>
    public const string Returned = "returned";

    /// <summary>Those that somebody must look at.</summary>
    public static readonly string[] Stuck = [Refused, Expired, Returned];

    /// <summary>It could not be delivered in time; somebody must look at it.</summary>
    public const string Expired = "expired";
}

/// <summary>
/// Something that is to leave the house, written in the same transaction as its cause, so that neither is there without
/// the other.
/// </summary>
public sealed class OutboxRow
{
    public Guid Id { get; set; }

    /// <summary>Names the thing once and for all: <c>report/RUN/AUTHORITY</c>; the other side takes it once.</summary>
    public required string Key { get; set; }

    /// <summary>One of <see cref="OutboxWays"/>.</summary>
    public required string Way { get; set; }

    /// <summary>Address of the mailbox or the service.</summary>
    public required string To { get; set; }

    /// <summary>Who gets it.</summary>
    public required string Recipient { get; set; }

    /// <summary>What it is, in a few words.</summary>
    public required string Title { get; set; }

    /// <summary>What it is: <see cref="Report"/>, or the name of a kind of notice.</summary>
    public string Kind { get; set; } = Report;

    /// <summary>Of a report: its forms, some of <see cref="ReportForms"/>, a space between; null for those that the way
    /// takes.</summary>
    public string? Forms { get; set; }

    /// <summary>The run whose report goes with it; null where none does.</summary>
    public Guid? RunId { get; set; }

    /// <summary>The owner, or the place, whose address it goes to; null for reports and authorities.</summary>
    public Guid? OwnerId { get; set; }
    public Guid? PlaceId { get; set; }

    /// <summary>A report to an authority.</summary>
    public const string Report = "report";

    /// <summary>The key of a report, or of an amendment of it, to an authority.</summary>
    public static string KeyOf(Guid run, Guid? amendment, Guid authority) =>
        $"{Report}/{run}/{(amendment is { } a ? $"{a}/" : "")}{authority}";

    /// <summary>Whether it is a report to this authority, whatever either is called by now.</summary>
    public bool IsReportTo(Guid authority) => Kind == Report && Key.EndsWith($"/{authority}", StringComparison.Ordinal);

    /// <summary>The authority that a report goes to; null for other letters.</summary>
    public Guid? AuthorityId =>
        Kind == Report && Guid.TryParse(Key.AsSpan(Key.LastIndexOf('/') + 1), out var authority) ? authority : null;

    public DateTimeOffset WrittenAt { get; set; }

    /// <summary>One of <see cref="OutboxStates"/>.</summary>
    public required string State { get; set; }
    public int Tries { get; set; }
    public DateTimeOffset NextTryAt { get; set; }
    public DateTimeOffset ExpiresAt { get; set; }

    /// <summary>What the last try met, for a person; null before the first and after a success.</summary>
    public string? Says { get; set; }

    /// <summary>What the other side gave for it.</summary>
    public string? Receipt { get; set; }
    public DateTimeOffset? SettledAt { get; set; }
}

/// <summary>What became of something in the outbox, try by try. Never updated, never deleted.</summary>
public sealed class OutboxEventRow
{
    public long Id { get; set; }
    public Guid OutboxId { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>One of <see cref="OutboxStates"/>: how it stood after that.</summary>
    public required string State { get; set; }

    /// <summary>What the other side said, for a person; null where it took it.</summary>
    public string? Says { get; set; }
    public string? Receipt { get; set; }

    /// <summary>Who did so by hand; null where it was a try, or the other side.</summary>
    public string? By { get; set; }
}
