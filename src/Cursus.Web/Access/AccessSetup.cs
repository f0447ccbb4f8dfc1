using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.DataProtection;
using Microsoft.AspNetCore.Identity;

namespace Cursus.Web.Access;

/// <summary>Sign-in by cookie for people and by token for programs, with roles checked by <see cref="RolePolicies"/>.</summary>
public static class AccessSetup
{
    internal const string SignInLimit = "sign-in";
    internal const string SharedLimit = "shared";

    /// <summary>Names the <see cref="SignIn"/> that a cookie is of.</summary>
    internal const string SignInClaim = "cursus-sign-in";

    /// <summary>How long the link for a forgotten password works.</summary>
    private static readonly TimeSpan ResetLife = TimeSpan.FromHours(1);

    private static readonly TimeSpan PasskeyPatience = TimeSpan.FromMinutes(5);

    private const int PasswordIterations = 210_000;
    private const string CookieOrToken = "cookie-or-token";

    public static void AddAccess(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        // In place of Identity's own, which asks for kinds of characters.
        services.AddScoped<IPasswordValidator<Account>, PasswordCheck>();
        services
            .AddIdentityCore<Account>(identity =>
            {
                identity.User.RequireUniqueEmail = true;
                // Not to be refused for its letters: people have the addresses they have.
                identity.User.AllowedUserNameCharacters = "";
                identity.Tokens.PasswordResetTokenProvider = TokenOptions.DefaultProvider;
            })
            .AddUserStore<AccountStore>()
            .AddTokenProvider<DataProtectorTokenProvider<Account>>(TokenOptions.DefaultProvider)
            .AddTokenProvider<AuthenticatorTokenProvider<Account>>(TokenOptions.DefaultAuthenticatorProvider)
            .AddSignInManager();
        services.Configure<DataProtectionTokenProviderOptions>(tokens => tokens.TokenLifespan = ResetLife);

        // PBKDF2 with HMAC-SHA512: OWASP Password Storage Cheat Sheet, 2023.
        services.Configure<PasswordHasherOptions>(hasher => hasher.IterationCount = PasswordIterations);

        var options = builder.Configuration.GetSection("Cursus").Get<CursusOptions>() ?? new();
        var cookies = new AccessCookies(options);
        services.AddSingleton(cookies);
        services.AddSingleton<SignInGuard>();
        services.AddSingleton<SetupCode>();
        services.AddSingleton<LinkSecret>();
        services
            .AddAuthentication(CookieOrToken)
            .AddPolicyScheme(CookieOrToken, null, policy =>
                policy.ForwardDefaultSelector = context =>
                    context.Request.Headers.ContainsKey("Authorization") ? TokenSignIn.SchemeName : IdentityConstants.ApplicationScheme
            )
            .AddScheme<AuthenticationSchemeOptions, TokenSignIn>(TokenSignIn.SchemeName, null)
            .AddCookie(IdentityConstants.ApplicationScheme, cookie =>
            {
                cookie.Cookie.Name = cookies.Session;
                cookie.Cookie.SecurePolicy = cookies.SecurePolicy;
                cookie.Cookie.HttpOnly = true;
                // Signed in is signed in, in whatever workspace's addresses; and browsers take __Host- cookies with this path alone.
                cookie.Cookie.Path = "/";
                cookie.Cookie.SameSite = SameSiteMode.Lax;
                cookie.ExpireTimeSpan = SignIn.Life.ToTimeSpan();
                cookie.SlidingExpiration = true;
                cookie.Events.OnRedirectToLogin = Plain(StatusCodes.Status401Unauthorized);
                cookie.Events.OnRedirectToAccessDenied = Plain(StatusCodes.Status403Forbidden);
                cookie.Events.OnValidatePrincipal = SecurityStampValidator.ValidatePrincipalAsync;
            });
        AddPasskeys(services, options, cookies);
        services.AddScoped<ISecurityStampValidator, SecurityStampValidator<Account>>();
        services.Configure<SecurityStampValidatorOptions>(stamps =>
            stamps.OnRefreshingPrincipal = refreshed =>
            {
                // The account is read anew; which browser it is signed in in stays.
                refreshed.NewPrincipal!.Identities.First().AddClaims(refreshed.CurrentPrincipal!.FindAll(SignInClaim));
                return Task.CompletedTask;
            }
        );

        services.AddAntiforgery(csrf =>
        {
            csrf.HeaderName = "X-CSRF-Token";
            csrf.Cookie.Name = cookies.Csrf;
            csrf.Cookie.SecurePolicy = cookies.SecurePolicy;
            csrf.Cookie.Path = "/";
            csrf.Cookie.SameSite = SameSiteMode.Lax;
        });
        AddProtection(services, options.KeyFile);
        services.AddScoped<CurrentMember>();
        services.AddRolePolicies();
        services.AddSingleton<MemberLimits>();
        services.AddRegularWork<AccessCleaning>(
            "clean-up",
            "Clean-up",
            "Deletes expired sign-ins and invitations, old entries of the audit log, and stored answers to repeated requests.",
            TimeSpan.FromMinutes(5)
        );

        // Slows down guessing over many accounts, which SignInGuard sees as one try at each.
        services.AddRateLimiter(limiter =>
        {
            limiter.RejectionStatusCode = StatusCodes.Status429TooManyRequests;
            limiter.AddPolicy(SignInLimit, context =>
                System.Threading.RateLimiting.RateLimitPartition.GetFixedWindowLimiter(SignInGuard.NetworkOf(context.Connection.RemoteIpAddress), _ =>
                    new() { PermitLimit = 30, Window = TimeSpan.FromMinutes(1) }
                )
            );
            limiter.AddPolicy(SharedLimit, context =>
                System.Threading.RateLimiting.RateLimitPartition.GetFixedWindowLimiter(SignInGuard.NetworkOf(context.Connection.RemoteIpAddress), _ =>
                    new() { PermitLimit = 120, Window = TimeSpan.FromMinutes(1) }
                )
            );
            limiter.OnRejected = async (rejected, _) =>
            {
                rejected.HttpContext.Response.Headers.RetryAfter = "60";
                await Problems.ApiProblem.Of(429, "too-many", "Too many attempts. Wait a minute, then try again.").ExecuteAsync(rejected.HttpContext);
            };
        });
    }

