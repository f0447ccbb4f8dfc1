using System.Security.Claims;
using System.Text.Encodings.Web;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Authentication;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.Options;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Signs a request in by <c>Authorization: Bearer …</c> (RFC 6750, section 2.1).</summary>
internal sealed class TokenSignIn(
    IOptionsMonitor<AuthenticationSchemeOptions> options,
    ILoggerFactory loggers,
    UrlEncoder encoder,
    CursusDb db,
    IClock clock
) : AuthenticationHandler<AuthenticationSchemeOptions>(options, loggers, encoder)
{
    public const string SchemeName = "Bearer";
    public const string MemberClaim = "cursus:member";
    public const string NameClaim = "cursus:token";
    public const string IdClaim = "cursus:token-id";
    public const string RoleClaim = "cursus:token-role";
    public const string ScopeClaim = "cursus:token-scope";

    protected override async Task<AuthenticateResult> HandleAuthenticateAsync()
    {
        var header = Request.Headers.Authorization.ToString();
        if (!header.StartsWith("Bearer ", StringComparison.OrdinalIgnoreCase))
        {
            return AuthenticateResult.NoResult();
        }

        var hash = ApiToken.HashOf(header["Bearer ".Length..].Trim());
        if (await db.ApiTokens.FirstOrDefaultAsync(t => t.Hash == hash, Context.RequestAborted) is not { } token)
        {
            return AuthenticateResult.Fail("Unknown token.");
        }

        var now = clock.GetCurrentInstant();
        if (token.ExpiresAt <= now)
        {
            return AuthenticateResult.Fail("The token has expired.");
        }

        if (token.LastUsedAt is not { } last || now - last > Duration.FromMinutes(10))
        {
            token.LastUsedAt = now;
            await db.SaveChangesAsync(Context.RequestAborted);
        }

        var identity = new ClaimsIdentity(
            [
                new Claim(MemberClaim, token.MemberId.ToString()),
                new Claim(NameClaim, token.Name),
                new Claim(IdClaim, token.Id.ToString()),
                new Claim(RoleClaim, token.Role.ToString()),
                new Claim(ScopeClaim, token.Scope.ToString()),
            ],
            SchemeName
        );
        return AuthenticateResult.Success(new AuthenticationTicket(new ClaimsPrincipal(identity), SchemeName));
    }
}
