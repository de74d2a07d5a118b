using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>Who may do what, beyond having a role.</summary>
public static class Policies
{
    /// <summary>Who may add to the register, the rounds, the kits: office and owner.</summary>
    public const string Desk = "desk";

    /// <summary>Who may use the API: somebody signed in, or a program with a key.</summary>
    public const string Api = "api";

    /// <summary>Who may write through the API: a tester who is signed in, or a program with a tester's key to write.</summary>
    public const string ApiWrite = "api-write";

    /// <summary>The roles that the policy asks for.</summary>
    public static readonly string[] AtTheDesk = [Roles.Office, Roles.Owner];
}