    /// <summary>A passkey stands for both steps: something one has, opened by something one knows or is (WebAuthn, user verification).</summary>
    private static void AddPasskeys(IServiceCollection services, CursusOptions options, AccessCookies cookies)
    {
        // Remembers in the browser, sealed, what a passkey was asked for.
        services
            .AddAuthentication()
            .AddCookie(IdentityConstants.TwoFactorUserIdScheme, cookie =>
            {
                cookie.Cookie.Name = cookies.Passkey;
                cookie.Cookie.SecurePolicy = cookies.SecurePolicy;
                cookie.Cookie.HttpOnly = true;
                cookie.Cookie.Path = "/";
                cookie.Cookie.SameSite = SameSiteMode.Strict;
                cookie.ExpireTimeSpan = PasskeyPatience;
            });
        services.Configure<IdentityPasskeyOptions>(passkeys =>
        {
            passkeys.UserVerificationRequirement = "required";
            passkeys.ResidentKeyRequirement = "required";
            passkeys.AuthenticatorTimeout = PasskeyPatience;
            // Otherwise the host that the request names.
            passkeys.ServerDomain = options.AppAddress is { } address ? new Uri(address).Host : null;
        });
    }

    private static void AddProtection(IServiceCollection services, string keyFile)
    {
        var protection = services.AddDataProtection().SetApplicationName("Cursus");
        if (DocumentBuild.IsRunning)
        {
            protection.UseEphemeralDataProtectionProvider();
            return;
        }

        var certificate = KeyFile.Of(keyFile);
        services.AddSingleton(certificate);
        protection.PersistKeysToDbContext<CursusDb>().ProtectKeysWithCertificate(certificate).UnprotectKeysWithAnyCertificate(certificate);
    }

    private static Func<
        Microsoft.AspNetCore.Authentication.RedirectContext<Microsoft.AspNetCore.Authentication.Cookies.CookieAuthenticationOptions>,
        Task
    > Plain(int status) =>
        context =>
        {
            context.Response.StatusCode = status;
            return Task.CompletedTask;
        };
}
