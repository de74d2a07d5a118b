using System.Runtime.CompilerServices;

namespace Mordel.Data.Tests;

/// <summary>Where the sources lie that these tests were built from.</summary>
public static class Repository
{
    /// <summary>The folder with everything in it.</summary>
    public static string Root { get; } = Path.GetFullPath(Path.Combine(Folder(), "..", ".."));

    /// <summary>A file or folder in it.</summary>
    public static string At(params string[] path) => Path.Combine([Root, .. path]);

    private static string Folder([CallerFilePath] string here = "") => Path.GetDirectoryName(here)!;
}
