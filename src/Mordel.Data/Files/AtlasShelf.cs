using System.Collections.Concurrent;
using Mordel.Core.Diagnosis;
using Mordel.Core.Rigs;
using Mordel.Core.Serialization;

namespace Mordel.Data.Files;

/// <summary>The atlases that came with Mordel, each read once when it is first asked for.</summary>
/// <param name="folder">Where they are; beside the program when left out.</param>
public sealed class AtlasShelf(string? folder = null)
{
    private readonly ConcurrentDictionary<string, Lazy<Atlas>> atlases = new();

    /// <summary>The folder.</summary>
    public string Folder { get; } = folder ?? Path.Combine(AppContext.BaseDirectory, "atlases");

    /// <summary>The atlas of a body; what a body has beside its parts makes no other.</summary>
    /// <exception cref="FormatException">It is missing, broken or of another version.</exception>
    public Atlas Of(AssemblyBody body)
    {
        ArgumentNullException.ThrowIfNull(body);
        return atlases.GetOrAdd(Atlas.FileOf(body), file => new(() => Read(file))).Value;
    }

    private Atlas Read(string file)
    {
        try
        {
            return AtlasFormat.Read(File.ReadAllBytes(Path.Combine(Folder, file)));
        }
        catch (Exception e) when (e is IOException or UnauthorizedAccessException)
        {
            throw new FormatException($"{file} cannot be read; ./mordel atlas makes it again. {e.Message}", e);
        }
    }
}
