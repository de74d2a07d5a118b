using Microsoft.AspNetCore.Identity;

namespace Mordel.Data.Rows;

/// <summary>Somebody who signs in.</summary>
public sealed class Account : IdentityUser<Guid>
{
    public required string FullName { get; set; }

    /// <summary>What the demo's sign-in page says of this persona; null for real accounts.</summary>
    public string? DemoNote { get; set; }

    /// <summary>Whether the password was given by somebody else and is to be changed before anything is done.</summary>
    public bool MustChangePassword { get; set; }

    /// <summary>Since when this person does not come in any more; null for who does. What was done stays.</summary>
    public DateTimeOffset? DismissedAt { get; set; }

    /// <summary>When what the law of records does not keep was deleted; null where it was not.</summary>
    public DateTimeOffset? ForgottenAt { get; set; }
}

/// <summary>The roles there are.</summary>
public static class Roles
{
    public const string Tester = "tester",
        Office = "office",
        Learner = "learner",
        Instructor = "instructor",
        Owner = "owner-of-the-installation";

    public static readonly string[] All = [Tester, Office, Learner, Instructor, Owner];
}

/// <summary>A tester's certificate.</summary>
public sealed class CertificateRow
{
    public Guid Id { get; set; }
    public Guid AccountId { get; set; }
    public required string Number { get; set; }

    /// <summary>The types it covers, separated by spaces.</summary>
    public required string Types { get; set; }
    public required string IssuedBy { get; set; }
    public DateOnly ValidFrom { get; set; }
    public DateOnly ValidUntil { get; set; }

    /// <summary>The authority that alone takes it; null where all do.</summary>
    public Guid? AuthorityId { get; set; }
    public AuthorityRow? Authority { get; set; }

    /// <summary>Its class, in the words of who issued it; empty where it has none.</summary>
    public string Class { get; set; } = "";

    /// <summary>The certificate itself as a file; null where nobody has handed it in.</summary>
    public Guid? PaperId { get; set; }
    public PaperRow? Paper { get; set; }
}

/// <summary>A paper that was handed in as a file: a certificate, a calibration.</summary>
public sealed class PaperRow
{
    public Guid Id { get; set; }

    /// <summary>Its name as it was handed in.</summary>
    public required string Name { get; set; }
    public required string MediaType { get; set; }
    public long Bytes { get; set; }

    /// <summary>Whom it is about, where it is about somebody: who may see it beside the office.</summary>
    public Guid? AccountId { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
}

/// <summary>A test kit.</summary>
public sealed class KitRow
{
    public Guid Id { get; set; }
    public Guid? KeeperId { get; set; }

    /// <summary>Kind in files: <c>five-valve</c>.</summary>
    public required string Kind { get; set; }
    public required string Make { get; set; }
    public required string Model { get; set; }
    public required string Serial { get; set; }

    /// <summary><c>psid</c> or <c>kPa</c>.</summary>
    public required string Unit { get; set; }
    public decimal Resolution { get; set; }
    public decimal Accuracy { get; set; }
    public decimal FullScale { get; set; }
    public DateOnly CalibratedOn { get; set; }
    public required string CalibratedBy { get; set; }
    public DateOnly CalibrationDue { get; set; }

    /// <summary>
    /// Colours of the high, low and bypass hose as their keeper sees them, separated by spaces; null while nobody has
    /// said.
    /// </summary>
    public string? HoseColours { get; set; }
}

/// <summary>A calibration of a kit, as its paper says. Never changed once it is there.</summary>
public sealed class CalibrationRow
{
    public Guid Id { get; set; }
    public Guid KitId { get; set; }
    public DateOnly On { get; set; }
    public required string CalibratedBy { get; set; }
    public DateOnly Due { get; set; }

    /// <summary>By how much the gauge was found to read high before it was set, in the kit's unit; negative where it
    /// read low; null where nobody has said.</summary>
    public decimal? FoundHigh { get; set; }
    public Guid? PaperId { get; set; }
    public PaperRow? Paper { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
}

/// <summary>A kit that is lent to another tester for some days, by day.</summary>
public sealed class LoanRow
{
    public Guid Id { get; set; }
    public Guid KitId { get; set; }
    public KitRow? Kit { get; set; }
    public Guid ToId { get; set; }
    public Account? To { get; set; }

    /// <summary>The first day on which the other has it.</summary>
    public DateOnly From { get; set; }

    /// <summary>The last day; moved forward when it comes back sooner.</summary>
    public DateOnly Until { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
}

/// <summary>Two kits that were read on one rig at the same moment. Never changed once it is there.</summary>
public sealed class ComparisonRow
{
    public Guid Id { get; set; }
    public Guid OneId { get; set; }
    public KitRow? One { get; set; }
    public Guid OtherId { get; set; }
    public KitRow? Other { get; set; }
    public DateOnly On { get; set; }

    /// <summary>Pairs of what the two showed, each in its own kit's unit: <c>7.2 7.4;5.0 5.1</c>.</summary>
    public required string Pairs { get; set; }

    /// <summary>On which rig.</summary>
    public required string Where { get; set; }
    public DateTimeOffset At { get; set; }
    public required string By { get; set; }
}

/// <summary>A key with which a program acts for a person. Only its hash is kept.</summary>
public sealed class TokenRow
{
    public Guid Id { get; set; }
    public Guid AccountId { get; set; }
    public Account? Account { get; set; }
    public required string Name { get; set; }

    /// <summary><c>read</c> or <c>write</c>.</summary>
    public required string Scope { get; set; }

    /// <summary>SHA-256 of the token, in hexadecimal.</summary>
    public required string Hash { get; set; }
    public DateTimeOffset CreatedAt { get; set; }
    public DateTimeOffset ExpiresAt { get; set; }
    public DateTimeOffset? RevokedAt { get; set; }
    public DateTimeOffset? LastUsedAt { get; set; }

    public bool HoldsAt(DateTimeOffset now) => RevokedAt is null && now < ExpiresAt;
}
