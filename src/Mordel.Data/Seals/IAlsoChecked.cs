namespace Mordel.Data.Seals;

/// <summary>Something beside the seals that is checked with all of them.</summary>
public interface IAlsoChecked
{
    /// <summary>What is wrong with it, in sentences; empty when nothing is.</summary>
    Task<IReadOnlyList<string>> Check(CancellationToken cancel);
}
