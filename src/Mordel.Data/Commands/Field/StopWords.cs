using System.Globalization;
using Mordel.Data.Lists;

namespace Mordel.Data.Commands.Field;

/// <summary>A stop in words and as a drawing, as a device shows it.</summary>
internal static class StopWords
{
    /// <summary>What is needed at the door, a line each.</summary>
    public static IEnumerable<AboardFact> Facts(StopLine line)
    {
        var (stop, assembly, place) = (line.Stop, line.Assembly, line.Place);
        yield return new(
            "Water may be off",
            $"{Clock(stop.WindowFrom)}–{Clock(stop.WindowUntil)}, about {stop.Minutes} min"
        );
        yield return new("Assembly", $"{assembly.Type} · {assembly.Size} · {assembly.Make} {assembly.Model}");
        yield return new("Serial", $"{assembly.Serial} · tag {assembly.Tag}");
        yield return new("Feeds", $"{assembly.Serves}, {assembly.Hazard} hazard, {assembly.Protection}");
        yield return new("Stands", $"{assembly.Location}. {assembly.HowToFind}".Trim());
        yield return new("Way in", place.Access);
        yield return new("Ask for", $"{place.Contact}. Owner: {place.Owner!.Name}");
        if (assembly.LastTestOn is { } last)
            yield return new("Last test", last.ToString("d MMM yyyy", CultureInfo.InvariantCulture));
    }

    /// <summary>What is to be minded there.</summary>
    public static IEnumerable<string> Mind(StopLine line)
    {
        if (line.Stop.IsSeasonal)
            yield return "Seasonal visit: most likely found off. Walk the line, charge it, test it, leave it as "
                + "agreed.";
        if (line.Stop.Special is { Length: > 0 } special)
            yield return special;
        if (line.Consent is { } said && ConsentList.Holds(said, line.Stop))
            yield return said.Yes
                ? $"Agreed by {said.Name} for {Clock(said.From)}–{Clock(said.Until)}. {said.Note}".Trim()
                : $"{said.Name} asked for {Clock(said.From)}–{Clock(said.Until)}; not said yes yet.";
        else if (line.Consent is { Yes: false } other)
            yield return $"{other.Name} asks for another time. {other.Note}".Trim();
    }

    /// <summary>A time of the day.</summary>
    public static string Clock(TimeOnly time) => time.ToString("HH:mm", CultureInfo.InvariantCulture);
}
