namespace Mordel.Data.Commands;

/// <summary>What came of a command: a value, or why not in a sentence for the person.</summary>
public readonly record struct Reply<T>(T? Value, string? Refusal)
{
    public static implicit operator Reply<T>(T value) => new(value, null);

    public static Reply<T> Refused(string why) => new(default, why);
}
