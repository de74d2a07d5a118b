using System.Globalization;
using Microsoft.EntityFrameworkCore.Storage.ValueConversion;

namespace Mordel.Data;

/// <summary>Keeps an instant as sortable text in UTC, to the millisecond.</summary>
public sealed class UtcText() : ValueConverter<DateTimeOffset, string>(
    at => at.UtcDateTime.ToString("yyyy-MM-dd'T'HH:mm:ss.fff'Z'", CultureInfo.InvariantCulture),
    text => DateTimeOffset.Parse(text, CultureInfo.InvariantCulture, DateTimeStyles.AssumeUniversal));
