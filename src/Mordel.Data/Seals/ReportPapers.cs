using Mordel.Core.Reports;

namespace Mordel.Data.Seals;

/// <summary>
/// Sets a report on paper with all that goes along: its pictures, where it can be checked, the record itself.
/// </summary>
public sealed class ReportPapers(IPaperSetter setter, PaperPhotos photos, Installation installation)
{
    /// <summary>The PDF's bytes.</summary>
    /// <param name="report">Every printed fact.</param>
    /// <param name="record">Hash of the record; null where it cannot be told any more.</param>
    /// <param name="text">The record's text.</param>
    /// <param name="amendments">What was amended, in order.</param>
    /// <param name="broken">What is broken about the seal. Such a paper leads to no check and takes no record along.
    /// </param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<byte[]> Set(
        TestReport report,
        string? record,
        string? text,
        IEnumerable<PaperAmendment> amendments,
        IReadOnlyCollection<string> broken,
        CancellationToken cancel
    )
    {
        ArgumentNullException.ThrowIfNull(broken);
        var whole = broken.Count == 0;
        return setter.Set(
            new(report, record, [.. amendments], [.. broken])
            {
                Photos = await photos.Of(report, cancel),
                CheckAt = whole && record is not null ? installation.CheckOf(record) : null,
                RecordText = whole ? text : null,
            }
        );
    }
}
