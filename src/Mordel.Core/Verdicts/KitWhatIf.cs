using Mordel.Core.Units;

namespace Mordel.Core.Verdicts;

/// <summary>
/// What the answers of a test would be without the error of its gauge. A question asked of the readings, never a change
/// to them.
/// </summary>
public static class KitWhatIf
{
    /// <summary>The answers with an error taken off every differential; what has no number stays.</summary>
    /// <param name="results">The answers as they were read.</param>
    /// <param name="error">By how much the gauge reads high; negative where it reads low.</param>
    public static Results Without(Results results, Differential error)
    {
        ArgumentNullException.ThrowIfNull(results);
        var true_ = results;
        foreach (var (item, value) in results.Values)
            if (value is ItemValue.Measured { Reading.Value: var read })
                true_ = true_.With(item, ItemValue.Of(read.Amount - error.In(read.Unit), read.Unit));
        return true_;
    }
}
