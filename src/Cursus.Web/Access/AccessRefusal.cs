using Cursus.Data.Workspaces;
using Cursus.Web.Problems;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Authorization.Policy;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Access;

/// <summary>Says why a request is not let through to its endpoint: 401 for nobody, 403 for a lesser role, and 403 for a cookie request that changes
/// something without its CSRF token.</summary>
internal sealed class AccessRefusal : IAuthorizationMiddlewareResultHandler
{
    public Task HandleAsync(RequestDelegate next, HttpContext context, AuthorizationPolicy policy, PolicyAuthorizationResult authorizeResult) =>
        authorizeResult.Succeeded ? next(context)
        : authorizeResult.Challenged ? NotSignedInProblem.ExecuteAsync(context)
        : (authorizeResult.AuthorizationFailure?.FailureReasons.OfType<Reason>().FirstOrDefault()?.Problem ?? UndeclaredProblem).ExecuteAsync(
            context
        );

    public static AuthorizationFailureReason NotSignedIn(IAuthorizationHandler handler) => new Reason(handler, NotSignedInProblem);

    public static AuthorizationFailureReason NoSuchWorkspace(IAuthorizationHandler handler) =>
        new Reason(
            handler,
            ApiProblem.Of(404, "no-such-workspace", "There is no workspace at this address, or you aren’t a member of it. Choose one of yours.")
        );

    public static AuthorizationFailureReason Role(IAuthorizationHandler handler, Role needed, Role has) =>
        new Reason(
            handler,
            ApiProblem.Of(
                403,
                "role",
                $"This needs the role “{RolePolicies.Name(needed)}”, but yours is “{RolePolicies.Name(has)}”. Ask an owner of the workspace."
            )
        );

    public static AuthorizationFailureReason Scope(IAuthorizationHandler handler, TokenScope has) =>
        new Reason(
            handler,
            ApiProblem.Of(
                403,
                "scope",
                has == TokenScope.Read
                    ? "This token only reads. Create one that may do more, in Settings under API tokens."
                    : "This token only reads and makes links. Create one that may do more, in Settings under API tokens."
            )
        );

    public static AuthorizationFailureReason TwoSteps(IAuthorizationHandler handler, string workspace) =>
        new Reason(handler, ApiProblem.Of(403, "two-step", $"“{workspace}” asks for two-step sign-in. Set it up in your account, then go on."));

    public static AuthorizationFailureReason Archived(IAuthorizationHandler handler, string workspace) =>
        new Reason(
            handler,
            ApiProblem.Of(
                403,
                "workspace-archived",
                $"“{workspace}” is archived, so nothing in it can be changed. An owner can restore it in Settings under Workspace."
            )
        );

    public static AuthorizationFailureReason NotMeant(IAuthorizationHandler handler) =>
        new Reason(
            handler,
            ApiProblem.Of(403, "csrf", "The request has no X-CSRF-Token, so it may come from another site. Reload the page and try again.")
        );

    private static ProblemHttpResult NotSignedInProblem =>
        ApiProblem.Of(401, "not-signed-in", "Sign in, or send a valid token as “Authorization: Bearer …”.");

    private static ProblemHttpResult UndeclaredProblem =>
        ApiProblem.Of(403, "undeclared", "This operation doesn’t say who may call it, so nobody may. Report this to whoever maintains Cursus.");

    private sealed class Reason(IAuthorizationHandler handler, ProblemHttpResult problem)
        : AuthorizationFailureReason(handler, problem.ProblemDetails.Detail!)
    {
        public ProblemHttpResult Problem => problem;
    }
}
