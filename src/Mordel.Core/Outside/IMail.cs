using System.Collections.Immutable;

namespace Mordel.Core.Outside;

/// <summary>A file that goes with a letter.</summary>
/// <param name="Name">Its name: <c>T-1042.pdf</c>.</param>
/// <param name="MediaType">What it is: <c>application/pdf</c>.</param>
/// <param name="Bytes">Its content.</param>
public sealed record Enclosure(string Name, string MediaType, ImmutableArray<byte> Bytes);

/// <summary>A letter that leaves the house.</summary>
/// <param name="Key">The same for every try at the same letter; the carrier marks the letter with it.</param>
/// <param name="To">The address.</param>
/// <param name="Subject">One line.</param>
/// <param name="Text">Plain text.</param>
/// <param name="Enclosures">What goes with it.</param>
/// <param name="Html">The same text as HTML; null where it is plain only.</param>
public sealed record OutgoingMail(
    string Key,
    string To,
    string Subject,
    string Text,
    ImmutableArray<Enclosure> Enclosures,
    string? Html = null
);

/// <summary>A letter that came.</summary>
/// <param name="Id">Its message id; who sends the same twice sends one.</param>
/// <param name="From">Who sent it.</param>
/// <param name="Subject">One line.</param>
/// <param name="Text">What it says, as plain text.</param>
/// <param name="Answers">The key of our letter that it belongs to; null where that is not known.</param>
/// <param name="Bounced">Whether a mail server says that our letter could not be delivered.</param>
public sealed record IncomingMail(string Id, string From, string Subject, string Text, string? Answers, bool Bounced);

/// <summary>Carries letters.</summary>
public interface IMail
{
    /// <summary>Hands a letter over. A carrier that fails says so by its answer, not by an exception.</summary>
    Task<Delivery> Send(OutgoingMail letter, CancellationToken cancel);
}

/// <summary>Where answers to our letters come in.</summary>
public interface IMailbox
{
    /// <summary>What has come and was not taken; asking again gives the same until it is taken.</summary>
    Task<IReadOnlyList<IncomingMail>> Read(CancellationToken cancel);

    /// <summary>Says that a letter is kept, and need not come again.</summary>
    Task Taken(string id, CancellationToken cancel);
}

/// <summary>Writes and reads letters as MIME messages (RFC 5322, 2045).</summary>
public interface IMimeLetters
{
    /// <summary>A letter as a message; the same letter gives the same message id.</summary>
    byte[] Write(OutgoingMail letter);

    /// <summary>An answer to a letter of ours, as its recipient, or a mail server, would send it.</summary>
    byte[] WriteAnswer(byte[] letter, string text, bool bounced, DateTimeOffset at);

    /// <summary>Reads a message; null where it is none.</summary>
    IncomingMail? Read(byte[] message);
}
