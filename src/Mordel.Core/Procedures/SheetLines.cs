using System.Collections.Immutable;

namespace Mordel.Core.Procedures;

/// <summary>
/// A line of a printed sheet: a step, or several of which a run has those that fit how the line was found or is left.
/// </summary>
/// <param name="Step">The step; of several the first.</param>
/// <param name="Choices">The several; empty for a single step.</param>
public sealed record SheetChoice(Step Step, ImmutableArray<Step> Choices)
{
    /// <summary>What stands above several.</summary>
    public string Title =>
        Choices.Any(s => s.OnlyIf.Any(o => o.WhenLeft)) ? "Each valve as agreed" : "Each valve as it was found";
}

/// <summary>The lines of a printed sheet.</summary>
public static class SheetLines
{
    /// <summary>Steps in order; neighbours that only say how a valve is left stand together.</summary>
    public static IEnumerable<SheetChoice> Arrange(Stage stage)
    {
        ArgumentNullException.ThrowIfNull(stage);
        for (var i = 0; i < stage.Steps.Length; i++)
        {
            var run = stage
                .Steps.Skip(i)
                .TakeWhile(s => stage.Kind == StageKind.Finish && !s.OnlyIf.IsEmpty)
                .ToImmutableArray();
            yield return new(stage.Steps[i], run.Length > 1 ? run : []);
            if (run.Length > 1)
                i += run.Length - 1;
        }
    }
}
