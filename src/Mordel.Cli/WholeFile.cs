namespace Mordel.Cli;

/// <summary>A file that is there whole or not at all: written beside its place and moved there.</summary>
internal static class WholeFile
{
    /// <summary>Writes it; what is left of an attempt that failed is taken away.</summary>
    /// <exception cref="IOException">It cannot be written.</exception>
    /// <exception cref="UnauthorizedAccessException">It may not be written.</exception>
    public static async Task Write(string path, Func<Stream, Task> content)
    {
        var beside = $"{path}.{Guid.NewGuid():n}.part";
        try
        {
            await using (var into = File.Create(beside))
                await content(into);
            File.Move(beside, path, overwrite: true);
        }
        catch
        {
            if (File.Exists(beside))
                File.Delete(beside);
            throw;
        }
    }
}
