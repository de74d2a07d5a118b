using System.Security.Claims;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>Carries the full name in the sign-in, so that the masthead need not ask the store for it.</summary>
public sealed class AccountPrincipalFactory(
    UserManager<Account> users,
    RoleManager<IdentityRole<Guid>> roles,
    IOptions<IdentityOptions> options
) : UserClaimsPrincipalFactory<Account, IdentityRole<Guid>>(users, roles, options)
{
    protected override async Task<ClaimsIdentity> GenerateClaimsAsync(Account user)
    {
        var identity = await base.GenerateClaimsAsync(user);
        identity.AddClaim(new("name", user.FullName));
        if (user.MustChangePassword)
            identity.AddClaim(new(Visitors.MustChange, "yes"));
        return identity;
    }
}
