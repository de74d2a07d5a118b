using System.Collections.Immutable;

namespace Mordel.Data.Audit;

/// <summary>What is written down, by its id in the log and in words.</summary>
public static class AuditKinds
{
    public const string SignedIn = "signed-in",
        SignInFailed = "sign-in-failed",
        LockedOut = "locked-out",
        SignedOut = "signed-out",
        CutOff = "cut-off",
        Person = "person",
        Kit = "kit",
        Rules = "rules",
        Branch = "branch",
        Key = "key",
        SigningKey = "signing-key",
        Sealed = "sealed",
        Amended = "amended",
        Exported = "exported",
        BackedUp = "backed-up",
        NotBackedUp = "not-backed-up",
        Restored = "restored",
        Rebuilt = "rebuilt",
        SealsChecked = "seals-checked",
        SealsBroken = "seals-broken";

    /// <summary>All of them, in words.</summary>
    public static ImmutableArray<(string Id, string Says)> All { get; } =
    [
        (SignedIn, "signed in"),
        (SignInFailed, "sign-in failed"),
        (LockedOut, "locked out"),
        (SignedOut, "signed out"),
        (CutOff, "device cut off"),
        (Person, "person or certificate changed"),
        (Kit, "kit changed"),
        (Rules, "rules or authority changed"),
        (Branch, "branch changed"),
        (Key, "key of a program"),
        (SigningKey, "signing key"),
        (Sealed, "report sealed"),
        (Amended, "report amended"),
        (Exported, "taken out"),
        (BackedUp, "backup made"),
        (NotBackedUp, "backup failed"),
        (Restored, "backup put back"),
        (Rebuilt, "lists made anew"),
        (SealsChecked, "all seals checked"),
        (SealsBroken, "broken seals found"),
    ];

    /// <summary>Those that are done to somebody with an account.</summary>
    public static ImmutableArray<string> AreOfPeople { get; } = [Person, SignInFailed, LockedOut];

    /// <summary>Those of coming and going.</summary>
    public static ImmutableArray<string> AreOfSignIns { get; } = [SignedIn, SignInFailed, LockedOut, SignedOut, CutOff];

    /// <summary>One of them in words; the id where it is of a later version.</summary>
    public static string Says(string id) => All.FirstOrDefault(k => k.Id == id).Says ?? id;
}
