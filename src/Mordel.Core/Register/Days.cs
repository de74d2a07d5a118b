using System.Globalization;

namespace Mordel.Core.Register;

/// <summary>Days as they are kept in fields and files: <c>2026-05-01</c>.</summary>
public static class Days
{
    private const string Form = "yyyy-MM-dd";

    /// <summary>As it is kept.</summary>
    public static string Write(DateOnly day) => day.ToString(Form, CultureInfo.InvariantCulture);

    /// <summary>As it is kept; empty where there is none.</summary>
    public static string Write(DateOnly? day) => day is { } on ? Write(on) : "";

    /// <summary>Reads one; null where it is none.</summary>
    public static DateOnly? Read(string? text) =>
        DateOnly.TryParseExact(text, Form, CultureInfo.InvariantCulture, DateTimeStyles.None, out var day) ? day : null;
}
