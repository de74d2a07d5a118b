using Mordel.Web.Application;

namespace Mordel.Web.Hosting;

/// <summary>What a page may load and do: from here alone, and of text inside a page only the map of scripts.</summary>
public sealed class ContentPolicy(ModuleMap modules)
{
    // The core compiled for the browser may be started only where it is used.
    private static readonly string[] MayCompute = ["/bench", "/diagnoses", "/field", "/runs", "/verify"];

    // The thread in which it stands has a policy of its own: that of its script, whose name says what is in it too.
    private const string Thread = "/js/core-worker.";

    private readonly string usual = With($"'self' {modules.Source}"),
        computing = With($"'self' 'wasm-unsafe-eval' {modules.Source}");

    /// <summary>The policy of a page, or of a thread beside one.</summary>
    public string Of(PathString path) =>
        Array.Exists(MayCompute, p => path.StartsWithSegments(p, StringComparison.OrdinalIgnoreCase))
        || path.Value!.StartsWith(Thread, StringComparison.Ordinal)
            ? computing
            : usual;

    private static string With(string scripts) =>
        $"default-src 'none'; script-src {scripts}; style-src 'self'; img-src 'self' data:; font-src 'self'; "
        + "connect-src 'self'; form-action 'self'; base-uri 'none'; frame-ancestors 'none'; manifest-src 'self'";
}
