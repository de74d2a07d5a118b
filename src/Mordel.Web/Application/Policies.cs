using System.Collections.Immutable;
using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>Who may do what, beyond having a role.</summary>
public static class Policies
{
    /// <summary>Who may add to the register, the rounds, the kits: office and owner.</summary>
    public const string Desk = "desk";

    /// <summary>Who looks after the installation: its owner.</summary>
    public const string Own = "own";

    /// <summary>Who may see customers, rounds, runs and reports: testers and the desk.</summary>
    public const string Field = "field";

    /// <summary>Who may teach: instructors and the desk.</summary>
    public const string Teach = "teach";

    /// <summary>As <see cref="Field"/>, for programs with a key too.</summary>
    public const string ApiField = "api-field";

    /// <summary>Who may use the API: somebody signed in, or a program with a key.</summary>
    public const string Api = "api";

    /// <summary>
    /// Who may write through the API: a tester who is signed in, or a program with a tester's key to write.
    /// </summary>
    public const string ApiWrite = "api-write";

    /// <summary>The roles at the desk.</summary>
    public static readonly ImmutableArray<string> AtTheDesk = [Roles.Office, Roles.Owner];

    /// <summary>The roles that see customers.</summary>
    public static readonly ImmutableArray<string> InTheField = [Roles.Tester, Roles.Office, Roles.Owner];

    /// <summary>The roles that teach at the bench.</summary>
    public static readonly ImmutableArray<string> Teaching = [Roles.Instructor, Roles.Office, Roles.Owner];

    /// <summary>The roles that a policy of a room lets in; null stands for everybody who is signed in.</summary>
    /// <exception cref="ArgumentException">It is no policy of a room.</exception>
    public static ImmutableArray<string> RolesOf(string? policy) =>
        policy switch
        {
            null => [.. Roles.All],
            Own => [Roles.Owner],
            Desk => AtTheDesk,
            Field => InTheField,
            Teach => Teaching,
            _ => throw new ArgumentException($"{policy} is no policy of a room.", nameof(policy)),
        };
}
