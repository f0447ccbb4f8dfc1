using System.Security.Claims;
using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Antiforgery;
using Microsoft.AspNetCore.Identity;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Access;

/// <summary>Marks an endpoint that only members with at least this role may use.</summary>
public sealed record NeedsRole(Role Role);

/// <summary>Lets a request through to an endpoint only for a member with the role it needs: 401 for nobody, 403 for a lesser role,
/// and 403 for a cookie request that changes something without its CSRF token.</summary>
public static class MemberGate
{
    /// <summary>Viewers may call this endpoint, and everybody above them.</summary>
    public static TBuilder ForViewers<TBuilder>(this TBuilder endpoint) where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new NeedsRole(Role.Viewer));

    /// <summary>Editors and owners may call this endpoint.</summary>
    public static TBuilder ForEditors<TBuilder>(this TBuilder endpoint) where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new NeedsRole(Role.Editor));

    /// <summary>Only owners may call this endpoint.</summary>
    public static TBuilder ForOwners<TBuilder>(this TBuilder endpoint) where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new NeedsRole(Role.Owner));

    public static void UseMemberGate(this IApplicationBuilder app) => app.Use(async (context, next) =>
    {
        if (context.GetEndpoint()?.Metadata.GetMetadata<NeedsRole>() is not { } needed)
        {
            await next(context);
            return;
        }

        if (await FindMember(context) is not { } member)
        {
            await ApiProblem.Of(401, "not-signed-in", "Sign in, or send a valid token as “Authorization: Bearer …”.").ExecuteAsync(context);
        }
        else if (member.Role < needed.Role)
        {
            await ApiProblem.Of(403, "role", $"This needs the role “{Name(needed.Role)}”, but yours is “{Name(member.Role)}”. Ask an owner of the workspace.").ExecuteAsync(context);
        }
        else if (!await IsMeant(context))
        {
            await ApiProblem.Of(403, "csrf", "The request has no X-CSRF-Token, so it may come from another site. Reload the page and try again.").ExecuteAsync(context);
        }
        else
        {
            context.RequestServices.GetRequiredService<CurrentMember>().Is(member);
            NumberLanguage.Use(member.Workspace!.NumberLanguage);
            await next(context);
        }
    });

    /// <summary>The role as it is written in the API.</summary>
    public static string Name(Role role) => role switch { Role.Owner => "owner", Role.Editor => "editor", _ => "viewer" };

    /// <summary>The member who makes a request; null where nobody is signed in, or not any more.</summary>
    internal static async Task<Member?> FindMember(HttpContext context)
    {
        var db = context.RequestServices.GetRequiredService<CursusDb>();
        var members = db.Members.Include(m => m.Workspace).Include(m => m.Account).AsNoTracking();
        if (Guid.TryParse(context.User.FindFirstValue(TokenSignIn.MemberClaim), out var memberId))
        {
            return await members.FirstOrDefaultAsync(m => m.Id == memberId, context.RequestAborted);
        }

        if (!Guid.TryParse(context.User.FindFirstValue(ClaimTypes.NameIdentifier), out var accountId) || !Guid.TryParse(context.User.FindFirstValue(Session.SignInClaim), out var browser))
        {
            return null;
        }

        var now = context.RequestServices.GetRequiredService<IClock>().GetCurrentInstant();
        var found = await members.Where(m => m.AccountId == accountId).OrderBy(m => m.CreatedAt)
            .Select(m => new { Member = m, SignIn = db.SignIns.FirstOrDefault(s => s.Id == browser && s.AccountId == accountId && s.LastUsedAt > now - SignIn.Life) })
            .FirstOrDefaultAsync(context.RequestAborted);
        if (found?.SignIn is { } signIn && signIn.LastUsedAt < now - Duration.FromDays(1))
        {
            await db.SignIns.Where(s => s.Id == browser).ExecuteUpdateAsync(s => s.SetProperty(x => x.LastUsedAt, now), context.RequestAborted);
        }

        return found?.SignIn is null ? null : found.Member;
    }

    /// <summary>A browser sends its cookie with requests of other sites too; a program that sends a token means what it says.</summary>
    private static async Task<bool> IsMeant(HttpContext context) =>
        HttpMethods.IsGet(context.Request.Method)
        || HttpMethods.IsHead(context.Request.Method)
        || context.User.Identity?.AuthenticationType != IdentityConstants.ApplicationScheme
        || await context.RequestServices.GetRequiredService<IAntiforgery>().IsRequestValidAsync(context);
}
