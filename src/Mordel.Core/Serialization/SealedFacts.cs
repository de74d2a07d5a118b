using System.Text.Json;

namespace Mordel.Core.Serialization;

/// <summary>
/// What lists repeat of a <c>mordel.sealed-run/2</c>, read from its text without the rest of it: whoever shows two
/// hundred lines compares each with what was sealed.
/// </summary>
/// <param name="Run">The run.</param>
/// <param name="Stop">The stop it was begun from; null where there was none.</param>
/// <param name="Tester">The tester.</param>
/// <param name="Kit">The kit.</param>
/// <param name="Procedure">The school.</param>
/// <param name="Profile">Hash of the profile's text.</param>
/// <param name="BegunAt">When it began.</param>
/// <param name="Number">The report's number.</param>
/// <param name="Setup">The text of the setup.</param>
/// <param name="SignedAt">When it was signed.</param>
/// <param name="SignedName">The name signed.</param>
/// <param name="Outcome">How it was judged.</param>
/// <param name="Reason">Why.</param>
/// <param name="Remarks">The remarks.</param>
/// <param name="NotEntered">How many facts nobody entered.</param>
/// <param name="KitZero">Where the needle stood with both ports open to air; null where nobody said.</param>
public sealed record SealedFacts(
    Guid Run,
    Guid? Stop,
    Guid Tester,
    Guid Kit,
    string? Procedure,
    string? Profile,
    DateTimeOffset BegunAt,
    string? Number,
    string Setup,
    DateTimeOffset SignedAt,
    string? SignedName,
    string? Outcome,
    string? Reason,
    string? Remarks,
    int NotEntered,
    decimal? KitZero
)
{
    /// <summary>The facts of a record; null when the text is none.</summary>
    public static SealedFacts? Read(string record)
    {
        try
        {
            using var document = JsonDocument.Parse(record, new JsonDocumentOptions { MaxDepth = Node.DeepestKept });
            var (all, setup) = (document.RootElement, document.RootElement.GetProperty("setup"));
            var (signature, verdict, report) = (
                all.GetProperty("signature"),
                all.GetProperty("verdict"),
                all.GetProperty("report")
            );
            return all.GetProperty("format").GetString() != SealedRunFormat.Name
                ? null
                : new(
                    setup.GetProperty("run").GetGuid(),
                    setup.TryGetProperty("stop", out var stop) ? stop.GetGuid() : null,
                    setup.GetProperty("tester").GetProperty("id").GetGuid(),
                    setup.GetProperty("kit").GetProperty("id").GetGuid(),
                    setup.GetProperty("procedure").GetString(),
                    setup.GetProperty("profile").GetProperty("sha256").GetString(),
                    setup.GetProperty("begunAt").GetDateTimeOffset(),
                    setup.GetProperty("number").GetString(),
                    setup.GetRawText(),
                    signature.GetProperty("at").GetDateTimeOffset(),
                    signature.GetProperty("name").GetString(),
                    verdict.GetProperty("overall").GetString(),
                    verdict.GetProperty("reason").GetString(),
                    report.GetProperty("remarks").GetString(),
                    report.GetProperty("notEntered").GetArrayLength(),
                    report.TryGetProperty("kitZero", out var zero) ? zero.GetDecimal() : null
                );
        }
        catch (Exception e)
            when (e is JsonException or KeyNotFoundException or InvalidOperationException or FormatException)
        {
            return null;
        }
    }
}
