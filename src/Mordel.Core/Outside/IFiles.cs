namespace Mordel.Core.Outside;

/// <summary>
/// Keeps files beside the database. A name is one or two parts of small letters, digits, dots and hyphens, with a slash
/// between: <c>letters/0193.eml</c>.
/// </summary>
public interface IFiles
{
    /// <summary>Keeps a file, whole or not at all; one of the same name is replaced.</summary>
    /// <exception cref="ArgumentException">The name is none.</exception>
    /// <exception cref="IOException">There is no room for it, or it cannot be written.</exception>
    Task Keep(string name, ReadOnlyMemory<byte> bytes, CancellationToken cancel);

    /// <summary>A file's content, or null where there is none of that name.</summary>
    /// <exception cref="IOException">It is there and cannot be read.</exception>
    Task<byte[]?> Read(string name, CancellationToken cancel);

    /// <summary>A file to read from its beginning, or null where there is none of that name.</summary>
    /// <exception cref="IOException">It is there and cannot be read.</exception>
    Stream? Open(string name);

    /// <summary>Keeps a file as it comes, whole or not at all; one of the same name is replaced.</summary>
    /// <exception cref="ArgumentException">The name is none.</exception>
    /// <exception cref="IOException">There is no room for it, or it cannot be written.</exception>
    Task Keep(string name, Stream bytes, CancellationToken cancel);

    /// <summary>Takes a file away; one that is not there is no error.</summary>
    Task Remove(string name, CancellationToken cancel);
}

/// <summary>What a file's name may be.</summary>
public static class FileNames
{
    /// <summary>The longest name, in characters.</summary>
    public const int Longest = 120;

    /// <summary>Whether this can name a file; nothing else reaches a folder.</summary>
    public static bool IsName(string? name) =>
        name is { Length: > 0 and <= Longest }
        && name.Split('/') is { Length: <= 2 } parts
        && parts.All(p =>
            p.Length > 0
            && char.IsAsciiLetterOrDigit(p[0])
            && p.All(c => char.IsAsciiLetterLower(c) || char.IsAsciiDigit(c) || c is '.' or '-')
        );
}
