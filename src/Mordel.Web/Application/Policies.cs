using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>Who may do what, beyond having a role.</summary>
public static class Policies
{
    /// <summary>Who may add to the register, the rounds, the kits: office and owner.</summary>
    public const string Desk = "desk";

    /// <summary>The roles that the policy asks for.</summary>
    public static readonly string[] AtTheDesk = [Roles.Office, Roles.Owner];
}
