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
    /// The context that all use; text is escaped so that it can stand in a page. It names no encoder: what is named,
    /// even the usual one, is not written by the code that was made for it, and takes twice the time.
    /// </summary>
    public static ViewsJson Border { get; } =
        new(
            new JsonSerializerOptions(JsonSerializerDefaults.Web)
            {
                DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingNull,
            }
        );
}
