using Mordel.Core.Diagnosis;
using Mordel.Data.Files;

namespace Mordel.Data.Lists;

/// <summary>A diagnosis with what is known of its assembly, weighed.</summary>
/// <param name="File">What was observed.</param>
/// <param name="Atlas">What it was compared with.</param>
/// <param name="Learned">What repairs have made of the rates of this make and model.</param>
/// <param name="Diagnosed">What came of it.</param>
public sealed record WeighedDiagnosis(DiagnosisFile File, Atlas Atlas, LearnedRates Learned, Diagnosed Diagnosed);

/// <summary>Weighs what was observed, with the house's own rates and the assembly's last readings.</summary>
public sealed class WeighDiagnosis(DiagnosisList list, RepairFindings findings, AtlasShelf shelf)
{
    /// <summary>Weighs.</summary>
    /// <param name="file">The diagnosis.</param>
    /// <param name="by">Who is at hand.</param>
    /// <param name="order">By which order looks are proposed.</param>
    /// <param name="cancel">Ends it.</param>
    /// <exception cref="FormatException">The atlas is missing or broken.</exception>
    public async Task<WeighedDiagnosis> Of(DiagnosisFile file, Doer by, LookOrder order, CancellationToken cancel)
    {
        ArgumentNullException.ThrowIfNull(file);
        var (atlas, assembly) = (shelf.Of(file.Body), file.Row.Assembly!);
        var learned = Learning.From(
            file.Body,
            await findings.Of(file.Body, cancel),
            RepairFindings.Family(assembly.Make, assembly.Model)
        );
        var evidence = file.Evidence(by) with { Springs = await list.Springs(file, atlas, cancel) };
        return new(file, atlas, learned, Diagnosing.Of(atlas, evidence, learned.Rates, order));
    }
}
