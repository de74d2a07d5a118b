using System.Collections.Concurrent;
using Mordel.Core.Outside;

namespace Mordel.Simulators;

/// <summary>Stands in for the folder of files: keeps them in memory, and can be full.</summary>
public sealed class MemoryFiles : IFiles
{
    private readonly ConcurrentDictionary<string, byte[]> kept = new();

    /// <summary>Whether there is no room for another file.</summary>
    public bool Full { get; set; }

    /// <inheritdoc/>
    public Task Keep(string name, ReadOnlyMemory<byte> bytes, CancellationToken cancel)
    {
        if (!FileNames.IsName(name))
            throw new ArgumentException($"\"{name}\" is no name of a file.", nameof(name));
        if (Full)
            return Task.FromException(new IOException("There is no room left."));
        kept[name] = bytes.ToArray();
        return Task.CompletedTask;
    }

    /// <inheritdoc/>
    public Task<byte[]?> Read(string name, CancellationToken cancel) =>
        Task.FromResult(kept.TryGetValue(name, out var bytes) ? bytes : null);

    /// <inheritdoc/>
    public Stream? Open(string name) => kept.TryGetValue(name, out var bytes) ? new MemoryStream(bytes, false) : null;

    /// <inheritdoc/>
    public async Task Keep(string name, Stream bytes, CancellationToken cancel)
    {
        using var all = new MemoryStream();
        await bytes.CopyToAsync(all, cancel);
        await Keep(name, all.ToArray(), cancel);
    }

    /// <inheritdoc/>
    public Task Remove(string name, CancellationToken cancel)
    {
        kept.TryRemove(name, out _);
        return Task.CompletedTask;
    }
}
