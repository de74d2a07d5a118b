using System.Text.Json;
using System.Text.Json.Serialization;

namespace Mordel.Core.Views;

/// <summary>
/// How views cross the border to a screen, the same from a server and from a browser: made at build time.
/// </summary>
[JsonSourceGenerationOptions(JsonSerializerDefaults.Web, DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull)]
[JsonSerializable(typeof(RunView))]
[JsonSerializable(typeof(HowFarView))]
[JsonSerializable(typeof(WeighedView))]
[JsonSerializable(typeof(VerdictView))]
[JsonSerializable(typeof(RepairView))]
[JsonSerializable(typeof(RepairPlaceFile))]
public sealed partial class ViewsJson : JsonSerializerContext
{
    /// <summary>
    /// The context that all use; text is escaped so that it can stand in a page. It is the one that was made with the
    /// options above: only what has exactly those is written by the code that was made for it. Another, with an encoder
    /// of its own or made before them, would read types while it runs, and take two to three times as long where code
    /// is interpreted.
    /// </summary>
    public static ViewsJson Border => Default;
}
