namespace Mordel.Data.Startup;

/// <summary>A file that nobody but its owner reads: keys, and what holds them.</summary>
public static class OwnersFile
{
    /// <summary>The rights of a folder that nobody but its owner enters.</summary>
    public const UnixFileMode FolderMode = UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute;

    /// <summary>Makes it, to be written.</summary>
    /// <param name="path">Where.</param>
    /// <param name="mode">Whether one that is there already is in the way.</param>
    /// <exception cref="IOException">It cannot be made.</exception>
    public static FileStream Create(string path, FileMode mode = FileMode.CreateNew) =>
        new(
            path,
            new FileStreamOptions
            {
                Mode = mode,
                Access = FileAccess.Write,
                UnixCreateMode = UnixFileMode.UserRead | UnixFileMode.UserWrite,
            }
        );
}
