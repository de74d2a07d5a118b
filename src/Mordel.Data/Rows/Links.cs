namespace Mordel.Data.Rows;

/// <summary>What a link opens.</summary>
public static class LinkPurposes
{
    /// <summary>The looks at one diagnosis.</summary>
    public const string Look = "look";

    /// <summary>A tester's rounds as a calendar.</summary>
    public const string Calendar = "calendar";

    /// <summary>An owner's page.</summary>
    public const string Owner = "owner";

    /// <summary>The page of whoever is at a place.</summary>
    public const string Occupant = "occupant";

    /// <summary>What the tag on an assembly says, as long as it hangs there.</summary>
    public const string Tag = "tag";

    /// <summary>The page on which somebody sets a password, once.</summary>
    public const string Password = "password";
}

/// <summary>
/// A link for somebody without an account, to one thing. Its secret is not kept: it follows from the row and a key in
/// the data folder.
/// </summary>
public sealed class LinkRow
{
    public Guid Id { get; set; }

    /// <summary>One of <see cref="LinkPurposes"/>.</summary>
    public required string Purpose { get; set; }

    /// <summary>What it opens: a diagnosis, an account, an owner, a place, an assembly.</summary>
    public Guid OfId { get; set; }

    /// <summary>SHA-256 of the secret, in hexadecimal.</summary>
    public required string Hash { get; set; }
    public required string MadeBy { get; set; }
    public DateTimeOffset MadeAt { get; set; }

    /// <summary>When it ends; null where it holds until it is revoked.</summary>
    public DateTimeOffset? ExpiresAt { get; set; }
    public DateTimeOffset? RevokedAt { get; set; }

    /// <summary>Whether it opens anything at that time.</summary>
    public bool HoldsAt(DateTimeOffset now) => RevokedAt is null && !(ExpiresAt <= now);
}
