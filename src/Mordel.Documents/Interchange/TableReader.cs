using System.Globalization;
using System.IO.Compression;
using System.Text;
using CsvHelper;
using CsvHelper.Configuration;
using ExcelDataReader;
using ExcelDataReader.Exceptions;
using Mordel.Core.Outside;

namespace Mordel.Documents.Interchange;

/// <summary>
/// Reads tables as they come: CSV in UTF-8, UTF-16 or the old Western code page, parted by commas, semicolons or tabs;
/// xlsx by its first sheet. A file that is not what it says, or that would grow beyond measure, is refused in words.
/// </summary>
public sealed class TableReader : ITableReader
{
    // Characters of the longest cell; bytes that a workbook may unpack to, and how many times its own size.
    private const int LongestCell = 32_768;

    private const long LargestWorkbook = 400L << 20,
        LeastChecked = 8L << 20,
        MostTimes = 200;

    private const int MostColumns = 250;

    // The library of workbooks asks for the old Western code page.
    static TableReader() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <inheritdoc/>
    public IEnumerable<TableLine> Read(Stream file)
    {
        ArgumentNullException.ThrowIfNull(file);
        Span<byte> first = stackalloc byte[4];
        var read = file.ReadAtLeast(first, first.Length, throwOnEndOfStream: false);
        file.Position = 0;
        if (read == 0)
            throw new TableRefusedException("The file is empty.");
        if (read == 4 && first.SequenceEqual("PK\u0003\u0004"u8))
            return Sheet(file);
        if (read == 4 && first.SequenceEqual((ReadOnlySpan<byte>)[0xD0, 0xCF, 0x11, 0xE0]))
            throw new TableRefusedException("This is a workbook of the old kind (.xls). Save it as .xlsx or CSV.");
        return Csv(file);
    }

    private static IEnumerable<TableLine> Csv(Stream file)
    {
        using var text = new StreamReader(file, Encoded(file), detectEncodingFromByteOrderMarks: true, 1 << 16, true);
        var damaged = false;
        var form = new CsvConfiguration(CultureInfo.InvariantCulture)
        {
            Delimiter = Delimiter(file, text.CurrentEncoding),
            HasHeaderRecord = false,
            IgnoreBlankLines = true,
            MaxFieldSize = LongestCell,
            // A quotation mark within a cell is often one for inches; one that begins a cell must end it.
            BadDataFound = bad => damaged |= bad.Field.TrimStart() is ['"', ..],
            MissingFieldFound = null,
        };
        using var csv = new CsvParser(text, form, leaveOpen: true);
        while (true)
        {
            string? stopped = null;
            try
            {
                damaged = false;
                if (!csv.Read())
                    yield break;
            }
            catch (CsvHelperException)
            {
                stopped =
                    $"Here the file cannot be read: a cell of more than {LongestCell} characters, or a quotation mark "
                    + "that is not closed. Nothing behind it was read.";
            }

            if (stopped is not null)
            {
                yield return new(csv.RawRow, [], stopped);
                yield break;
            }

            var cells = csv.Record ?? [];
            if (cells.Length > MostColumns)
                yield return new(csv.RawRow, [], $"{cells.Length} columns; {MostColumns} can be read.");
            else
                yield return new(
                    csv.RawRow,
                    cells,
                    damaged
                        ? "Its quotation marks do not fit together; write a quotation mark within a cell twice."
                        : null
                );
        }
    }

