using System.Security.Claims;
using System.Text.Encodings.Web;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Identity;
using Microsoft.Extensions.Options;
using Mordel.Data.Commands.KitsAndPeople;
using Mordel.Data.Rows;

namespace Mordel.Web.Application;

/// <summary>
/// Lets a program in that shows a key: <c>Authorization: Bearer mordel_…</c>. It acts as the person the key was issued
/// to.
/// </summary>
public sealed class ApiKeyAuthentication(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory log,
    UrlEncoder encoder,
    ApiKeys keys,
    SignInManager<Account> people
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, log, encoder)
{
    /// <summary>Name of the scheme, and of the claims that say what the key may do, which it is and what it is
    /// for.</summary>
    public const string SchemeName = "Key",
        Scope = "scope",
        KeyId = "key-id",
        KeyName = "key-name";

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        var header = Request.Headers.Authorization.ToString();
        if (!header.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase))
            return AuthenticateResult.NoResult();
        if (
            await keys.Find(header["Bearer ".Length..].Trim(), Context.RequestAborted)
            is not { Account: { } account } row
        )
            return AuthenticateResult.Fail("The key is not known, was revoked or has run out.");
        var principal = await people.CreateUserPrincipalAsync(account);
        ((ClaimsIdentity)principal.Identity!).AddClaims([
            new(Scope, row.Scope),
            new(KeyId, $"{row.Id}"),
            new(KeyName, row.Name),
        ]);
        return AuthenticateResult.Success(new(principal, SchemeName));
    }

    protected override Task HandleChallengeAsync(AuthenticationProperties properties)
    {
        Response.StatusCode = StatusCodes.Status401Unauthorized;
        Response.Headers.WWWAuthenticate = "Bearer";
        return Task.CompletedTask;
    }
}
