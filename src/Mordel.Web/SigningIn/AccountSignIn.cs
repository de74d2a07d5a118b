using System.Security.Claims;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Mordel.Data.Accounts;
using Mordel.Data.Rows;
using Mordel.Web.Application;

namespace Mordel.Web.SigningIn;

/// <summary>
/// Signs in and out with a session that is kept here: what the cookie says holds as long as that does.
/// </summary>
public sealed class AccountSignIn(
    UserManager<Account> users,
    IHttpContextAccessor http,
    IUserClaimsPrincipalFactory<Account> principals,
    IOptions<IdentityOptions> options,
    ILogger<SignInManager<Account>> log,
    IAuthenticationSchemeProvider schemes,
    IUserConfirmation<Account> confirmation,
    Sessions sessions
) : SignInManager<Account>(users, http, principals, options, log, schemes, confirmation)
{
    // Nobody's password: an unknown name takes as long as a known one.
    private static string? nobodysHash;

    private bool goesOn;

    /// <summary>By what somebody comes in, in words; said before they do.</summary>
    public string How { get; set; } = "a password";

    /// <summary>Whether a password is somebody's; as long in coming whether there is anybody or not.</summary>
    public async Task<bool> IsRight(Account? account, string password)
    {
        if (account is { PasswordHash: not null })
            return await UserManager.CheckPasswordAsync(account, password);
        var hasher = UserManager.PasswordHasher;
        nobodysHash ??= hasher.HashPassword(null!, Guid.NewGuid().ToString());
        hasher.VerifyHashedPassword(null!, nobodysHash, password);
        return false;
    }

    /// <summary>Lets in whoever has shown their password, or asks for a code where they want that.</summary>
    public Task<SignInResult> ComeIn(Account account) => SignInOrTwoFactorAsync(account, isPersistent: true);

    /// <inheritdoc/>
    public override async Task<bool> CanSignInAsync(Account user)
    {
        ArgumentNullException.ThrowIfNull(user);
        return user.DismissedAt is null && await base.CanSignInAsync(user);
    }

    /// <inheritdoc/>
    public override async Task RefreshSignInAsync(Account user)
    {
        goesOn = true;
        await base.RefreshSignInAsync(user);
        goesOn = false;
    }

    /// <inheritdoc/>
    public override async Task SignInWithClaimsAsync(
        Account user,
        AuthenticationProperties? authenticationProperties,
        IEnumerable<Claim> additionalClaims
    )
    {
        ArgumentNullException.ThrowIfNull(user);
        var here = Context.User.SessionId();
        // A new one each time: what stood before belongs to whoever had it.
        if (here is { } old && !goesOn)
            await sessions.End(old, null, Context.RequestAborted);
        var session =
            here is { } one && goesOn
                ? one
                : await sessions.Begin(
                    user.Id,
                    How,
                    Context.Connection.RemoteIpAddress?.ToString() ?? "",
                    DeviceWords.Of(Context.Request.Headers.UserAgent.ToString()),
                    Context.RequestAborted
                );
        await base.SignInWithClaimsAsync(
            user,
            authenticationProperties,
            [.. additionalClaims, new(Visitors.Session, $"{session}")]
        );
    }

    /// <inheritdoc/>
    public override async Task SignOutAsync()
    {
        if (Context.User.SessionId() is { } session)
            await sessions.End(session, null, Context.RequestAborted);
        await base.SignOutAsync();
    }
}
