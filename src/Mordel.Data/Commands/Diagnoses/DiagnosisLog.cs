using Mordel.Core.Diagnosis;
using Mordel.Core.Serialization;
using Mordel.Data.Lists;
using Mordel.Data.Rows;

namespace Mordel.Data.Commands.Diagnoses;

/// <summary>Who observes.</summary>
/// <param name="Name">The name that is kept with it.</param>
/// <param name="Way">One of <see cref="ObservationWays"/>.</param>
public readonly record struct Observer(string Name, string Way);

/// <summary>The rows of a diagnosis and its log, as every command writes them.</summary>
public static class DiagnosisLog
{
    /// <summary>A diagnosis that begins with nothing observed.</summary>
    public static DiagnosisRow New(Guid assemblyId, string by, DateTimeOffset at) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            AssemblyId = assemblyId,
            OpenedAt = at,
            OpenedBy = by,
        };

    /// <summary>An entry of its log.</summary>
    /// <param name="diagnosisId">The diagnosis.</param>
    /// <param name="number">Its place in the log, from 1.</param>
    /// <param name="at">When.</param>
    /// <param name="by">Who observed it.</param>
    /// <param name="observed">What; null where one is taken back.</param>
    public static ObservationRow Entry(
        Guid diagnosisId,
        int number,
        DateTimeOffset at,
        Observer by,
        Observed? observed
    ) =>
        new()
        {
            Id = Guid.CreateVersion7(),
            DiagnosisId = diagnosisId,
            Number = number,
            At = at,
            By = by.Name,
            Way = by.Way,
            Json = observed is null ? null : ObservationFormat.Write(observed),
            Opened = RepairFindings.Text(observed),
        };
}
