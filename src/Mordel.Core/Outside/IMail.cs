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
public sealed record OutgoingMail(
    string Key,
    string To,
    string Subject,
    string Text,
    ImmutableArray<Enclosure> Enclosures
);

/// <summary>Carries letters.</summary>
public interface IMail
{
    /// <summary>Hands a letter over. A carrier that fails says so by its answer, not by an exception.</summary>
    Task<Delivery> Send(OutgoingMail letter, CancellationToken cancel);
}
