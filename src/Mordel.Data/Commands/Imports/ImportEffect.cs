using System.Text.Json;
using System.Text.Json.Serialization;

namespace Mordel.Data.Commands.Imports;

/// <summary>A value that taking a line in has changed.</summary>
/// <param name="Thing">What it belongs to, one of <see cref="Rows.Things"/>.</param>
/// <param name="Id">Its id.</param>
/// <param name="Field">The field.</param>
/// <param name="From">What it was.</param>
/// <param name="To">What it became.</param>
public sealed record ChangedValue(string Thing, Guid Id, string Field, string From, string To);

/// <summary>What taking a line in did, so that it can be undone.</summary>
public sealed record ImportEffect
{
    /// <summary>The assembly that it made.</summary>
    public Guid? Assembly { get; init; }

    /// <summary>The place, owner and authority that it made.</summary>
    public Guid? Place { get; init; }
    public Guid? Owner { get; init; }
    public Guid? Authority { get; init; }

    /// <summary>Tests and events that it brought.</summary>
    public List<Guid> Tests { get; init; } = [];
    public List<Guid> Events { get; init; } = [];

    /// <summary>Values that it changed.</summary>
    public List<ChangedValue> Values { get; init; } = [];

    /// <summary>Whether it did anything.</summary>
    [JsonIgnore]
    public bool IsNothing =>
        (Assembly, Place, Owner, Authority) == (null, null, null, null)
        && Tests.Count + Events.Count + Values.Count == 0;

    private static readonly JsonSerializerOptions Form = new()
    {
        DefaultIgnoreCondition = JsonIgnoreCondition.WhenWritingDefault,
    };

    /// <summary>As it is kept.</summary>
    public string Write() => JsonSerializer.Serialize(this, Form);

    /// <summary>As it was kept.</summary>
    public static ImportEffect Read(string json) => JsonSerializer.Deserialize<ImportEffect>(json, Form)!;
}
