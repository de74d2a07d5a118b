using System.Collections.Immutable;
using System.Globalization;
using CsvHelper;
using Mordel.Core.Repairs;
using Mordel.Core.Serialization;

namespace Mordel.Documents.Interchange;

/// <summary>Spare parts as CSV: one line a part, columns by name in any order.</summary>
public static class PartsCsv
{
    private const int MostLines = 20_000,
        LongestText = 120;

    private static readonly string[] Columns =
    [
        "make",
        "model",
        "size",
        "name",
        "part",
        "price",
        "supplier number",
        "lead days",
        "least",
        "in store",
    ];

    /// <summary>Writes them.</summary>
    public static string Write(IEnumerable<SparePart> parts) =>
        CsvText.Write(
            Columns,
            parts.Select(p =>
                new object[]
                {
                    p.Make,
                    p.Model,
                    p.Size,
                    p.Name,
                    p.Part,
                    p.Price,
                    p.SupplierNumber,
                    p.LeadDays,
                    p.Least,
                    p.InStore,
                }
            )
        );

    /// <summary>Writes what is to be ordered.</summary>
    public static string WriteOrder(IEnumerable<(SparePart Part, int Count)> order) =>
        CsvText.Write(
            ["supplier number", "count", "name", "make", "model", "size", "price", "lead days"],
            order.Select(o =>
                new object[]
                {
                    o.Part.SupplierNumber,
                    o.Count,
                    o.Part.Name,
                    o.Part.Make,
                    o.Part.Model,
                    o.Part.Size,
                    o.Part.Price,
                    o.Part.LeadDays,
                }
            )
        );

    /// <summary>Reads them.</summary>
    /// <param name="text">The file.</param>
    /// <param name="errors">Every error with its line; empty when all could be read.</param>
    public static ImmutableArray<SparePart> Read(string text, out ImmutableArray<InputError> errors)
    {
        var wrong = new List<InputError>();
        var parts = new List<SparePart>();
        using var reader = new StringReader(text);
        using var csv = new CsvReader(reader, CsvText.Form);
        try
        {
            if (!csv.Read() || !csv.ReadHeader())
                wrong.Add(new("line 1", "the names of the columns are wanted here"));
            else
                foreach (var missing in Columns.Where(c => !Has(csv, c)))
                    wrong.Add(new("line 1", $"the column \"{missing}\" is missing"));
            while (wrong.Count == 0 && csv.Read())
            {
                if (parts.Count == MostLines)
                {
                    wrong.Add(new($"line {csv.Parser.Row}", $"more than {MostLines} parts"));
                    break;
                }

                parts.Add(Line(csv, wrong));
            }
        }
        catch (CsvHelperException e)
        {
            wrong.Add(new($"line {csv.Parser.Row}", $"cannot be read as CSV: {e.Message.Split('\n')[0]}"));
        }

        errors = [.. wrong];
        return wrong.Count == 0 ? [.. parts] : [];
    }

    private static bool Has(CsvReader csv, string column) =>
        csv.HeaderRecord?.Any(h => h.Trim().Equals(column, StringComparison.OrdinalIgnoreCase)) == true;

    private static SparePart Line(CsvReader csv, List<InputError> wrong)
    {
        var line = $"line {csv.Parser.Row}";
        string Words(string column, bool isWanted)
        {
            // An apostrophe before a formula is ours.
            var text = (csv.GetField(column) ?? "").Trim();
            text = text is ['\'', '=' or '+' or '-' or '@', ..] ? text[1..] : text;
            if (isWanted && text.Length == 0)
                wrong.Add(new(line, $"{column}: something is wanted here"));
            if (text.Length > LongestText || text.Any(char.IsControl))
                wrong.Add(new(line, $"{column}: at most {LongestText} plain characters"));
            return text;
        }

        int Whole(string column)
        {
            if (
                int.TryParse(csv.GetField(column), NumberStyles.None, CultureInfo.InvariantCulture, out var n)
                && n <= 10_000
            )
                return n;
            wrong.Add(new(line, $"{column}: a whole number from 0 to 10000 is wanted here"));
            return 0;
        }

        decimal Money(string column)
        {
            if (
                decimal.TryParse(
                    csv.GetField(column),
                    NumberStyles.AllowDecimalPoint,
                    CultureInfo.InvariantCulture,
                    out var price
                )
                && price <= 1_000_000
            )
                return price;
            wrong.Add(new(line, $"{column}: an amount like 125.50 is wanted here"));
            return 0;
        }

        return new(
            Words("make", true),
            Words("model", true),
            Words("size", false),
            Words("name", true),
            Words("part", false),
            Money("price"),
            Words("supplier number", false),
            Whole("lead days"),
            Whole("least"),
            Whole("in store")
        );
    }
}
