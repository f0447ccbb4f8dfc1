using System.Net.Http.Headers;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Support;

/// <summary>An operation of the running application, such as <c>GET /api/v1/links/{id}</c>.</summary>
/// <param name="Content">The kind of content that it takes.</param>
public sealed partial record ApiOperation(string Method, string Path, string Content)
{
    public override string ToString() => $"{Method} {Path}";

    /// <summary>All that the application serves below /api/v1.</summary>
    public static List<ApiOperation> Of(CursusApp app) =>
        [
            .. app
                .Services.GetRequiredService<EndpointDataSource>()
                .Endpoints.OfType<RouteEndpoint>()
                .Where(e => e.RoutePattern.RawText!.TrimStart('/').StartsWith("api/v1/", StringComparison.Ordinal))
                .SelectMany(
                    e => e.Metadata.GetRequiredMetadata<IHttpMethodMetadata>().HttpMethods,
                    (e, method) =>
                        new ApiOperation(
                            method,
                            $"/{Constraint().Replace(e.RoutePattern.RawText!.TrimStart('/'), "")}",
                            e.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes[0] ?? "application/json"
                        )
                ),
        ];

    /// <summary>A request about things that aren't there, with next to nothing in it.</summary>
    public HttpRequestMessage Request()
    {
        var path = Parameter().Replace(Path, p => p.Value is "{number}" ? "1" : $"{Guid.NewGuid()}");
        return new HttpRequestMessage(new HttpMethod(Method), path)
        {
            Content = Method is "GET" or "DELETE" ? null : new StringContent("{}", new MediaTypeHeaderValue(Content)),
        };
    }

    [GeneratedRegex(@":\w+(?=\})")]
    private static partial Regex Constraint();

    [GeneratedRegex(@"\{\w+\}")]
    private static partial Regex Parameter();
}
