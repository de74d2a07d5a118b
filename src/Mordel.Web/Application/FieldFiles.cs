using System.Security.Cryptography;
using System.Text;

namespace Mordel.Web.Application;

/// <summary>The files that the field rooms need without a signal.</summary>
/// <param name="Version">Another whenever one of them is.</param>
/// <param name="Files">Their addresses.</param>
public sealed record FieldFileList(string Version, IReadOnlyList<string> Files);

/// <summary>
/// Names all that a device keeps so that the field rooms work without a signal: styles, scripts, typefaces, the core
/// for the browser and its atlases. What is named by its content never changes; the rest belongs to one version.
/// </summary>
public sealed class FieldFiles
{
    /// <summary>The page that holds the field rooms.</summary>
    public const string Page = "/field";

    private static readonly string[] Styles =
    [
        "lib/bootstrap.min.css",
        "css/tokens.css",
        "css/shell.css",
        "css/today.css",
        "css/rig.css",
        "css/run.css",
        "css/report.css",
        "css/repair.css",
        "css/job.css",
        "css/diagnosis.css",
        "css/field.css",
    ];

    private static readonly string[] Scripts =
    [
        "/js/shell.js",
        "/js/field/field.js",
        "/js/field/leave.js",
        "/js/core.js",
        "/js/core-worker.js",
    ];

    /// <summary>Found once, when the application starts.</summary>
    public FieldFiles(ModuleMap modules, IWebHostEnvironment environment)
    {
        ArgumentNullException.ThrowIfNull(modules);
        ArgumentNullException.ThrowIfNull(environment);
        List<string> files =
        [
            Page,
            .. Styles.Select(modules.KeptName),
            "/css/select.svg",
            .. Scripts.Select(modules.KeptName),
            .. Scripts.SelectMany(modules.ImportsOf),
            "/icon.svg",
            "/app.webmanifest",
            .. environment
                .WebRootFileProvider.GetDirectoryContents("lib/fonts")
                .Where(f => f.Name.EndsWith(".woff2", StringComparison.Ordinal))
                .Select(f => $"/lib/fonts/{f.Name}"),
            .. Core,
            .. Core.Count == 0 ? [] : Atlases(),
        ];
        files = [.. files.Distinct().Order(StringComparer.Ordinal)];
        var text = string.Join('\n', files) + typeof(FieldFiles).Assembly.ManifestModule.ModuleVersionId;
        List = new(Convert.ToHexStringLower(SHA256.HashData(Encoding.UTF8.GetBytes(text)))[..12], files);
    }

    /// <summary>The list.</summary>
    public FieldFileList List { get; }

    /// <summary>The files of the core, without atlases: all that a bench needs.</summary>
    public IReadOnlyList<string> Core { get; } = [.. CoreFiles()];

    private static IEnumerable<string> Atlases() =>
        Directory
            .EnumerateFiles(Path.Combine(AppContext.BaseDirectory, "atlases"), "*.atlas")
            .Select(f => $"/core/{Path.GetFileName(f)}");

    // Those that the one in the middle names.
    private static IEnumerable<string> CoreFiles()
    {
        var folder = Path.Combine(AppContext.BaseDirectory, "core");
        var main = Path.Combine(folder, "dotnet.js");
        if (!File.Exists(main))
            return [];
        var named = File.ReadAllText(main);
        return
        [
            "/core/dotnet.js",
            .. Directory
                .EnumerateFiles(folder)
                .Select(f => Path.GetFileName(f)!)
                .Where(f =>
                    f.EndsWith(".wasm", StringComparison.Ordinal) || f.EndsWith(".js", StringComparison.Ordinal)
                )
                .Where(f => f != "dotnet.js" && named.Contains(f, StringComparison.Ordinal))
                .Select(f => $"/core/{f}"),
        ];
    }
}
