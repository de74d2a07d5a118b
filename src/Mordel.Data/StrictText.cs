using System.Buffers;
using System.Globalization;
using System.Text;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Mordel.Data;

/// <summary>
/// Keeps an instant as sortable text in UTC, to the millisecond. A text that was not written so reads as the beginning
/// of time: it hides no other row, and whoever compares it finds it.
/// </summary>
public sealed class UtcText()
    : ValueConverter<DateTimeOffset, string>(
        at => at.UtcDateTime.ToString(Pattern, CultureInfo.InvariantCulture),
        text => Read(text)
    )
{
    private const string Pattern = "yyyy-MM-dd'T'HH:mm:ss.fff'Z'";

    // Every line of a list has some: the pattern's places are read where they are.
    private static DateTimeOffset Read(string text)
    {
        if (text is not [_, _, _, _, '-', _, _, '-', _, _, 'T', _, _, ':', _, _, ':', _, _, '.', _, _, _, 'Z'])
            return DateTimeOffset.MinValue;
        var (year, month, day) = (Number(text, 0, 4), Number(text, 5, 2), Number(text, 8, 2));
        var (hour, minute, second) = (Number(text, 11, 2), Number(text, 14, 2), Number(text, 17, 2));
        var thousandths = Number(text, 20, 3);
        return
            year is >= 1
            && month is >= 1 and <= 12
            && day >= 1
            && day <= DateTime.DaysInMonth(year, month)
            && hour is >= 0 and <= 23
            && minute is >= 0 and <= 59
            && second is >= 0 and <= 59
            && thousandths >= 0
            ? new(year, month, day, hour, minute, second, thousandths, TimeSpan.Zero)
            : DateTimeOffset.MinValue;
    }

    // Less than 0 where one of them is no digit.
    private static int Number(string text, int at, int digits)
    {
        var number = 0;
        foreach (var sign in text.AsSpan(at, digits))
        {
            if (!char.IsAsciiDigit(sign))
                return -1;
            number = (10 * number) + sign - '0';
        }

        return number;
    }
}

/// <summary>
/// Keeps an id as text in capitals, as the database's driver does. A text that was not written so reads as the empty
/// id.
/// </summary>
public sealed class IdText() : ValueConverter<Guid, string>(id => Write(id), text => Read(text))
{
    private static readonly SearchValues<char> Signs = SearchValues.Create("0123456789ABCDEF-");

    private static string Write(Guid id) => string.Create(36, id, static (text, id) =>
        {
            id.TryFormat(text, out _);
            Ascii.ToUpperInPlace(text, out _);
        });

    private static Guid Read(string text) =>
        text.Length == 36 && !text.AsSpan().ContainsAnyExcept(Signs) && Guid.TryParseExact(text, "D", out var id)
            ? id
            : Guid.Empty;
}

/// <summary>
/// Keeps a number in its digits, as the database's driver does. A text that is no number reads as one that nothing can
/// have.
/// </summary>
public sealed class DigitsText()
    : ValueConverter<decimal, string>(
        number => number.ToString(Pattern, CultureInfo.InvariantCulture),
        text => Read(text)
    )
{
    private const string Pattern = "0.0###########################";

    private static decimal Read(string text) =>
        decimal.TryParse(text, NumberStyles.Number, CultureInfo.InvariantCulture, out var number)
            ? number
            : decimal.MinValue;
}

/// <summary>Keeps an instant as the server's own, to the millisecond as the text does.</summary>
public sealed class UtcInstant()
    : ValueConverter<DateTimeOffset, DateTime>(
        at => new DateTime(at.UtcTicks / TimeSpan.TicksPerMillisecond * TimeSpan.TicksPerMillisecond, DateTimeKind.Utc),
        kept => new DateTimeOffset(DateTime.SpecifyKind(kept, DateTimeKind.Utc), TimeSpan.Zero)
    );

/// <summary>Keeps a number as the server's own, with as many places as the text has.</summary>
public sealed class PlainDigits() : ValueConverter<decimal, decimal>(number => Plain(number), kept => Plain(kept))
{
    // Without the noughts that a sum may carry behind its last place, and with one place at least.
    private static decimal Plain(decimal number) =>
        decimal.Parse(
            number.ToString("0.0###########################", CultureInfo.InvariantCulture),
            CultureInfo.InvariantCulture
        );
}
