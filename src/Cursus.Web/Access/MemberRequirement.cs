using System.Security.Claims;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>A member with at least this role must ask.</summary>
internal sealed record MemberRequirement(Role Role) : IAuthorizationRequirement;

/// <summary>Finds the member who asks, and lets a request through where their role is enough and, with a cookie, where it is meant.</summary>
internal sealed class MemberHandler(CursusDb db, IClock clock, IAntiforgery antiforgery, CurrentMember current)
    : AuthorizationHandler<MemberRequirement>
{
    protected override async Task HandleRequirementAsync(AuthorizationHandlerContext context, MemberRequirement requirement)
    {
        if (context.Resource is not HttpContext request)
        {
            return;
        }

        if (await Find(request) is not { } member)
        {
            var isElsewhere = WorkspaceAddress.KeyOf(request) is not null && await IsSignedIn(request);
            context.Fail(isElsewhere ? AccessRefusal.NoSuchWorkspace(this) : AccessRefusal.NotSignedIn(this));
        }
        else if (!TokenScopes.Allows(ScopeOf(request), request))
        {
            context.Fail(AccessRefusal.Scope(this, ScopeOf(request)));
        }
        else if (member.Role < requirement.Role)
        {
            context.Fail(AccessRefusal.Role(this, requirement.Role, member.Role));
        }
        else if (NeedsTwoSteps(member) && IsInBrowser(request) && !IsOpenBefore(request))
        {
            context.Fail(AccessRefusal.TwoSteps(this, member.Workspace!.Name));
        }
        else if (member.Workspace!.ArchivedAt is not null && !TokenScopes.Reads(request) && !IsOpenInArchive(request))
        {
            context.Fail(AccessRefusal.Archived(this, member.Workspace.Name));
        }
        else if (!await IsMeant(request))
        {
            context.Fail(AccessRefusal.NotMeant(this));
        }
        else
        {
            var tokenId = Guid.TryParse(request.User.FindFirstValue(TokenSignIn.IdClaim), out var id) ? id : (Guid?)null;
            current.Is(member, request.User.FindFirstValue(TokenSignIn.NameClaim), tokenId);
            context.Succeed(requirement);
        }
    }

    /// <summary>The member who makes a request, in the workspace that its address names, else in the person's first; null where nobody is signed in,
    /// or not any more, or is no member of it.</summary>
    public async Task<Member?> Find(HttpContext context)
    {
        var members = db.Members.Include(m => m.Workspace).Include(m => m.Account).AsNoTracking();
        if (WorkspaceAddress.KeyOf(context) is { } key)
        {
            members = members.Where(m => m.Workspace!.Key == key);
        }

        if (Guid.TryParse(context.User.FindFirstValue(TokenSignIn.MemberClaim), out var memberId))
        {
            var member = await members.FirstOrDefaultAsync(m => m.Id == memberId, context.RequestAborted);
            if (member is not null && Enum.TryParse<Role>(context.User.FindFirstValue(TokenSignIn.RoleClaim), out var most) && most < member.Role)
            {
                member.Role = most;
            }

            return member;
        }

        if (
            !Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var accountId)
            || AccessCookies.SignInOf(context) is not { } browser
        )
        {
            return null;
        }

        var now = clock.GetCurrentInstant();
        var found = await members
            .Where(m => m.AccountId == accountId)
            .OrderBy(m => m.Workspace!.ArchivedAt != null)
            .ThenBy(m => m.CreatedAt)
            .Select(m => new
            {
                Member = m,
                SignIn = db.SignIns.FirstOrDefault(s =>
                    s.Id == browser && s.AccountId == accountId && s.LastUsedAt > now - SignIn.Life && s.CreatedAt > now - SignIn.LongestLife
                ),
            })
            .FirstOrDefaultAsync(context.RequestAborted);
        if (found?.SignIn is { } signIn && signIn.LastUsedAt < now - Duration.FromDays(1))
        {
            await db.SignIns.Where(s => s.Id == browser).ExecuteUpdateAsync(s => s.SetProperty(x => x.LastUsedAt, now), context.RequestAborted);
        }

        return found?.SignIn is null ? null : found.Member;
    }

    /// <summary>Whether somebody has yet to set up two-step sign-in before they may work in the workspace.</summary>
    public static bool NeedsTwoSteps(Member member) => !member.Account!.TwoFactorEnabled && MustSignInInTwoSteps(member);

    /// <summary>Whether the workspace asks it of somebody in this role.</summary>
    public static bool MustSignInInTwoSteps(Member member) =>
        member.Workspace!.TwoStepOf switch
        {
            TwoStepRule.Everybody => true,
            TwoStepRule.Owners => member.Role == Role.Owner,
            _ => false,
        };

    private static bool IsOpenBefore(HttpContext context) => context.GetEndpoint()?.Metadata.GetMetadata<RolePolicies.WithoutTwoSteps>() is not null;

    private static bool IsOpenInArchive(HttpContext context) =>
        IsOpenBefore(context) || context.GetEndpoint()?.Metadata.GetMetadata<RolePolicies.InArchive>() is not null;

    private static bool IsInBrowser(HttpContext context) => context.User.Identity?.AuthenticationType == IdentityConstants.ApplicationScheme;

    private static TokenScope ScopeOf(HttpContext context) =>
        Enum.TryParse<TokenScope>(context.User.FindFirstValue(TokenSignIn.ScopeClaim), out var scope) ? scope : TokenScope.Everything;

    /// <summary>Whether the request comes from somebody at all.</summary>
    private async Task<bool> IsSignedIn(HttpContext context) =>
        context.User.HasClaim(c => c.Type == TokenSignIn.MemberClaim)
        || (AccessCookies.SignInOf(context) is { } browser && await db.SignIns.AnyAsync(s => s.Id == browser, context.RequestAborted));

    /// <summary>A browser sends its cookie with requests of other sites too; a program that sends a token means what it says.</summary>
    private async Task<bool> IsMeant(HttpContext context) =>
        HttpMethods.IsGet(context.Request.Method)
        || HttpMethods.IsHead(context.Request.Method)
        || !IsInBrowser(context)
        || await antiforgery.IsRequestValidAsync(context);
}
