using System.Collections.Concurrent;
using System.Security.Cryptography;
using System.Text;
using System.Text.Json;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Components;

namespace Mordel.Web.Application;

/// <summary>
/// Under which name the browser keeps each script for good: a name that changes with the content. Scripts name each
/// other as they stand in the sources; this import map (HTML, 8.1.6.2) leads to the kept names.
/// </summary>
public sealed partial class ModuleMap
{
    private readonly SortedDictionary<string, string> kept = new(StringComparer.Ordinal),
        others = new(StringComparer.Ordinal);
    private readonly ConcurrentDictionary<string, IReadOnlyList<string>> imports = new(StringComparer.Ordinal);
    private readonly IWebHostEnvironment files;

    /// <summary>Made of what the build knows of the scripts.</summary>
    public ModuleMap(EndpointDataSource endpoints, IWebHostEnvironment files)
    {
        ArgumentNullException.ThrowIfNull(endpoints);
        this.files = files;
        var assets = endpoints
            .Endpoints.Select(e => e.Metadata.GetMetadata<ResourceAssetCollection>())
            .FirstOrDefault(a => a is not null);
        foreach (var asset in assets ?? Enumerable.Empty<ResourceAsset>())
            if (asset.Properties?.FirstOrDefault(p => p.Name == "label")?.Value is { } name)
                (asset.Url.EndsWith(".js", StringComparison.Ordinal) ? kept : others)[$"/{name}"] = $"/{asset.Url}";
        Text = JsonSerializer.Serialize(new { imports = kept });
        Source = $"'sha256-{Convert.ToBase64String(SHA256.HashData(Encoding.UTF8.GetBytes(Text)))}'";
    }

    /// <summary>
    /// The name under which a browser keeps a script or a style for good; its own where there is none.
    /// </summary>
    public string KeptName(string file)
    {
        ArgumentNullException.ThrowIfNull(file);
        var path = $"/{file.TrimStart('/')}";
        return kept.GetValueOrDefault(path) ?? others.GetValueOrDefault(path) ?? path;
    }

    /// <summary>The map as it stands in a page.</summary>
    public string Text { get; }

    /// <summary>The map as a content security policy allows it.</summary>
    public string Source { get; }

    /// <summary>
    /// The kept names of all that a script imports, to be asked for before one after the other says what it needs.
    /// </summary>
    /// <param name="script">As it stands in the sources, such as <c>/js/bench.js</c>.</param>
    public IReadOnlyList<string> ImportsOf(string script) => imports.GetOrAdd(script, first =>
        {
            var found = new List<string>();
            Follow(first, found);
            return [.. found.Select(f => kept.GetValueOrDefault(f, f))];
        });

    private void Follow(string script, List<string> found)
    {
        var file = files.WebRootFileProvider.GetFileInfo(script);
        if (!file.Exists)
            return;
        using var reader = new StreamReader(file.CreateReadStream());
        foreach (Match import in Imported().Matches(reader.ReadToEnd()))
        {
            var path = new Uri(new Uri($"http://here.invalid{script}"), import.Groups[1].Value).AbsolutePath;
            if (found.Contains(path))
                continue;
            found.Add(path);
            Follow(path, found);
        }
    }

    [GeneratedRegex("""^(?:import|export)\s(?:[^;'"]*from\s)?['"]([./][^'"]+\.js)['"]""", RegexOptions.Multiline)]
    private static partial Regex Imported();
}
