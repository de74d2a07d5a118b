using Mordel.Core.Runs;

namespace Mordel.Core.Reports;

/// <summary>A signature under a run.</summary>
/// <param name="Name">The name as signed.</param>
/// <param name="Certificate">The certificate it was signed with.</param>
/// <param name="Ink">The drawn signature as SVG path data, or <see cref="TypedName"/>.</param>
/// <param name="At">When.</param>
public sealed record Signing(string Name, CertificateFacts Certificate, string Ink, DateTimeOffset At)
{
    /// <summary>Stands for a typed name, where nothing can be drawn.</summary>
    public const string TypedName = "typed";
}
