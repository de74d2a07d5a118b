using Mordel.Core.Reports;
using Mordel.Core.Verdicts;

namespace Mordel.Data.Seals;

/// <summary>
/// A sealed run as it was checked: the one object that page, PDF, JSON, API and lists show. What is broken is named;
/// nothing green may stand beside it.
/// </summary>
public sealed record SealedReport
{
    /// <summary>The run.</summary>
    public required Guid RunId { get; init; }

    /// <summary>The assembly whose chain it is in.</summary>
    public required Guid AssemblyId { get; init; }

    /// <summary>The tester who signed it, as the row has it.</summary>
    public required Guid TesterId { get; init; }

    /// <summary>What was sealed; null when it cannot be read any more.</summary>
    public SealedRun? Run { get; init; }

    /// <summary>Its canonical text, and its hash; null when they cannot be read any more.</summary>
    public string? RecordText { get; init; }

    /// <summary>The hash of the record: printed on the paper.</summary>
    public string? Record { get; init; }

    /// <summary>The link that seals it, its hash and the installation's signature over that.</summary>
    public SignedLink? Seal { get; init; }

    /// <summary>Its amendments, in their order.</summary>
    public IReadOnlyList<SealedAmendment> Amendments { get; init; } = [];

    /// <summary>What is broken about this report, as sentences; empty when its seal holds.</summary>
    public required IReadOnlyList<string> Broken { get; init; }

    /// <summary>What is wrong elsewhere in the assembly's chain; it says nothing against this report.</summary>
    public IReadOnlyList<string> ChainTrouble { get; init; } = [];

    /// <summary>
    /// What this version of Mordel would say where an earlier one judged otherwise; null where they agree.
    /// </summary>
    public Verdict? JudgedOtherwise { get; init; }

    /// <summary>Whether it is as it was sealed.</summary>
    public bool Holds => Broken.Count == 0;

    /// <summary>The outcome to be shown: what was sealed, or that the seal is broken.</summary>
    public string Outcome => Holds && Run is not null ? Run.Report.Outcome : BrokenOutcome;

    /// <summary>Stands for an outcome where the seal is broken.</summary>
    public const string BrokenOutcome = "seal-broken";
}

/// <summary>A link with its proof.</summary>
/// <param name="Link">The link.</param>
/// <param name="Text">Its canonical text.</param>
/// <param name="Hash">The hash of that.</param>
/// <param name="Signature">The installation's signature over the hash.</param>
public sealed record SignedLink(SealLink Link, string Text, string Hash, string Signature);

/// <summary>An amendment with its seal.</summary>
/// <param name="Amendment">The amendment.</param>
/// <param name="RecordText">Its canonical text.</param>
/// <param name="Seal">The link that seals it.</param>
public sealed record SealedAmendment(Amendment Amendment, string RecordText, SignedLink Seal);
