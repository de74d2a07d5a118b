using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
using System.Text.Json;
using Mordel.Core.Seals;
using Mordel.Core.Serialization;

namespace Mordel.Browser;

/// <summary>
/// The check of a report's file as a page's script sees it. The signatures are verified by the browser: it is asked for
/// what is to be verified, and told what held.
/// </summary>
[SupportedOSPlatform("browser")]
public static partial class FileCheckExports
{
    /// <summary>The signatures that a check of this file asks about, as a list of JSON.</summary>
    /// <param name="file">The file.</param>
    /// <param name="keys">Ids of the keys at hand, a space between them.</param>
    [JSExport]
    public static string Asks(byte[] file, string keys)
    {
        var noted = new NotedSignatures(Ids(keys));
        new FileCheck(noted).Of(file);
        return JsonText.Object(json =>
        {
            json.WriteStartArray("asks");
            foreach (var (key, text, signature) in noted.Asked)
            {
                json.WriteStartObject();
                json.WriteString("key", key);
                json.WriteString("text", text);
                json.WriteString("signature", signature);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        });
    }

    /// <summary>What the check comes to, as JSON.</summary>
    /// <param name="file">The file.</param>
    /// <param name="keys">Ids of the keys at hand, a space between them.</param>
    /// <param name="holding">Those of the signatures asked about that hold, as a list of JSON.</param>
    [JSExport]
    public static string Check(byte[] file, string keys, string holding)
    {
        using var held = JsonDocument.Parse(holding);
        var answered = new AnsweredSignatures(
            Ids(keys),
            held.RootElement.EnumerateArray()
                .Select(one => new AskedSignature(Text(one, "key"), Text(one, "text"), Text(one, "signature")))
                .ToHashSet()
        );
        var found = new FileCheck(answered).Of(file);
        return JsonText.Object(json =>
        {
            json.WriteStrings("says", found.Says);
            json.WriteStrings("broken", found.Broken);
            if (found.Code is { } code)
                json.WriteString("code", code.ToString());
        });
    }

    private static string Text(JsonElement one, string name) => one.GetProperty(name).GetString()!;

    private static HashSet<string> Ids(string keys) => [.. keys.Split(' ', StringSplitOptions.RemoveEmptyEntries)];
}
