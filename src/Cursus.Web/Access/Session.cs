using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Edge;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Access;

/// <summary>/session: signing in and out in a browser, and who is signed in.</summary>
public static class Session
{
    /// <param name="Email">The account's e-mail address.</param>
    public sealed record SignInRequest(string? Email, string? Password);

    /// <param name="CsrfToken">Send it as <c>X-CSRF-Token</c> with each request that changes something.</param>
    /// <param name="ShortDomains">Where this browser can be introduced, so that its visits there count as the team's.</param>
    public sealed record Response(
        string Name, string Email, string Role, string Workspace, string TimeZone, bool IsDemo, string CsrfToken, IReadOnlyList<ShortDomain> ShortDomains);

    /// <param name="Probe">A picture that loads where the domain can be reached.</param>
    public sealed record ShortDomain(string Name, string Probe);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/session", Get).ForViewers().WithSummary("Who is signed in");
        api.MapPost("/session", SignIn).RequireRateLimiting(AccessSetup.SignInLimit).WithSummary("Sign in in a browser");
        api.MapGet("/session/introduction", Introduce).ForViewers().ExcludeFromDescription();
        api.MapDelete("/session", SignOut).ForViewers().WithSummary("Sign out");
    }

    private static async Task<Ok<Response>> Get(
        HttpContext context, CurrentMember member, CursusDb db, IAntiforgery antiforgery, CursusOptions options, CancellationToken cancel)
    {
        var domains = await db.Domains.Where(d => d.WorkspaceId == member.WorkspaceId && d.VerifiedAt != null).Select(d => d.Name).ToListAsync(cancel);
        return TypedResults.Ok(new Response(
            member.Account.Name,
            member.Account.Email!,
            MemberGate.Name(member.Role),
            member.Workspace.Name,
            member.Workspace.TimeZone,
            member.Workspace.IsDemo,
            antiforgery.GetAndStoreTokens(context).RequestToken!,
            [.. domains.Select(d => new ShortDomain(d, options.ShortUrl(d, TeamMark.Path)))]));
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SignIn(
        SignInRequest request, HttpContext context, SignInManager<Account> signIn)
    {
        // A page of another site can post a form here, but it cannot make the browser hide where it comes from.
        if (context.Request.Headers.Origin.ToString() is { Length: > 0 } origin && origin != $"{context.Request.Scheme}://{context.Request.Host}")
        {
            return ApiProblem.Of(403, "csrf", "Sign in on the application's own page.");
        }

        var errors = new FieldErrors();
        if (string.IsNullOrWhiteSpace(request.Email))
        {
            errors.Add("email", new Flaw("email-missing", "Type your e-mail address."));
        }

        if (string.IsNullOrEmpty(request.Password))
        {
            errors.Add("password", new Flaw("password-missing", "Type your password."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        signIn.AuthenticationScheme = IdentityConstants.ApplicationScheme;
        var result = await signIn.PasswordSignInAsync(request.Email!.Trim(), request.Password!, isPersistent: true, lockoutOnFailure: true);
        return result switch
        {
            { Succeeded: true } => TypedResults.NoContent(),
            { IsLockedOut: true } => ApiProblem.Of(401, "locked-out", "Too many wrong passwords. This account opens again in five minutes."),
            _ => ApiProblem.Of(401, "wrong-sign-in", "E-mail address and password don't go together. Check both and try again."),
        };
    }

    /// <summary>Leads the browser over the named short domains, one after the other, so that each knows it as the team's; then on to <paramref name="then"/>.</summary>
    private static async Task<RedirectHttpResult> Introduce(
        string[] domain, string? then, HttpRequest request, CurrentMember member, CursusDb db, TeamMark mark, CursusOptions options, CancellationToken cancel)
    {
        var known = await db.Domains.Where(d => d.WorkspaceId == member.WorkspaceId && d.VerifiedAt != null && domain.Contains(d.Name)).Select(d => d.Name).ToListAsync(cancel);
        var next = domain.FirstOrDefault(known.Contains);
        if (next is null)
        {
            return TypedResults.LocalRedirect(then is ['/', not ('/' or '\\'), ..] ? then : "/");
        }

        var rest = QueryString.Create([.. domain.SkipWhile(d => d != next).Skip(1).Select(d => KeyValuePair.Create("domain", (string?)d)), KeyValuePair.Create("then", then)]);
        return TypedResults.Redirect(mark.IntroductionUrl(
            next, member.WorkspaceId, $"{request.Scheme}://{request.Host}{request.Path}{rest}"));
    }

    private static async Task<NoContent> SignOut(SignInManager<Account> signIn)
    {
        await signIn.Context.SignOutCookie();
        return TypedResults.NoContent();
    }

    private static Task SignOutCookie(this HttpContext context) =>
        Microsoft.AspNetCore.Authentication.AuthenticationHttpContextExtensions.SignOutAsync(context, IdentityConstants.ApplicationScheme);
}
