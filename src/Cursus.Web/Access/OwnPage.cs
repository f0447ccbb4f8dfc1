using Cursus.Web.Problems;
using Microsoft.AspNetCore.Http.HttpResults;

namespace Cursus.Web.Access;

/// <summary>Requests that sign somebody in carry no CSRF token, since nobody is signed in yet. A page of another site can post a form here, but can't
/// make the browser hide where it comes from.</summary>
internal static class OwnPage
{
    /// <summary>The error where the request comes from another site's page.</summary>
    public static ProblemHttpResult? Error(HttpRequest request) =>
        request.Headers.Origin.ToString() is { Length: > 0 } origin && origin != $"{request.Scheme}://{request.Host}"
            ? ApiProblem.Of(403, "csrf", "Sign in on the application’s own page.")
            : null;
}
