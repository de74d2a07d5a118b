using Mordel.Core.Catalogue;
using Mordel.Core.Procedures;
using Mordel.Core.Reports;
using Mordel.Core.Rigs;
using Mordel.Core.Rules;
using Mordel.Core.Runs;
using Mordel.Core.Serialization;
using Mordel.Validation;

namespace Mordel.Core.Tests;

/// <summary>What a run is made with, in the invented town, and what may become of it.</summary>
internal static class SampleSetup
{
    public static readonly DateTimeOffset Begun = MadeSetup.Begun;

    public static RunSetup For(RunPlan plan) => MadeSetup.For(plan);

    public static CertificateFacts Certificate => MadeSetup.Certificate;

    /// <summary>The run as it would be sealed, each entry received a second after it was made.</summary>
    public static SealedRun Sealed(RunPlan plan, RunLog log, TimeZoneInfo? zone = null)
    {
        var setup = For(plan);
        ReceivedEntry[] received = [.. log.Entries.Select(e => new ReceivedEntry(e, e.At.AddSeconds(1)))];
        var signing = new Signing("Ines Tarrow", Certificate, Signing.TypedName, Begun.AddHours(1));
        var state = Replay.Run(plan, log);
        var verdict = plan.VerdictOn(state);
        return new()
        {
            Setup = setup,
            Log = [.. received],
            Signing = signing,
            JudgeVersion = Verdicts.Judge.Version,
            Verdict = verdict,
            Report = new ReportWriter(setup, state, verdict, received, signing, zone ?? TimeZoneInfo.Utc).Write(
                simulated: true
            ),
        };
    }

    /// <summary>The shared parts of setups, kept as texts by their hash and read afresh each time.</summary>
    public static TextParts Shelf(params RunSetup[] setups) =>
        new(setups.SelectMany(s => new[] { RunSetupFormat.ProfileText(s), RunSetupFormat.SheetText(s) }));
}
