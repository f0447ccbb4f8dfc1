using Cursus.Core;
using Cursus.Core.Reports;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Edge;
using Cursus.Web.Access;
using Cursus.Web.Accounts.TwoStep;
using Cursus.Web.Hosting;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authentication;
using Microsoft.AspNetCore.Http.HttpResults;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Accounts;

/// <summary>/session: signing in and out in a browser, and who is signed in.</summary>
public static class Session
{
    private static readonly Account Nobody = new() { Name = "" };
    private static string? nobodysHash;

    /// <param name="Email">The account's e-mail address.</param>
    /// <param name="Code">Where two-step sign-in is on, the code of the authenticator app, or a recovery code.</param>
    public sealed record SignInRequest(string? Email, string? Password, string? Code = null);

    /// <param name="Workspaces">All workspaces of the person, by name.</param>
    /// <param name="StartPage">The view to begin with.</param>
    /// <param name="ArchivedAt">Since when nothing in the workspace can be changed; null where it is at work.</param>
    /// <param name="DeleteAt">When the workspace is deleted; null where it is not going to be.</param>
    /// <param name="NeedsTwoSteps">Whether the workspace asks for two-step sign-in, which the person has yet to set up.</param>
    /// <param name="CsrfToken">Send it as <c>X-CSRF-Token</c> with each request that changes something.</param>
    /// <param name="ShortDomains">Where to introduce this browser, so its visits there count as the team's.</param>
    public sealed record Response(
        string Name,
        string Email,
        string Role,
        string Workspace,
        string WorkspaceKey,
        IReadOnlyList<OwnWorkspace> Workspaces,
        string TimeZone,
        WeekStart WeekStart,
        string NumberLanguage,
        StartPage StartPage,
        bool IsDemo,
        Instant? ArchivedAt,
        Instant? DeleteAt,
        bool NeedsTwoSteps,
        string CsrfToken,
        IReadOnlyList<ShortDomain> ShortDomains
    );

    /// <summary>A workspace that the person is a member of.</summary>
    /// <param name="Key">Its part of addresses, as in /w/northmoor.</param>
    /// <param name="IsArchived">Whether it is put away, and nothing in it can be changed.</param>
    public sealed record OwnWorkspace(string Key, string Name, bool IsArchived);

    /// <param name="Probe">A picture that loads only if the domain can be reached.</param>
    public sealed record ShortDomain(string Name, string Probe);

    public static void Map(IEndpointRouteBuilder api)
    {
        api.MapGet("/session", Get).ForViewers().BeforeTwoSteps().WithSummary("Who is signed in");
        api.MapPost("/session", SignIn).ForAnybody().RequireRateLimiting(AccessSetup.SignInLimit).WithSummary("Sign in in a browser");
        api.MapGet("/session/introduction", Introduce).ForViewers().BeforeTwoSteps().ExcludeFromDescription();
        api.MapDelete("/session", SignOut).ForViewers().BeforeTwoSteps().WithSummary("Sign out");
    }

    private static async Task<Ok<Response>> Get(
        HttpContext context,
        CurrentMember member,
        CursusDb db,
        IAntiforgery antiforgery,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var domains = await db
            .Domains.Where(d => d.WorkspaceId == member.WorkspaceId && d.VerifiedAt != null)
            .Select(d => d.Name)
            .ToListAsync(cancel);
        var workspaces = await db
            .Members.Where(m => m.AccountId == member.Account.Id)
            .OrderBy(m => m.Workspace!.Name)
            .Select(m => new OwnWorkspace(m.Workspace!.Key, m.Workspace.Name, m.Workspace.ArchivedAt != null))
            .ToListAsync(cancel);
        return TypedResults.Ok(
            new Response(
                member.Account.Name,
                member.Account.Email!,
                RolePolicies.Name(member.Role),
                member.Workspace.Name,
                member.Workspace.Key,
                workspaces,
                member.Workspace.TimeZone,
                (WeekStart)member.Workspace.WeekStart,
                member.NumberLanguage,
                member.Account.StartPage,
                member.Workspace.IsDemo,
                member.Workspace.ArchivedAt,
                member.Workspace.DeleteAt,
                member.NeedsTwoSteps,
                antiforgery.GetAndStoreTokens(context).RequestToken!,
                [.. domains.Select(d => new ShortDomain(d, options.ShortUrl(d, TeamMark.Path)))]
            )
        );
    }

