namespace Mordel.Data.Rows;

/// <summary>The words of a letter in the outbox, as they were set when it was written.</summary>
public sealed class LetterRow
{
    /// <summary>The row of the outbox.</summary>
    public Guid OutboxId { get; set; }
    public required string Subject { get; set; }

    /// <summary>As plain text and as HTML; <see cref="Page"/> stands where the link to the page goes.</summary>
    public required string Text { get; set; }
    public required string Html { get; set; }

    /// <summary>The link to the page of who gets it; null for authorities.</summary>
    public Guid? LinkId { get; set; }

    /// <summary>Stands for the address of the page, which is put in when the letter is handed over.</summary>
    public const string Page = "[[page]]";

    /// <summary>A letter's text as the office may read it: without the secret of whoever gets it.</summary>
    public static string Shown(string text)
    {
        ArgumentNullException.ThrowIfNull(text);
        return text.Replace(Page, "(the link to their page)", StringComparison.Ordinal);
    }
}

/// <summary>That something was told about an assembly. Only grows.</summary>
public sealed class NoticeRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }

    /// <summary>The kind of notice.</summary>
    public required string Kind { get; set; }

    /// <summary>Who was told.</summary>
    public required string To { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }

    /// <summary>The letter; null where it was told by telephone.</summary>
    public Guid? OutboxId { get; set; }

    /// <summary>The visit that it tells of; null for others.</summary>
    public Guid? StopId { get; set; }
}

/// <summary>One version of an office's own words for a notice; the latest stands, an empty one ends them.</summary>
public sealed class NoticeTemplateRow
{
    public Guid Id { get; set; }
    public required string Kind { get; set; }

    /// <summary>The rules of whose authority it is for; null for all.</summary>
    public string? ProfileId { get; set; }
    public required string Language { get; set; }
    public int Version { get; set; }

    /// <summary>Subject and text; both empty where the own words end and those of Mordel stand again.</summary>
    public required string Subject { get; set; }
    public required string Text { get; set; }
    public DateTimeOffset MadeAt { get; set; }
    public required string MadeBy { get; set; }
}

/// <summary>Whether a kind of notice goes out by itself.</summary>
public sealed class NoticeSwitchRow
{
    public required string Kind { get; set; }
    public bool Off { get; set; }
}

/// <summary>What an owner or occupant answers to a visit, or asks for before there is one. Only grows.</summary>
public sealed class ConsentRow
{
    public Guid Id { get; set; }
    public Guid AssemblyId { get; set; }
    public AssemblyRow? Assembly { get; set; }

    /// <summary>The visit that is answered; null where there was none yet.</summary>
    public Guid? StopId { get; set; }
    public DateTimeOffset At { get; set; }

    /// <summary>Who answers, as typed.</summary>
    public required string Name { get; set; }

    /// <summary>Whether the visit suits as it was told; else another time is asked for.</summary>
    public bool Yes { get; set; }

    /// <summary>The day; null where any will do.</summary>
    public DateOnly? Day { get; set; }

    /// <summary>In which hours the water may be off.</summary>
    public TimeOnly From { get; set; }
    public TimeOnly Until { get; set; }

    /// <summary>Whom to ask for on that day, and what else there is to know; empty where nothing was said.</summary>
    public string AskFor { get; set; } = "";
    public string Note { get; set; } = "";

    /// <summary>The link it came by.</summary>
    public Guid LinkId { get; set; }
}

/// <summary>A letter that came, to one of ours or not.</summary>
public sealed class IncomingRow
{
    public Guid Id { get; set; }

    /// <summary>Its message id; the same comes once.</summary>
    public required string MessageId { get; set; }
    public DateTimeOffset At { get; set; }
    public required string From { get; set; }
    public required string Subject { get; set; }
    public required string Text { get; set; }

    /// <summary>Whether a mail server says that ours could not be delivered.</summary>
    public bool Bounced { get; set; }

    /// <summary>Our letter; null where it belongs to none.</summary>
    public Guid? OutboxId { get; set; }

    /// <summary>When somebody has put it away, and who.</summary>
    public DateTimeOffset? SeenAt { get; set; }
    public string? SeenBy { get; set; }
}
