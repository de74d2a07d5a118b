namespace Mordel.Core.Verdicts;

/// <summary>From which chance on an assembly is said to fail likely at its next test.</summary>
public static class LikelyToFail
{
    /// <summary>In percent.</summary>
    public const int Percent = 25;

    /// <summary>Whether a chance, in percent, is likely; none is not.</summary>
    public static bool Is(int? chance) => chance >= Percent;
}
