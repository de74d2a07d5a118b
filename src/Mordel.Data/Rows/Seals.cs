using System.ComponentModel.DataAnnotations.Schema;
using Mordel.Core.Reports;
using Mordel.Core.Serialization;

namespace Mordel.Data.Rows;

/// <summary>A text that many runs share, under the hash of its content: profiles and run sheets as they were.</summary>
public sealed class KeptTextRow
{
    /// <summary>SHA-256 of the text, in hexadecimal.</summary>
    public required string Hash { get; set; }

    /// <summary>The text, compressed.</summary>
    public required byte[] Text { get; set; }
}

/// <summary>One link of an assembly's chain, with the record that it seals.</summary>
public sealed class SealRow
{
    /// <summary>Its place among all seals of the installation, from 1.</summary>
    public long Number { get; set; }
    public Guid AssemblyId { get; set; }

    /// <summary>Its place in the assembly's chain, from 1.</summary>
    public int Sequence { get; set; }
    public Guid RunId { get; set; }

    /// <summary>The amendment that it seals; null when it seals the run itself.</summary>
    public Guid? AmendmentId { get; set; }

    /// <summary>Of a run: the digits of its <see cref="ReportCode"/>, by which anybody finds it; else null.</summary>
    public string? Code { get; set; }

    /// <summary>What the code beside a link must be.</summary>
    public static string? CodeOf(SealLink link)
    {
        ArgumentNullException.ThrowIfNull(link);
        return link.Amendment is null ? ReportCode.Of(link.Record).Digits : null;
    }

    /// <summary>The link as <c>mordel.seal/1</c>.</summary>
    public required string Link { get; set; }

    /// <summary>SHA-256 of the link.</summary>
    public required string Hash { get; set; }

    /// <summary>The installation's signature over the hash, base 64.</summary>
    public required string Signature { get; set; }

    /// <summary>The record, <c>mordel.sealed-run/2</c> or <c>mordel.amendment/2</c>, compressed.</summary>
    public required byte[] Record { get; set; }

    /// <summary>The record's text; null when it cannot be unpacked any more.</summary>
    [NotMapped]
    public string? RecordText => field ??= Packed.Unpack(Record);

    /// <summary>What lists repeat of the record of a run; null when it cannot be read.</summary>
    [NotMapped]
    public SealedFacts? Facts => field ??= RecordText is { } text ? SealedFacts.Read(text) : null;
}

/// <summary>The signed end of an assembly's chain.</summary>
public sealed class ChainRow
{
    public Guid AssemblyId { get; set; }

    /// <summary>As <c>mordel.chain/1</c>.</summary>
    public required string Head { get; set; }
    public required string Signature { get; set; }
}

/// <summary>The signed count of all seals; one row.</summary>
public sealed class LedgerRow
{
    public int Id { get; set; }

    /// <summary>As <c>mordel.ledger/1</c>.</summary>
    public required string Text { get; set; }
    public required string Signature { get; set; }
}

/// <summary>A public key with which seals are checked.</summary>
public sealed class SigningKeyRow
{
    /// <summary>The first sixteen digits of the SHA-256 of the key.</summary>
    public required string Id { get; set; }

    /// <summary>PEM.</summary>
    public required string PublicKey { get; set; }
    public DateTimeOffset Since { get; set; }
    public DateTimeOffset? RetiredAt { get; set; }

    /// <summary>The signature of the key in use, saying that this one is the installation's.</summary>
    public required string Endorsement { get; set; }

    /// <summary>
    /// The signature of the key before this one, saying that this one follows it; null for the first.
    /// </summary>
    public string? Succession { get; set; }
}

/// <summary>A seal of the earlier form, as it was before it was brought forward.</summary>
public sealed class EarlierSealRow
{
    /// <summary>The run or the amendment.</summary>
    public Guid Id { get; set; }
    public string? Serial { get; set; }
    public string? Kit { get; set; }
    public string? Certificate { get; set; }

    /// <summary>The drawn signature as SVG path data.</summary>
    public string? Ink { get; set; }
    public string? PreviousHash { get; set; }
    public string? Hash { get; set; }
    public string? KeySignature { get; set; }
}

/// <summary>Something found broken among what is sealed; shown until somebody has dealt with it.</summary>
public sealed class AlarmRow
{
    public Guid Id { get; set; }

    /// <summary>What it is about: <c>run ID</c>, <c>chain ID</c>, <c>installation</c>.</summary>
    public required string Subject { get; set; }
    public required string Says { get; set; }
    public DateTimeOffset FirstSeenAt { get; set; }
    public DateTimeOffset LastSeenAt { get; set; }
}
