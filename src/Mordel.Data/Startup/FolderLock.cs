using System.Globalization;

namespace Mordel.Data.Startup;

/// <summary>
/// Holds a data folder for one process: two that write into it would not know of each other. The system lets go of it
/// when the process ends, however.
/// </summary>
public sealed class FolderLock : IDisposable
{
    /// <summary>The file that is held.</summary>
    public const string FileName = "mordel.lock";

    private const string HolderName = "mordel.pid";

    private readonly FileStream held;

    private FolderLock(FileStream held) => this.held = held;

    /// <summary>Takes hold of a folder; makes it when it is not there.</summary>
    /// <param name="folder">The data folder.</param>
    /// <param name="shared">
    /// Whether others may hold it in the same way: processes whose rows lie on a server. Who wants it alone is kept out
    /// all the same.
    /// </param>
    /// <exception cref="StartRefusedException">It cannot be made or written, or another process holds it.</exception>
    public static FolderLock Take(string folder, bool shared = false)
    {
        var file = Path.Combine(folder, FileName);
        try
        {
            // Keys and customers lie in it: one that is made here is its owner's alone.
            if (!Directory.Exists(folder))
                Directory.CreateDirectory(
                    folder,
                    UnixFileMode.UserRead | UnixFileMode.UserWrite | UnixFileMode.UserExecute
                );
            if (shared && !File.Exists(file))
                File.WriteAllText(file, "");
            var stream = shared
                ? new FileStream(file, FileMode.Open, FileAccess.Read, FileShare.Read)
                : new FileStream(file, FileMode.OpenOrCreate, FileAccess.ReadWrite, FileShare.None);
            try
            {
                // What is held cannot be read by others: who holds it stands beside.
                File.WriteAllText(
                    Path.Combine(folder, HolderName),
                    Environment.ProcessId.ToString(CultureInfo.InvariantCulture)
                );
                return new(stream);
            }
            catch
            {
                stream.Dispose();
                throw;
            }
        }
        catch (UnauthorizedAccessException e)
        {
            throw new StartRefusedException(
                $"The data folder {folder} cannot be written by this user. Give it to the user that runs Mordel, "
                    + $"or start with another folder: --data DIR.",
                e
            );
        }
        catch (IOException e) when (IsHeld(e))
        {
            throw new StartRefusedException(
                $"Another Mordel is running on the data folder {folder}{Holder(folder)}. Stop it first, or start "
                    + $"with another folder: --data DIR.",
                e
            );
        }
        catch (IOException e)
        {
            throw new StartRefusedException(
                $"The data folder {folder} cannot be written: {e.Message.TrimEnd('.')}. Is the disk full, "
                    + $"read-only, or not there? Mend that and start again.",
                e
            );
        }
    }

    // What the system says of a file that another process holds: EWOULDBLOCK, or the sharing violation.
    private static bool IsHeld(IOException e) =>
        e.HResult is 11 or 35 or unchecked((int)0x80070020)
        || e.Message.Contains("being used by another process", StringComparison.Ordinal);

    private static string Holder(string folder)
    {
        try
        {
            return int.TryParse(File.ReadAllText(Path.Combine(folder, HolderName)), out var process)
                ? $" (process {process})"
                : "";
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            return "";
        }
    }

    /// <inheritdoc/>
    public void Dispose() => held.Dispose();
}
