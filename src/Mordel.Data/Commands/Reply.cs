namespace Mordel.Data.Commands;

/// <summary>Why a command was not done.</summary>
public enum NotDone
{
    /// <summary>What it is about is not there, or not the asker's.</summary>
    NotFound,

    /// <summary>It is well said and cannot be done as things stand.</summary>
    Refused,

    /// <summary>What was given cannot be used.</summary>
    Wrong,
}

/// <summary>Something wrong in what was given.</summary>
/// <param name="Field">The field it belongs to; empty when it concerns the whole.</param>
/// <param name="Says">A sentence for the person.</param>
public readonly record struct FieldError(string Field, string Says);

/// <summary>What came of a command: a value, or why not in sentences for the person.</summary>
public readonly record struct Reply<T>
{
    private readonly IReadOnlyList<FieldError>? errors;

    internal Reply(T? value, NotDone? why, IReadOnlyList<FieldError>? errors) =>
        (Value, Why, this.errors) = (value, why, errors);

    /// <summary>The value, when it was done.</summary>
    public T? Value { get; }

    /// <summary>Why it was not done; null when it was.</summary>
    public NotDone? Why { get; }

    /// <summary>What is wrong, in the order it is to be shown; empty when it was done.</summary>
    public IReadOnlyList<FieldError> Errors => errors ?? [];

    /// <summary>What is said first; null when it was done.</summary>
    public string? Refusal => Errors is [var first, ..] ? first.Says : null;

    /// <summary>Done.</summary>
    public static implicit operator Reply<T>(T value) => new(value, null, null);

    /// <summary>Wrong, as collected.</summary>
    public static implicit operator Reply<T>(FieldErrors fields)
    {
        ArgumentNullException.ThrowIfNull(fields);
        return new(default, NotDone.Wrong, fields.Errors);
    }

    /// <summary>It cannot be done as things stand.</summary>
    public static Reply<T> Refused(string why) => new(default, NotDone.Refused, [new("", why)]);

    /// <summary>What it is about is not there.</summary>
    public static Reply<T> NotFound(string why) => new(default, NotDone.NotFound, [new("", why)]);

    /// <summary>The same why for another value.</summary>
    public Reply<TOther> NotDoneFor<TOther>() =>
        Why is { } why ? new(default, why, errors) : throw new InvalidOperationException("It was done.");
}
