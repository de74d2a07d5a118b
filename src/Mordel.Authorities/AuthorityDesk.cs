using System.Security.Cryptography;
using System.Text.Json;

namespace Mordel.Authorities;

/// <summary>What is handed in.</summary>
/// <param name="Key">What the sender calls it, once and for all.</param>
/// <param name="Report">The report's number.</param>
/// <param name="Form">Its media type.</param>
/// <param name="Bytes">The file.</param>
public sealed record HandedIn(string Key, string Report, string Form, byte[] Bytes);

/// <summary>
/// Decides about reports as a simulated authority does: each key is taken once, and who hands in the same again gets
/// the
/// same receipt.
/// </summary>
/// <param name="journal">Where its decisions are kept.</param>
/// <param name="clock">The time.</param>
/// <param name="letter">The letter its receipts begin with.</param>
public sealed class AuthorityDesk(AuthorityJournal journal, TimeProvider clock, char letter)
{
    private const string SecondThought = "At a second look the report is not accepted: please have it amended.";

    /// <summary>How long it is down, and after what time it looks again.</summary>
    public static readonly TimeSpan DownFor = TimeSpan.FromHours(1),
        LooksAgainAfter = TimeSpan.FromSeconds(15);

    private DateTimeOffset? downUntil;

    /// <summary>How it behaves.</summary>
    public AuthorityMood Mood { get; private set; }

    /// <summary>Why it refuses, where it does.</summary>
    public string Why { get; private set; } = "The meter number is missing in our register for this address.";

    /// <summary>When it is up again; null while it is.</summary>
    public DateTimeOffset? DownUntil => downUntil > clock.GetUtcNow() ? downUntil : null;

    /// <summary>Says how it behaves from now on.</summary>
    public void Behave(AuthorityMood mood, string? why)
    {
        Mood = mood;
        downUntil = mood == AuthorityMood.Down ? clock.GetUtcNow() + DownFor : null;
        if (!string.IsNullOrWhiteSpace(why))
            Why = why.Trim();
    }

    /// <summary>Decides about a report; what it says is kept before it is answered.</summary>
    public JournalEntry Decide(HandedIn handed)
    {
        ArgumentNullException.ThrowIfNull(handed);
        JournalEntry? before = null;
        return journal.Write(handed.Key, (said, number) =>
        {
            // The same again: the same receipt, and nothing is taken twice.
            if (said is [.., { Ruling: Ruling.Taken } has])
            {
                before = has;
                return null;
            }

            var looked = said.Any(e => e.Later);
            var why = Unreadable(handed)
                ?? (Mood == AuthorityMood.Refuses || (Mood == AuthorityMood.RefusesThenTakes && !looked) ? Why : null);
            return new(
                number,
                clock.GetUtcNow(),
                handed.Key,
                handed.Report,
                handed.Form,
                Convert.ToHexStringLower(SHA256.HashData(handed.Bytes)),
                why is null ? Ruling.Taken : Ruling.Refused,
                why is null ? $"{letter}-{number:D6}" : null,
                why,
                LookAgainAt: !looked && Mood is AuthorityMood.TakesThenRefuses or AuthorityMood.RefusesThenTakes
                    ? clock.GetUtcNow() + LooksAgainAfter
                    : null
            );
        }) ?? before!;
    }

    /// <summary>Says again what it has said: it does so where it repeats itself.</summary>
    public void Repeat(JournalEntry entry)
    {
        ArgumentNullException.ThrowIfNull(entry);
        for (var i = 0; i < 2; i++)
            journal.Write(entry.Key, (_, number) =>
                entry with
                {
                    Number = number,
                    At = clock.GetUtcNow(),
                    Later = true,
                    LookAgainAt = null,
                }
            );
    }

    /// <summary>What was decided at a second look, behind a place in the journal; looks at what is due first.</summary>
    public IReadOnlyList<JournalEntry> Rulings(long after)
    {
        var now = clock.GetUtcNow();
        foreach (var due in journal.All.Where(e => e.LookAgainAt <= now))
            journal.Write(due.Key, (said, number) => said[^1].Number != due.Number ? null
                : due.Ruling == Ruling.Taken
                    ? due with
                    {
                        Number = number,
                        At = now,
                        Ruling = Ruling.Refused,
                        Why = SecondThought,
                        Later = true,
                        LookAgainAt = null,
                    }
                : due with
                {
                    Number = number,
                    At = now,
                    Ruling = Ruling.Taken,
                    Receipt = $"{letter}-{number:D6}",
                    Why = null,
                    Later = true,
                    LookAgainAt = null,
                });
        return [.. journal.All.Where(e => e.Later && e.Number > after)];
    }

    private static string? Unreadable(HandedIn handed) =>
        handed.Form switch
        {
            "application/pdf" => handed.Bytes.AsSpan().StartsWith("%PDF"u8) ? null : "This is no PDF.",
            "application/json" => IsReport(handed.Bytes) ? null : "This is no sealed report.",
            "text/csv" => handed.Bytes.AsSpan().Contains((byte)',') ? null : "This table has no columns.",
            _ => $"Reports of the kind {handed.Form} are not taken here.",
        };

    private static bool IsReport(byte[] bytes)
    {
        try
        {
            using var document = JsonDocument.Parse(bytes);
            return document.RootElement.ValueKind == JsonValueKind.Object
                && document.RootElement.TryGetProperty("format", out var format)
                && format.ValueKind == JsonValueKind.String
                && format.GetString()!.StartsWith("mordel.sealed-report/", StringComparison.Ordinal);
        }
        catch (JsonException)
        {
            return false;
        }
    }
}
