using Cursus.Core;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Authorization;

namespace Cursus.Web.Access;

/// <summary>
/// Who may call an endpoint. Each says so by one of these (a test holds them to it), and one that says nothing is refused to everybody: ASP.NET
/// Core's authorization with a fallback policy that nobody meets.
/// </summary>
public static class RolePolicies
{
    /// <summary>Viewers may call this endpoint, and everybody above them.</summary>
    public static TBuilder ForViewers<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.RequireAuthorization(Name(Role.Viewer));

    /// <summary>Editors and owners may call this endpoint.</summary>
    public static TBuilder ForEditors<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.RequireAuthorization(Name(Role.Editor));

    /// <summary>Only owners may call this endpoint.</summary>
    public static TBuilder ForOwners<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.RequireAuthorization(Name(Role.Owner));

    /// <summary>Anybody may call this endpoint, signed in or not.</summary>
    public static TBuilder ForAnybody<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.AllowAnonymous();

    /// <summary>May also be called by members who have yet to set up two-step sign-in, where their workspace asks for it.</summary>
    internal static TBuilder BeforeTwoSteps<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new WithoutTwoSteps());

    /// <summary>Changes something, and may be called in an archived workspace too.</summary>
    internal static TBuilder WhileArchived<TBuilder>(this TBuilder endpoint)
        where TBuilder : IEndpointConventionBuilder => endpoint.WithMetadata(new InArchive());

    /// <summary>The role as it is written in the API.</summary>
    public static string Name(Role role) =>
        role switch
        {
            Role.Owner => "owner",
            Role.Editor => "editor",
            _ => "viewer",
        };

    /// <summary>“an owner”.</summary>
    public static string NameWithArticle(Role role) => (role is Role.Viewer ? "a " : "an ") + Name(role);

    internal static void AddRolePolicies(this IServiceCollection services)
    {
        services.AddScoped<MemberHandler>();
        services.AddScoped<IAuthorizationHandler>(provider => provider.GetRequiredService<MemberHandler>());
        services.AddSingleton<IAuthorizationMiddlewareResultHandler, AccessRefusal>();
        var authorization = services
            .AddAuthorizationBuilder()
            // Files and unknown paths have no endpoint, a wrong method has one of routing's own: there is nothing to be kept from anybody.
            .SetFallbackPolicy(
                new AuthorizationPolicyBuilder()
                    .RequireAssertion(asked => asked.Resource is HttpContext context && context.GetEndpoint() is not RouteEndpoint)
                    .Build()
            );
        foreach (var role in Enum.GetValues<Role>())
        {
            authorization.AddPolicy(Name(role), policy => policy.AddRequirements(new MemberRequirement(role)));
        }
    }

    internal sealed record WithoutTwoSteps;

    internal sealed record InArchive;

    /// <summary>Whether an endpoint is for members, in whatever role.</summary>
    internal static bool IsForMembers(this HttpContext context) => context.GetEndpoint()?.Metadata.GetMetadata<IAuthorizeData>() is not null;

    /// <summary>Lets requests through to their endpoints by these policies; numbers in answers are written as the member's workspace writes
    /// them.</summary>
    internal static void UseRolePolicies(this IApplicationBuilder app)
    {
        app.UseAuthorization();
        app.Use(
            (context, next) =>
            {
                if (context.IsForMembers())
                {
                    var member = context.RequestServices.GetRequiredService<CurrentMember>();
                    NumberLanguage.Use(member.NumberLanguage);
                }

                return next(context);
            }
        );
    }
}
