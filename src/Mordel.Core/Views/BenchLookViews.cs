using Mordel.Core.Serialization;
using Mordel.Core.Training;

namespace Mordel.Core.Views;

/// <summary>
/// Writes what is seen at a bench whose hands are elsewhere: what its own core would tell the screen.
/// </summary>
public static class BenchLookViews
{
    // Beyond what a drawing shows.
    private const int Places = 6;

    /// <summary>
    /// The row of numbers, what carries what, what has happened since it was last told, the sheet, what could not be
    /// done; and the drawing where it is not there yet.
    /// </summary>
    /// <param name="look">What was asked.</param>
    /// <param name="bench">The bench, played to the moment of the look.</param>
    public static string Of(BenchLook look, BenchSession bench)
    {
        ArgumentNullException.ThrowIfNull(look);
        ArgumentNullException.ThrowIfNull(bench);
        var live = bench.Live;
        return JsonText.Object(json =>
        {
            json.WriteStartArray("row");
            foreach (var number in bench.View.Row())
                json.WriteNumberValue(Math.Round(number, Places));
            json.WriteEndArray();
            json.WriteStartObject("connections");
            foreach (var (item, on) in live.Rig.Connections.OrderBy(c => c.Key.Value, StringComparer.Ordinal))
                json.WriteString(item.Value, on.Value);
            json.WriteEndObject();
            json.WriteStrings(
                "happened",
                live.EventLog.All.Skip(look.Told).Select(e => Narrator.Say(e, live.Rig.Rig, numbers: true))
            );
            json.WriteStrings("refused", bench.Refused);
            json.WriteString("describe", Narrator.Describe(live));
            if (bench.Guide is { } guide)
            {
                json.WriteNumber("version", guide.Version);
                json.WritePropertyName("sheet");
                json.WriteRawValue(BenchViews.Sheet(bench));
            }

            if (!look.Drawn)
            {
                json.WritePropertyName("layout");
                json.WriteRawValue(BenchViews.Layout(bench, look.Flow, open: true));
            }
        });
    }
}
