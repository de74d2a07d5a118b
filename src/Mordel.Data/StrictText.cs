using System.Globalization;
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

    private static DateTimeOffset Read(string text) =>
        DateTimeOffset.TryParseExact(
            text,
            Pattern,
            CultureInfo.InvariantCulture,
            DateTimeStyles.AssumeUniversal,
            out var at
        )
            ? at
            : DateTimeOffset.MinValue;
}

/// <summary>
/// Keeps an id as text in capitals, as the database's driver does. A text that was not written so reads as the empty
/// id.
/// </summary>
public sealed class IdText() : ValueConverter<Guid, string>(id => Write(id), text => Read(text))
{
    private static string Write(Guid id) => id.ToString("D").ToUpperInvariant();

    private static Guid Read(string text) =>
        Guid.TryParseExact(text, "D", out var id) && string.Equals(Write(id), text, StringComparison.Ordinal)
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
