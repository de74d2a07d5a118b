using Mordel.Core.Serialization;
using Mordel.Data.Rows;
using Mordel.Data.Seals;

namespace Mordel.Data.Audit;

/// <summary>The signed end of the audit log.</summary>
/// <param name="Count">How many there are.</param>
/// <param name="Hash">The hash of all of them, in their order.</param>
/// <param name="Key">The key that signed it.</param>
public readonly record struct AuditEnd(long Count, string Hash, string Key);

/// <summary>How one thing that was done is chained to the one before it, and how the end is signed.</summary>
public static class AuditChain
{
    private const string Format = "mordel.audit-end/1";

    /// <summary>The one row of the end.</summary>
    public const int TheEnd = 1;

    /// <summary>The hash of all until a row.</summary>
    /// <param name="before">The hash until the one before it.</param>
    /// <param name="row">The row.</param>
    public static string HashOf(string before, AuditRow row) =>
        ContentHash.Compute(
            JsonText.Object(json =>
            {
                json.WriteString("before", before);
                json.WriteNumber("number", row.Number);
                json.WriteInstant("at", row.At);
                json.WriteString("account", row.AccountId?.ToString() ?? "");
                json.WriteString("who", row.Who);
                json.WriteString("what", row.What);
                json.WriteString("on", row.On);
                json.WriteString("says", row.Says);
                json.WriteString("from", row.From);
            })
        );

    /// <summary>An end as it is signed.</summary>
    public static string Write(AuditEnd end) =>
        JsonText.Object(json =>
        {
            json.WriteString("format", Format);
            json.WriteNumber("count", end.Count);
            json.WriteString("hash", end.Hash);
            json.WriteString("key", end.Key);
        });

    /// <summary>What an end says; null when it is not as it was signed.</summary>
    public static AuditEnd? Signed(AuditEndRow row, SigningKeys keys)
    {
        ArgumentNullException.ThrowIfNull(row);
        ArgumentNullException.ThrowIfNull(keys);
        var errors = new List<InputError>();
        if (Node.Root(row.Text, errors) is not { } node || !node.IsObject())
            return null;
        node.Format(Format);
        var (count, hash, key) = (
            node.Required("count")?.Whole(1, long.MaxValue),
            node.Required("hash")?.Text(),
            node.Required("key")?.Text()
        );
        return errors.Count == 0 && keys.Verifies(key!, row.Text, row.Signature)
            ? new AuditEnd(count!.Value, hash!, key!)
            : null;
    }
}
