using System.Globalization;
using CsvHelper;
using CsvHelper.Configuration;

namespace Mordel.Documents.Interchange;

/// <summary>Writes tables as CSV (RFC 4180); what a spreadsheet would run as a formula is written as text.</summary>
public static class CsvText
{
    /// <summary>How CSV is read and written here.</summary>
    internal static CsvConfiguration Form { get; } =
        new(CultureInfo.InvariantCulture)
        {
            InjectionOptions = InjectionOptions.Escape,
            PrepareHeaderForMatch = args => args.Header.Trim().ToLowerInvariant(),
            MissingFieldFound = null,
            BadDataFound = null,
            TrimOptions = TrimOptions.Trim,
        };

    /// <summary>A table.</summary>
    /// <param name="heads">The names of its columns.</param>
    /// <param name="lines">Its lines, each as long as the heads.</param>
    public static string Write(IEnumerable<string> heads, IEnumerable<object[]> lines)
    {
        ArgumentNullException.ThrowIfNull(heads);
        ArgumentNullException.ThrowIfNull(lines);
        using var text = new StringWriter(CultureInfo.InvariantCulture);
        using var csv = new CsvWriter(text, Form);
        foreach (var head in heads)
            csv.WriteField(head);
        csv.NextRecord();
        foreach (var line in lines)
        {
            foreach (var field in line)
                csv.WriteField(field);
            csv.NextRecord();
        }

        csv.Flush();
        return text.ToString();
    }
}
