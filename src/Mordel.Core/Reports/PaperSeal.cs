namespace Mordel.Core.Reports;

/// <summary>
/// What stands behind the pages of a PDF: the link that seals them, so that they can be checked without the
/// installation that made them.
/// </summary>
/// <param name="Link">The canonical text of the link.</param>
/// <param name="Signature">The installation's signature over the hash of the link, base 64.</param>
/// <param name="Attested">Set where these pages are not those that were set when the seal was made: their own
/// signature.</param>
public sealed record PaperSeal(string Link, string Signature, PaperAttestation? Attested = null)
{
    /// <summary>The report's number, as files of earlier versions say it; nothing vouches for it.</summary>
    public string? Number { get; init; }
}

/// <summary>
/// A signature over pages that were set later than the seal, by a newer version or from a seal of the earlier form.
/// </summary>
/// <param name="Key">Id of the key.</param>
/// <param name="Signature">Over <see cref="Statement"/>, base 64.</param>
public sealed record PaperAttestation(string Key, string Signature)
{
    /// <summary>What is signed: that pages with this hash say what a link seals.</summary>
    public static string Statement(string paper, string link) => $"mordel.paper/1\n{paper}\n{link}\n";
}

/// <summary>A sealed report as a file of data: the record with all that it names and every seal over it.</summary>
/// <param name="Record">The canonical text of the sealed run.</param>
/// <param name="Profile">The text of the profile that its setup names by hash.</param>
/// <param name="Sheet">The text of the run sheet that its setup names by hash.</param>
/// <param name="Seal">The seal over the record.</param>
/// <param name="Amendments">The amendments in their order.</param>
/// <param name="Broken">What is broken about it, as its installation found; empty when its seal holds.</param>
public sealed record SealedFile(
    string Record,
    string Profile,
    string Sheet,
    FileSeal? Seal,
    IReadOnlyList<FileAmendment> Amendments,
    IReadOnlyList<string> Broken
);

/// <summary>A link with its signature.</summary>
/// <param name="Link">The canonical text of the link.</param>
/// <param name="Signature">The installation's signature over its hash, base 64.</param>
public sealed record FileSeal(string Link, string Signature);

/// <summary>An amendment with its seal.</summary>
/// <param name="Record">The canonical text of the amendment.</param>
/// <param name="Seal">The seal over it.</param>
public sealed record FileAmendment(string Record, FileSeal Seal);
