using Mordel.Core.Catalogue;
using Mordel.Core.Rigs;

namespace Mordel.Core.Serialization;

/// <summary>What a form that sets a rig can offer, by body: springs and faults, as a script reads them.</summary>
public static class RigChoices
{
    /// <summary>What people call each item, by its stable name.</summary>
    public static string ItemNames { get; } =
        JsonText.Object(json =>
        {
            foreach (var item in TestItem.All)
                json.WriteString(item.Id, item.Name);
        });

    /// <summary>
    /// One object: body's name to <c>{"springs":["cv1"],"faults":[{"value":"cv1 leaks","words":"CV1 leaks","fault":{…as
    /// a scenario has it},"sized":true}]}</c>.
    /// </summary>
    public static string Json { get; } =
        JsonText.Object(json =>
        {
            foreach (var body in Bodies.All)
            {
                json.WriteStartObject(body.Name);
                json.WriteStrings("springs", FaultCatalogue.Springs(body));
                json.WriteStartArray("faults");
                foreach (var choice in FaultCatalogue.Choices(body))
                {
                    json.WriteStartObject();
                    json.WriteString("value", choice.Value);
                    json.WriteString("words", choice.Words);
                    json.WriteBoolean("sized", choice.Kind.HasSize);
                    json.WriteStartObject("fault");
                    json.WriteString("part", choice.Part);
                    json.WriteString("fault", choice.Kind.Id);
                    if (choice.By is { } by)
                        json.WriteNumber(choice.Kind.Kind == FaultKind.ZeroOffset ? "by" : "inches", by);
                    json.WriteEndObject();
                    json.WriteEndObject();
                }

                json.WriteEndArray();
                json.WriteEndObject();
            }
        });
}
