using Mordel.Core.Training;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Serialization;

/// <summary>Writes <c>mordel.marks/1</c>: a test at the bench, marked.</summary>
public static class MarksFormat
{
    /// <summary>Format name and version.</summary>
    public const string Name = "mordel.marks/1";

    /// <summary>A mark sheet.</summary>
    public static string Write(MarkSheet sheet)
    {
        ArgumentNullException.ThrowIfNull(sheet);
        return JsonText.Object(json =>
        {
            json.WriteString("format", Name);
            json.WriteNumber("points", sheet.Points);
            json.WriteNumber("of", sheet.Of);
            json.WriteNumber("percent", sheet.Percent);
            json.WriteBoolean("passed", sheet.Passed);
            json.WriteString("verdict", sheet.Examiner.Id());
            json.WriteNumber("seconds", decimal.Round((decimal)sheet.Seconds, 1));
            json.WriteStrings("truth", sheet.Truth);
            json.WriteStartArray("marks");
            foreach (var mark in sheet.Marks)
            {
                json.WriteStartObject();
                json.WriteString("id", mark.Id);
                json.WriteString("title", mark.Title);
                json.WriteBoolean("earned", mark.Earned);
                json.WriteNumber("weight", mark.Weight);
                json.WriteNumber("at", mark.At);
                json.WriteString("says", mark.Says);
                if (mark.EndsIt)
                    json.WriteBoolean("endsIt", true);
                json.WriteEndObject();
            }

            json.WriteEndArray();
        });
    }
}
