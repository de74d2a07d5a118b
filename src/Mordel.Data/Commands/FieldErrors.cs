namespace Mordel.Data.Commands;

/// <summary>Collects what a form lacks, each error with the field it belongs to.</summary>
public sealed class FieldErrors
{
    private readonly List<FieldError> errors = [];

    /// <summary>The errors so far.</summary>
    public IReadOnlyList<FieldError> Errors => errors;

    /// <summary>Whether anything is wrong.</summary>
    public bool Any => errors.Count > 0;

    /// <summary>A text that must be there and not too long.</summary>
    public string Text(string field, string? value, string what, int most = 120)
    {
        var text = value?.Trim() ?? "";
        if (text.Length == 0)
            errors.Add(new(field, $"{what} is missing."));
        else if (text.Length > most)
            errors.Add(new(field, $"{what} may have {most} characters."));
        else if (text.Any(char.IsControl))
            errors.Add(new(field, $"{what} holds a character that cannot be kept."));
        return text;
    }

    /// <summary>One of a set of words.</summary>
    public string OneOf(string field, string? value, string what, params string[] words)
    {
        if (value is not null && words.Contains(value))
            return value;
        errors.Add(new(field, $"{what}: choose one of {string.Join(", ", words)}."));
        return words[0];
    }

    /// <summary>A number in a range.</summary>
    public decimal Number(string field, decimal? value, string what, decimal least, decimal most)
    {
        if (value is { } number && number >= least && number <= most)
            return number;
        errors.Add(new(field, $"{what} must be a number from {least} to {most}."));
        return least;
    }

    /// <summary>A day in living memory or the near future.</summary>
    public DateOnly Day(string field, DateOnly? value, string what)
    {
        if (value is { Year: >= 1950 and < 2100 } day)
            return day;
        errors.Add(new(field, $"{what} must be a day."));
        return default;
    }

    /// <summary>Something against which nothing may stand.</summary>
    /// <param name="field">The field.</param>
    /// <param name="why">What stands against it, as a sentence; null for nothing.</param>
    public void Unless(string field, string? why)
    {
        if (why is not null)
            errors.Add(new(field, why));
    }

    /// <summary>Something else that must hold.</summary>
    public void That(string field, bool holds, string says)
    {
        if (!holds)
            errors.Add(new(field, says));
    }
}
