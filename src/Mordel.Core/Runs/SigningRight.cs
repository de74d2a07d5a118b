using Mordel.Core.Rigs;

namespace Mordel.Core.Runs;

/// <summary>Whether a tester may sign a test: the certificate, or why there is none.</summary>
/// <param name="With">The certificate it is signed with; null where none covers it.</param>
/// <param name="Why">Why not, as a sentence; null where it may be signed.</param>
public readonly record struct SigningRight(CertificateFacts? With, string? Why);

/// <summary>
/// Who may sign what on which day. Planning, beginning, signing and the person's own page ask here and nowhere else.
/// </summary>
public static class SigningRights
{
    /// <summary>Whether a certificate covers a test.</summary>
    /// <param name="taker">The authority that alone takes the certificate; null where all do.</param>
    /// <param name="covers">Whether the type of the assembly is among its types.</param>
    /// <param name="from">Its first day.</param>
    /// <param name="until">Its last day.</param>
    /// <param name="authority">The authority of the assembly.</param>
    /// <param name="day">The day of the test.</param>
    public static bool Holds(
        string? taker,
        bool covers,
        DateOnly from,
        DateOnly until,
        string authority,
        DateOnly day
    ) => (taker is null || taker == authority) && covers && day >= from && day <= until;

    /// <summary>Whether a certificate covers a test of a type for an authority on a day.</summary>
    public static bool Covers(this CertificateFacts certificate, AssemblyType type, string authority, DateOnly day)
    {
        ArgumentNullException.ThrowIfNull(certificate);
        return Holds(
            certificate.Authority,
            certificate.Types.Contains(type),
            certificate.From,
            certificate.Until,
            authority,
            day
        );
    }

    /// <summary>The right of a tester; of several certificates the one that lasts longest.</summary>
    /// <param name="tester">The tester's name.</param>
    /// <param name="certificates">All that the tester has.</param>
    /// <param name="type">The type of the assembly.</param>
    /// <param name="authority">The name of its authority.</param>
    /// <param name="day">The day of the test.</param>
    public static SigningRight Of(
        string tester,
        IReadOnlyCollection<CertificateFacts> certificates,
        AssemblyType type,
        string authority,
        DateOnly day
    )
    {
        ArgumentNullException.ThrowIfNull(certificates);
        return certificates.Where(c => c.Covers(type, authority, day)).MaxBy(c => c.Until) is { } best
            ? new(best, null)
            : new(
                null,
                $"{tester} has no certificate for a {type} that is valid on {day:d MMMM yyyy}"
                    + $"{Because(certificates, type, authority, day)}."
            );
    }

    // The certificate that comes nearest to it, and what it lacks.
    private static string Because(
        IReadOnlyCollection<CertificateFacts> certificates,
        AssemblyType type,
        string authority,
        DateOnly day
    )
    {
        var here = certificates.Where(c => c.Types.Contains(type)).ToList();
        var taken = here.Where(c => c.Authority is null || c.Authority == authority).ToList();
        if (taken.Where(c => c.Until < day).MaxBy(c => c.Until) is { } ended)
            return $": {ended.Number} ended on {ended.Until:d MMMM yyyy}";
        if (taken.Where(c => c.From > day).MinBy(c => c.From) is { } ahead)
            return $": {ahead.Number} begins on {ahead.From:d MMMM yyyy}";
        if (here.MaxBy(c => c.Until) is { } elsewhere)
            return $": {elsewhere.Number} counts with {elsewhere.Authority}, not with {authority}";
        return certificates.Count == 0 ? "" : $": {certificates.MaxBy(c => c.Until)!.Number} is for other types";
    }
}
