using System.Text.Json.Serialization;

namespace Mordel.Authorities;

/// <summary>What a simulated authority decided about a report.</summary>
[JsonConverter(typeof(JsonStringEnumConverter<Ruling>))]
public enum Ruling
{
    /// <summary>It has it.</summary>
    Taken,

    /// <summary>It does not want it as it is.</summary>
    Refused,
}

/// <summary>One line of a service's journal; never changed once it is there.</summary>
/// <param name="Number">Its place, from 1.</param>
/// <param name="At">When.</param>
/// <param name="Key">What the sender calls the report, once and for all.</param>
/// <param name="Report">The report's number.</param>
/// <param name="Form">Its media type.</param>
/// <param name="Digest">SHA-256 of what was handed in, in hexadecimal.</param>
/// <param name="Ruling">What was decided.</param>
/// <param name="Receipt">The receipt; null where it was refused.</param>
/// <param name="Why">Why it was refused; null where it was taken.</param>
/// <param name="Later">Whether it was decided at a second look, so that the sender must ask for it.</param>
/// <param name="LookAgainAt">When it is looked at again; null where it is not.</param>
public sealed record JournalEntry(
    long Number,
    DateTimeOffset At,
    string Key,
    string Report,
    string Form,
    string Digest,
    Ruling Ruling,
    string? Receipt,
    string? Why,
    bool Later = false,
    DateTimeOffset? LookAgainAt = null
);
