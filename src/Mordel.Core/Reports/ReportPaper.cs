using Mordel.Core.Collections;

namespace Mordel.Core.Reports;

/// <summary>An amendment as it stands on paper.</summary>
/// <param name="Printed">Who and when.</param>
/// <param name="Text">What is said.</param>
public sealed record PaperAmendment(string Printed, string Text);

/// <summary>What is set on paper.</summary>
/// <param name="Report">Every printed fact.</param>
/// <param name="Record">Hash of the record, printed at the foot; null where it cannot be told any more.</param>
/// <param name="Amendments">Amendments, announced beside the verdict and set in full.</param>
/// <param name="Broken">What is broken about the seal; said large, and empty when it holds.</param>
public sealed record ReportPaper(
    TestReport Report,
    string? Record,
    EquatableArray<PaperAmendment> Amendments,
    EquatableArray<string> Broken
)
{
    /// <summary>The pictures that the report names, by their hash; one that is lost is said to be.</summary>
    public IReadOnlyDictionary<string, byte[]> Photos { get; init; } = new Dictionary<string, byte[]>();

    /// <summary>The record's text, which goes along inside the file; null where it does not.</summary>
    public string? RecordText { get; init; }

    /// <summary>Where anybody can check it; null where the paper does not say.</summary>
    public CheckAddress? CheckAt { get; init; }
}

/// <summary>Sets reports on paper. The same report gives the same bytes.</summary>
public interface IPaperSetter
{
    /// <summary>The PDF's bytes.</summary>
    byte[] Set(ReportPaper paper);
}
