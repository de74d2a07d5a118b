using System.Globalization;
using System.Runtime.InteropServices.JavaScript;
using System.Runtime.Versioning;
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
    /// <summary>The signatures that a check of this file asks about, as JSON, in their order.</summary>
    /// <param name="file">The file.</param>
    /// <param name="keys">Ids of the keys at hand, a space between them.</param>
    [JSExport]
    public static string Asks(byte[] file, string keys) =>
        JsonText.Object(json =>
        {
            json.WriteStartArray("asks");
            foreach (var (key, text, signature) in Noted(file, keys).Asked)
            {
                json.WriteStartObject();
                json.WriteString("key", key);
                json.WriteString("text", text);
                json.WriteString("signature", signature);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        });

    /// <summary>What the check comes to, as JSON.</summary>
    /// <param name="file">The file.</param>
    /// <param name="keys">Ids of the keys at hand, a space between them.</param>
    /// <param name="held">Which of the signatures asked about hold, by their places from 0, a space between
    /// them.</param>
    [JSExport]
    public static string Check(byte[] file, string keys, string held)
    {
        var asked = Noted(file, keys).Asked;
        var holding = held.Split(' ', StringSplitOptions.RemoveEmptyEntries)
            .Select(n => asked[int.Parse(n, CultureInfo.InvariantCulture)])
            .ToHashSet();
        var found = new FileCheck(new AnsweredSignatures(Ids(keys), holding)).Of(file);
        return JsonText.Object(json =>
        {
            Lines("says", found.Says);
            Lines("broken", found.Broken);
            if (found.Code is { } code)
                json.WriteString("code", code.ToString());

            void Lines(string name, IEnumerable<string> lines)
            {
                json.WriteStartArray(name);
                foreach (var line in lines)
                    json.WriteStringValue(line);
                json.WriteEndArray();
            }
        });
    }

    private static NotedSignatures Noted(byte[] file, string keys)
    {
        var noted = new NotedSignatures(Ids(keys));
        new FileCheck(noted).Of(file);
        return noted;
    }

    private static HashSet<string> Ids(string keys) => [.. keys.Split(' ', StringSplitOptions.RemoveEmptyEntries)];
}