    private static IEnumerable<TableLine> Sheet(Stream file)
    {
        using (var zip = new ZipArchive(file, ZipArchiveMode.Read, leaveOpen: true))
        {
            // What the file says of itself is not believed beyond this: the reader stops at the same sizes.
            long unpacked;
            try
            {
                unpacked = zip.Entries.Sum(e => e.Length);
            }
            catch (InvalidDataException e)
            {
                throw new TableRefusedException("This workbook is damaged. Save it anew, or as CSV.", e);
            }

            if (unpacked > LargestWorkbook || (unpacked > LeastChecked && unpacked > file.Length * MostTimes))
                throw new TableRefusedException(
                    "This workbook unpacks to far more than it is. Save it as CSV and bring that."
                );
            if (!zip.Entries.Any(e => e.FullName.EndsWith("workbook.xml", StringComparison.Ordinal)))
                throw new TableRefusedException("This is a packed file, but not a workbook (.xlsx).");
        }

        file.Position = 0;
        using var book = Opened(file);
        var number = 0;
        while (true)
        {
            var more = true;
            string? stopped = null;
            try
            {
                more = book.Read();
            }
            catch (Exception e) when (IsDamage(e))
            {
                stopped = "Here the workbook cannot be read. Nothing behind it was read. Save it anew, or as CSV.";
            }

            number++;
            if (stopped is not null)
            {
                yield return new(number, [], stopped);
                yield break;
            }

            if (!more)
                yield break;
            var cells = new string[Math.Min(book.FieldCount, MostColumns)];
            for (var i = 0; i < cells.Length; i++)
                cells[i] = Text(book.GetValue(i));
            if (Array.TrueForAll(cells, string.IsNullOrWhiteSpace))
                continue;
            yield return Array.Exists(cells, c => c.Length > LongestCell)
                ? new(number, [], $"A cell of more than {LongestCell} characters.")
                : new(number, cells);
        }
    }

    private static IExcelDataReader Opened(Stream file)
    {
        try
        {
            return ExcelReaderFactory.CreateOpenXmlReader(file, new() { LeaveOpen = true });
        }
        catch (Exception e) when (IsDamage(e))
        {
            throw new TableRefusedException("This workbook is damaged. Save it anew, or as CSV.", e);
        }
    }

    // What the library throws at a file that is not what it says.
    private static bool IsDamage(Exception e) =>
        e
            is ExcelReaderException
                or InvalidDataException
                or System.Xml.XmlException
                or FormatException
                or IndexOutOfRangeException
                or ArgumentException
                or InvalidOperationException
                or OverflowException
                or NullReferenceException
                or IOException;

    private static string Text(object? value) =>
        value switch
        {
            null => "",
            DateTime at => at.TimeOfDay == default
                ? at.ToString("yyyy-MM-dd", CultureInfo.InvariantCulture)
                : at.ToString("yyyy-MM-dd HH:mm:ss", CultureInfo.InvariantCulture),
            double number => number.ToString("R", CultureInfo.InvariantCulture),
            bool yes => yes ? "yes" : "no",
            IFormattable other => other.ToString(null, CultureInfo.InvariantCulture),
            _ => value.ToString() ?? "",
        };

    // UTF-8, where all of it is; bytes that are none are read by the old Western code page, each for itself.
    private static Encoding Encoded(Stream file)
    {
        Span<byte> mark = stackalloc byte[4];
        var read = file.ReadAtLeast(mark, 4, throwOnEndOfStream: false);
        file.Position = 0;
        // A sheet saved as Unicode text without a mark has a zero behind each plain letter.
        if (read == 4 && mark[1] == 0 && mark[3] == 0 && mark[0] != 0)
            return Encoding.Unicode;
        return Encoding.GetEncoding("utf-8", EncoderFallback.ReplacementFallback, new WesternBytes());
    }

    private static string Delimiter(Stream file, Encoding encoding)
    {
        var buffer = new byte[4096];
        var read = file.ReadAtLeast(buffer, buffer.Length, throwOnEndOfStream: false);
        file.Position = 0;
        if (read >= 2 && buffer[0] == 0xFF && buffer[1] == 0xFE)
            encoding = Encoding.Unicode;
        var head = encoding.GetString(buffer, 0, read).Split('\n')[0];
        return new[] { ",", ";", "\t" }.MaxBy(d => head.Split(d).Length)!;
    }
}
