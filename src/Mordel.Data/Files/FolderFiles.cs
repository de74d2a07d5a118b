using Mordel.Core.Outside;

namespace Mordel.Data.Files;

/// <summary>Keeps files in a folder; each is written beside its place and moved there when it is whole.</summary>
/// <param name="folder">The folder; made when it is needed.</param>
public sealed class FolderFiles(string folder) : IFiles
{
    /// <inheritdoc/>
    public Task Keep(string name, ReadOnlyMemory<byte> bytes, CancellationToken cancel) =>
        Keep(name, async file => await file.WriteAsync(bytes, cancel));

    /// <inheritdoc/>
    public Task Keep(string name, Stream bytes, CancellationToken cancel) =>
        Keep(name, file => bytes.CopyToAsync(file, cancel));

    private async Task Keep(string name, Func<FileStream, Task> write)
    {
        var path = PathOf(name);
        Directory.CreateDirectory(Path.GetDirectoryName(path)!);
        var beside = $"{path}.{Guid.NewGuid():n}.part";
        try
        {
            await using (var file = new FileStream(beside, FileMode.CreateNew, FileAccess.Write))
            {
                await write(file);
                file.Flush(flushToDisk: true);
            }

            File.Move(beside, path, overwrite: true);
        }
        catch
        {
            File.Delete(beside);
            throw;
        }
    }

    /// <inheritdoc/>
    public async Task<byte[]?> Read(string name, CancellationToken cancel)
    {
        var path = PathOf(name);
        return File.Exists(path) ? await File.ReadAllBytesAsync(path, cancel) : null;
    }

    /// <inheritdoc/>
    public Stream? Open(string name) => PathOf(name) is var path && File.Exists(path) ? File.OpenRead(path) : null;

    /// <inheritdoc/>
    public Task Remove(string name, CancellationToken cancel)
    {
        if (PathOf(name) is var path && File.Exists(path))
            File.Delete(path);
        return Task.CompletedTask;
    }

    private string PathOf(string name) =>
        FileNames.IsName(name)
            ? Path.Combine(folder, name)
            : throw new ArgumentException($"\"{name}\" is no name of a file.", nameof(name));
}
