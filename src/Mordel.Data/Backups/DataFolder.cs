using Mordel.Data.Links;
using Mordel.Data.Seals;

namespace Mordel.Data.Backups;

/// <summary>What of a data folder is kept in a backup: all that could not be made again.</summary>
public static class DataFolder
{
    /// <summary>Its parts beside the database: files that lie in it, and folders with all that is in them.</summary>
    private static readonly string[] Single = [SigningKeys.FileName, LinkSecrets.FileName],
        Folders = ["keys", "files"];

    /// <summary>Its parts at the top, as they are put in place of what is there; the database comes last.</summary>
    public static IReadOnlyList<string> Tops { get; } = [.. Single, .. Folders, StoreOptions.FileName];

    /// <summary>
    /// The files beside the database that are there, by their paths with slashes, in the order of their names. What is
    /// still being written is none.
    /// </summary>
    public static IReadOnlyList<string> Beside(string folder) =>
        [
            .. Single.Where(f => File.Exists(Path.Combine(folder, f))),
            .. Folders
                .Select(f => Path.Combine(folder, f))
                .Where(Directory.Exists)
                .SelectMany(f => Directory.EnumerateFiles(f, "*", SearchOption.AllDirectories))
                .Select(f => Path.GetRelativePath(folder, f).Replace(Path.DirectorySeparatorChar, '/'))
                .Where(f => !f.EndsWith(".part", StringComparison.Ordinal))
                .Order(StringComparer.Ordinal),
        ];

    /// <summary>Whether a path in a backup is one that a backup may put into a data folder.</summary>
    public static bool IsKept(string name)
    {
        ArgumentNullException.ThrowIfNull(name);
        if (name == StoreOptions.FileName || Single.Contains(name))
            return true;
        var parts = name.Split('/');
        return parts.Length > 1
            && Folders.Contains(parts[0])
            && !name.Contains('\\', StringComparison.Ordinal)
            && parts.All(p => p.Length > 0 && p[0] != '.' && p.All(c => c >= ' '));
    }
}
