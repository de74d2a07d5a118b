using Microsoft.Net.Http.Headers;

namespace Mordel.Web.Hosting;

/// <summary>
/// Serves the core that runs in the browser. Its files are compressed when the application is built; their names change
/// with their content, so that a browser keeps them for good. Where they are not there the page asks the server
/// instead.
/// </summary>
public static class BrowserCoreFiles
{
    private static readonly string Folder = Path.Combine(AppContext.BaseDirectory, "core");
    private static readonly string Atlases = Path.Combine(AppContext.BaseDirectory, "atlases");

    /// <summary>Maps <c>/core/…</c>.</summary>
    public static void MapCoreFiles(this IEndpointRouteBuilder app) =>
        app.MapGet("/core/{file}", Serve).AllowAnonymous();

    private static IResult Serve(string file, HttpContext http)
    {
        var ending = Path.GetExtension(file);
        var path = Path.Combine(ending == ".atlas" ? Atlases : Folder, Path.GetFileName(file));
        var type = ending switch
        {
            ".atlas" => "application/octet-stream",
            ".js" => "text/javascript",
            ".wasm" => "application/wasm",
            _ => null,
        };
        if (type is null || !File.Exists(path))
            return Results.NotFound();
        var accepted = http.Request.Headers.AcceptEncoding.ToString();
        http.Response.Headers.Vary = HeaderNames.AcceptEncoding;
        // Named by content: name.fingerprint.ending.
        http.Response.Headers.CacheControl =
            file.Split('.') is { Length: > 2 } parts && parts[^2].Length == 10
                ? "public, max-age=31536000, immutable"
                : "no-cache";
        foreach (var (packed, encoding) in new[] { (".br", "br"), (".gz", "gzip") })
        {
            if (!accepted.Contains(encoding, StringComparison.Ordinal) || !File.Exists(path + packed))
                continue;
            http.Response.Headers.ContentEncoding = encoding;
            path += packed;
            break;
        }

        return Results.File(
            path,
            type,
            lastModified: File.GetLastWriteTimeUtc(path),
            entityTag: new EntityTagHeaderValue(
                $"\"{new FileInfo(path).Length:x}-{File.GetLastWriteTimeUtc(path).Ticks:x}\""
            )
        );
    }
}
