using System.Security.Claims;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Routing;
using Microsoft.AspNetCore.Routing.Patterns;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Access;

/// <summary>Every endpoint says who may call it, and one that doesn't is refused.</summary>
public class RolePoliciesTests(CursusApp app)
{
    /// <summary>What anybody may call, signed in or not.</summary>
    internal static readonly string[] Open =
    [
        "GET /api/v1/installation",
        "POST /api/v1/installation",
        "POST /api/v1/session",
        "POST /api/v1/session/passkey/begin",
        "POST /api/v1/session/passkey",
        "POST /api/v1/account/reset",
        "POST /api/v1/account/reset/confirm",
        "POST /api/v1/account/email/confirm",
        "POST /api/v1/invitations/look",
        "POST /api/v1/invitations/accept",
        "GET /api/v1/shared/{secret}",
        "GET /healthz",
        "GET /readyz",
        "GET /api/openapi.json",
        "GET /api/reference/{documentName?}",
        "GET /api/reference/scalar.aspnetcore.js",
        "GET /api/reference/scalar.js",
        "GET /api/reference/favicon.svg",
    ];

    [Fact]
    public void Every_endpoint_says_who_may_call_it_and_few_are_for_anybody()
    {
        var endpoints = app.Services.GetRequiredService<EndpointDataSource>().Endpoints.OfType<RouteEndpoint>().ToList();
        endpoints
            .Where(e => e.Metadata.GetMetadata<IAuthorizeData>() is null && e.Metadata.GetMetadata<IAllowAnonymous>() is null)
            .Select(Name)
            .ShouldBeEmpty();
        endpoints.Where(e => e.Metadata.GetMetadata<IAllowAnonymous>() is not null).Select(Name).ShouldBe(Open, ignoreOrder: true);
        endpoints
            .Where(e => e.Metadata.GetMetadata<IAuthorizeData>() is { } authorize)
            .Select(e => e.Metadata.GetRequiredMetadata<IAuthorizeData>().Policy)
            .Distinct()
            .ShouldBe(["owner", "editor", "viewer"], ignoreOrder: true);
    }

    [Fact]
    public async Task An_endpoint_that_says_nothing_is_refused_to_everybody()
    {
        await using var scope = app.Services.CreateAsyncScope();
        var fallback = await scope.ServiceProvider.GetRequiredService<IAuthorizationPolicyProvider>().GetFallbackPolicyAsync();
        var authorization = scope.ServiceProvider.GetRequiredService<IAuthorizationService>();
        var signedIn = new ClaimsPrincipal(new ClaimsIdentity([new Claim(ClaimTypes.NameIdentifier, $"{Guid.NewGuid()}")], "test"));
        var context = new DefaultHttpContext { RequestServices = scope.ServiceProvider, User = signedIn };
        (await authorization.AuthorizeAsync(signedIn, context, fallback!)).Succeeded.ShouldBeTrue("a file or an unknown path is no endpoint");
        context.SetEndpoint(
            new RouteEndpoint(_ => Task.CompletedTask, RoutePatternFactory.Parse("/undeclared"), 0, new EndpointMetadataCollection(), "undeclared")
        );
        (await authorization.AuthorizeAsync(signedIn, context, fallback!)).Succeeded.ShouldBeFalse();
    }

    [Theory]
    [InlineData("PUT", "/api/v1/session", 405)]
    [InlineData("GET", "/api/v1/nothing-of-the-kind", 404)]
    public async Task A_wrong_method_or_path_is_told_as_such_to_anybody(string method, string path, int status) =>
        (
            (int)
                (
                    await app.CreateClient().SendAsync(new HttpRequestMessage(new HttpMethod(method), path), TestContext.Current.CancellationToken)
                ).StatusCode
        ).ShouldBe(status);

    private static string Name(RouteEndpoint endpoint) =>
        $"{(endpoint.Metadata.GetMetadata<IHttpMethodMetadata>() is { HttpMethods: [var method, ..] } ? method : "GET")} /{endpoint.RoutePattern.RawText!.TrimStart('/')}";
}