    private static async Task<Results<NoContent, ProblemHttpResult>> SignIn(
        SignInRequest request,
        HttpContext context,
        SignInManager<Account> signIn,
        SignInGuard guard,
        BrowserSignIn browsers,
        SecondStep step,
        CursusDb db,
        CancellationToken cancel
    )
    {
        if (OwnPage.Error(context.Request) is { } foreign)
        {
            return foreign;
        }

        var errors = new FieldErrors();
        if (string.IsNullOrWhiteSpace(request.Email))
        {
            errors.Add("email", new ValidationError("email-missing", "Type your e-mail address."));
        }

        if (string.IsNullOrEmpty(request.Password))
        {
            errors.Add("password", new ValidationError("password-missing", "Type your password."));
        }

        if (errors.Any)
        {
            return ApiProblem.Invalid(errors);
        }

        var email = request.Email!.Trim();
        if (!guard.MayTry(context, email))
        {
            context.Response.Headers.RetryAfter = "300";
            return ApiProblem.Of(429, "too-many", "Too many wrong passwords for this e-mail address from here. Wait five minutes, then try again.");
        }

        var account = await signIn.UserManager.FindByEmailAsync(email);
        if (account is null)
        {
            // As much work as for a known address, so that the time tells nobody which ones are.
            signIn.UserManager.PasswordHasher.VerifyHashedPassword(Nobody, NobodysHash(signIn.UserManager.PasswordHasher), request.Password!);
        }

        if (account is null || !(await signIn.CheckPasswordSignInAsync(account, request.Password!, lockoutOnFailure: false)).Succeeded)
        {
            guard.WasWrong(context, email);
            return ApiProblem.Of(401, "wrong-sign-in", "Wrong e-mail address or password. Check both and try again.");
        }

        if (await step.Missing(context, account, request.Code) is { } missing)
        {
            return missing;
        }

        if (await WithoutWorkspace(db, account, cancel) is { } refused)
        {
            return refused;
        }

        await browsers.SignIn(context, account, isNewAccount: false, cancel);
        return TypedResults.NoContent();
    }

    /// <summary>Why somebody who is in no workspace can't sign in; null for everybody else.</summary>
    internal static async Task<ProblemHttpResult?> WithoutWorkspace(CursusDb db, Account account, CancellationToken cancel) =>
        await db.Members.AnyAsync(m => m.AccountId == account.Id, cancel)
            ? null
            : ApiProblem.Of(403, "no-workspace", "Your account is in no workspace any more. Ask an owner of one to invite you.");

    private static string NobodysHash(IPasswordHasher<Account> hasher) => nobodysHash ??= hasher.HashPassword(Nobody, Guid.NewGuid().ToString());

    /// <summary>Leads the browser over the named short domains, one after the other, so that each knows it as the team's; then on to
    /// <paramref name="then"/>.</summary>
    private static async Task<RedirectHttpResult> Introduce(
        string[] domain,
        string? then,
        HttpRequest request,
        CurrentMember member,
        CursusDb db,
        TeamMark mark,
        CursusOptions options,
        CancellationToken cancel
    )
    {
        var known = await db
            .Domains.Where(d => d.WorkspaceId == member.WorkspaceId && d.VerifiedAt != null && domain.Contains(d.Name))
            .Select(d => d.Name)
            .ToListAsync(cancel);
        var next = domain.FirstOrDefault(known.Contains);
        if (next is null)
        {
            return TypedResults.LocalRedirect(then is ['/', not ('/' or '\\'), ..] ? then : "/");
        }

        var rest = QueryString.Create([
            .. domain.SkipWhile(d => d != next).Skip(1).Select(d => KeyValuePair.Create("domain", (string?)d)),
            KeyValuePair.Create("then", then),
        ]);
        return TypedResults.Redirect(
            mark.IntroductionUrl(next, member.WorkspaceId, $"{request.Scheme}://{request.Host}{request.PathBase}{request.Path}{rest}")
        );
    }

    private static async Task<NoContent> SignOut(HttpContext context, CursusDb db, CancellationToken cancel)
    {
        if (AccessCookies.SignInOf(context) is { } browser)
        {
            await db.SignIns.Where(s => s.Id == browser).ExecuteDeleteAsync(cancel);
        }

        await context.SignOutAsync(IdentityConstants.ApplicationScheme);
        return TypedResults.NoContent();
    }
}
