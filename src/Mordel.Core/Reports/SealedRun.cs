using System.Collections.Immutable;
using Mordel.Core.Runs;
using Mordel.Core.Verdicts;

namespace Mordel.Core.Reports;

/// <summary>
/// A run as it was sealed: what it was made with, every entry with its arrival, the signature, how it was judged and
/// every printed fact. Page, PDF, JSON and API show this and nothing else.
/// </summary>
public sealed record SealedRun
{
    /// <summary>What it was made with.</summary>
    public required RunSetup Setup { get; init; }

    /// <summary>Its entries in log order, with their arrivals.</summary>
    public required ImmutableArray<ReceivedEntry> Log { get; init; }

    /// <summary>The signature under it.</summary>
    public required Signing Signing { get; init; }

    /// <summary>
    /// The answers of the test before, which the verdict was weighed against; null where there was none.
    /// </summary>
    public Results? Previous { get; init; }

    /// <summary>How it was judged.</summary>
    public required Verdict Verdict { get; init; }

    /// <summary>Which judge did so: <see cref="Judge.Version"/> of that time.</summary>
    public required int JudgeVersion { get; init; }

    /// <summary>Every printed fact.</summary>
    public required TestReport Report { get; init; }

    /// <summary>The seal it bore under the earlier form, when it was taken over from it; else null.</summary>
    public EarlierSeal? Earlier { get; init; }

    /// <summary>The run.</summary>
    public Guid Run => Setup.Run;

    /// <summary>The log alone.</summary>
    public RunLog Entries => RunLog.Empty.With(Log.Select(e => e.Entry));

    /// <summary>Judges it afresh, as this version does.</summary>
    public Verdict JudgeAgain() => Setup.Plan.VerdictOn(Replay.Run(Setup.Plan, Entries), Previous);

    /// <summary>
    /// Judges it afresh, and beside that by other rules or with other answers: a question asked of it, never a change.
    /// What was not asked at the time reads as missing.
    /// </summary>
    /// <param name="otherwise">What is judged, and with which answers.</param>
    public (Verdict AsItWas, Verdict Otherwise) JudgeBeside(Func<Subject, Results, (Subject, Results)> otherwise)
    {
        ArgumentNullException.ThrowIfNull(otherwise);
        var state = Replay.Run(Setup.Plan, Entries);
        var (subject, results) = otherwise(Setup.Plan.Subject, state.Results());
        return (
            Setup.Plan.VerdictOn(state, Previous),
            Judge.Weigh(subject, results, Previous, state.NotTestable, state.FailedBy)
        );
    }
}

/// <summary>
/// A seal of the form <c>mordel.sealed-run/1</c> or <c>mordel.amendment/1</c>, kept beside what was taken over from it.
/// </summary>
/// <param name="Previous">The hash before it in the old chain.</param>
/// <param name="Hash">Its hash.</param>
/// <param name="Signature">The installation's signature, base 64.</param>
/// <param name="Held">Whether it held when it was taken over.</param>
public sealed record EarlierSeal(string Previous, string Hash, string Signature, bool Held);

/// <summary>Words added to a sealed run; the run stays as it was.</summary>
/// <param name="Id">The amendment.</param>
/// <param name="Run">The run it is about.</param>
/// <param name="By">Who says so.</param>
/// <param name="At">When.</param>
/// <param name="Printed">Who and when, as it is printed.</param>
/// <param name="Text">What was wrong and what is right.</param>
/// <param name="Earlier">The seal it bore under the earlier form; else null.</param>
public sealed record Amendment(
    Guid Id,
    Guid Run,
    string By,
    DateTimeOffset At,
    string Printed,
    string Text,
    EarlierSeal? Earlier = null
);

/// <summary>
/// One link of an assembly's chain: it names what it seals by hash, the link before it, and its place in the chain and
/// in the whole installation, so that a link that is missing, moved or added shows.
/// </summary>
public sealed record SealLink
{
    /// <summary>The assembly whose chain it is in.</summary>
    public required Guid Assembly { get; init; }

    /// <summary>Its place in the chain, from 1.</summary>
    public required int Sequence { get; init; }

    /// <summary>Its place among all seals of the installation, from 1.</summary>
    public required long Number { get; init; }

    /// <summary>The run that it seals or amends.</summary>
    public required Guid Run { get; init; }

    /// <summary>The amendment that it seals; null when it seals the run itself.</summary>
    public Guid? Amendment { get; init; }

    /// <summary>Hash of the record that it seals.</summary>
    public required string Record { get; init; }

    /// <summary>Hash of the PDF as it was made then; null where none was made.</summary>
    public string? Paper { get; init; }

    /// <summary>Hash of the link before it in the chain; sixty-four zeros begins one.</summary>
    public required string Previous { get; init; }

    /// <summary>When it was sealed, by the server's clock.</summary>
    public required DateTimeOffset At { get; init; }

    /// <summary>Id of the key that signed it.</summary>
    public required string Key { get; init; }
}

/// <summary>How long an assembly's chain is and how it ends; signed, so that a link cut off its end shows.</summary>
/// <param name="Assembly">The assembly.</param>
/// <param name="Length">How many links it has.</param>
/// <param name="Last">Hash of the last one.</param>
/// <param name="Key">Id of the key that signed it.</param>
public sealed record ChainHead(Guid Assembly, int Length, string Last, string Key);

/// <summary>
/// How many seals the installation has made and what they come to; signed, so that a whole chain that is gone shows.
/// </summary>
/// <param name="Count">How many links there are in all chains.</param>
/// <param name="Running">The hash over all of them in their order.</param>
/// <param name="Key">Id of the key that signed it.</param>
public sealed record Ledger(long Count, string Running, string Key);
