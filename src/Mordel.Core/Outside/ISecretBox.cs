namespace Mordel.Core.Outside;

/// <summary>
/// Keeps words that lie in the database unreadable there: whoever has a copy of the database alone learns nothing.
/// </summary>
public interface ISecretBox
{
    /// <summary>The words as they are kept.</summary>
    string Hide(string words);

    /// <summary>The words; null where they cannot be read any more.</summary>
    string? Show(string kept);
}
