using Mordel.Core.Outside;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.KitsAndPeople;

/// <summary>A paper that is handed in as a file.</summary>
/// <param name="Name">Its name as it was handed in.</param>
/// <param name="Bytes">What is in it.</param>
public sealed record HandedPaper(string Name, ReadOnlyMemory<byte> Bytes);

/// <summary>Keeps papers: scans of certificates and calibrations, as they were handed in.</summary>
public sealed class KeepPapers(Store store, IFiles files, TimeProvider clock)
{
    /// <summary>The largest paper, in bytes.</summary>
    public const int Largest = 10 * 1024 * 1024;

    private const int LongestName = 120;

    /// <summary>Why a file cannot be kept as a paper; null when it can.</summary>
    public static string? WhyNot(HandedPaper paper)
    {
        ArgumentNullException.ThrowIfNull(paper);
        return paper.Bytes.Length > Largest ? "A paper may have 10 MB."
            : Kind(paper.Bytes.Span) is null ? "A paper is a PDF, a JPEG or a PNG."
            : null;
    }

    /// <summary>Keeps one that can be kept; its row is saved with the caller's transaction.</summary>
    /// <param name="paper">The paper.</param>
    /// <param name="of">Whom it is about; null where it is about nobody.</param>
    /// <param name="author">Who hands it in.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<PaperRow> Add(HandedPaper paper, Guid? of, Author author, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(paper);
        var row = new PaperRow
        {
            Id = Guid.CreateVersion7(),
            Name = NameOf(paper.Name),
            MediaType = Kind(paper.Bytes.Span) ?? throw new ArgumentException("This is no paper.", nameof(paper)),
            Bytes = paper.Bytes.Length,
            AccountId = of,
            At = clock.Now(),
            By = author.By,
        };
        await files.Keep(FileOf(row.Id), paper.Bytes, cancel);
        store.Papers.Add(row);
        return row;
    }

    /// <summary>A paper with what is in it; null where there is none, or who asks may not see it.</summary>
    /// <param name="id">The paper.</param>
    /// <param name="asker">Who asks.</param>
    /// <param name="all">Whether the asker sees everybody's.</param>
    /// <param name="cancel">Ends the wait.</param>
    public async Task<(PaperRow Row, byte[] Bytes)?> Read(Guid id, Guid asker, bool all, CancellationToken cancel) =>
        await store.Papers.FindAsync([id], cancel) is { } row
        && (all || row.AccountId == asker)
        && await files.Read(FileOf(id), cancel) is { } bytes
            ? (row, bytes)
            : null;

    private static string FileOf(Guid id) => $"papers/{id:N}";

    private static string? Kind(ReadOnlySpan<byte> bytes) =>
        bytes.StartsWith("%PDF-"u8) ? "application/pdf"
        : bytes.StartsWith((ReadOnlySpan<byte>)[0xFF, 0xD8, 0xFF]) ? "image/jpeg"
        : bytes.StartsWith((ReadOnlySpan<byte>)[0x89, 0x50, 0x4E, 0x47, 0x0D, 0x0A, 0x1A, 0x0A]) ? "image/png"
        : null;

    private static string NameOf(string name)
    {
        var bare = string.Concat(
            (name.Split('/', '\\')[^1]).Where(c => !char.IsControl(c) && c is not ('"' or '<' or '>' or ':'))
        );
        return bare.Length == 0 ? "paper" : bare[..Math.Min(bare.Length, LongestName)];
    }
}
