using System.Net;
using System.Net.Http.Headers;
using System.Text.RegularExpressions;
using Microsoft.AspNetCore.Http.Metadata;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.Routing;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Access;

/// <summary>Who may do what, as <c>docs/roles.md</c> says it, asked of the running application for each operation in each role.</summary>
public partial class RolesTableTests(CursusApp app)
{
    private static readonly string[] Roles = ["anybody", "viewers", "editors", "owners"];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public void The_table_lists_every_operation_of_the_running_application_and_no_other() =>
        Served().Keys.ShouldBe(Table().Select(o => o.Operation), ignoreOrder: true);

    [Fact]
    public async Task Every_operation_is_refused_to_each_role_that_may_not_call_it_and_to_no_other()
    {
        var (wrong, served, world) = (new List<string>(), Served(), await World.Make(app));
        foreach (var (operation, may) in Table())
        {
            foreach (var role in Roles)
            {
                // Whoever leaves is asked no more.
                var asked = operation.EndsWith("/leave", StringComparison.Ordinal) ? await World.Make(app) : world;
                var status = await Ask(ClientOf(asked, role), operation, served[operation]);
                var isRefused = status is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
                if (isRefused == may.Contains(role))
                {
                    wrong.Add($"{operation} as {role}: {(int)status}");
                }
            }
        }

        wrong.ShouldBeEmpty();
    }

    /// <summary>Operations with the kind of content that they take.</summary>
    private Dictionary<string, string> Served() =>
        app
            .Services.GetRequiredService<EndpointDataSource>()
            .Endpoints.OfType<RouteEndpoint>()
            .Where(e => e.RoutePattern.RawText!.TrimStart('/').StartsWith("api/v1/", StringComparison.Ordinal))
            .SelectMany(
                e => e.Metadata.GetRequiredMetadata<IHttpMethodMetadata>().HttpMethods,
                (e, method) =>
                    (
                        $"{method} /{Constraint().Replace(e.RoutePattern.RawText!.TrimStart('/'), "")}",
                        e.Metadata.GetMetadata<IAcceptsMetadata>()?.ContentTypes[0] ?? "application/json"
                    )
            )
            .ToDictionary();

    /// <summary>Operations with the roles that may call them.</summary>
    private static List<(string Operation, IReadOnlyList<string> May)> Table() =>
        [
            .. File.ReadLines(Repository.Of("docs", "roles.md"))
                .Where(line => line.StartsWith("| `", StringComparison.Ordinal))
                .Select(line => line.Split('|', StringSplitOptions.TrimEntries)[1..^1])
                .Select(cells =>
                    (cells[0].Trim('`'), (IReadOnlyList<string>)[.. Roles.Zip(cells[2..]).Where(c => c.Second == "✓").Select(c => c.First)])
                ),
        ];

    private HttpClient ClientOf(World world, string role) =>
        role switch
        {
            "viewers" => world.Viewer,
            "editors" => world.Editor,
            "owners" => world.Owner,
            _ => app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, HandleCookies = false }),
        };

    /// <summary>Asks for something that isn't there, with nothing to do: whoever may ask is told so.</summary>
    private static async Task<HttpStatusCode> Ask(HttpClient client, string operation, string content)
    {
        var (method, path) = (
            operation.Split(' ')[0],
            Parameter().Replace(operation.Split(' ')[1], p => p.Value is "{number}" ? "1" : $"{Guid.NewGuid()}")
        );
        var request = new HttpRequestMessage(new HttpMethod(method), path);
        if (method is not ("GET" or "DELETE"))
        {
            request.Content = new StringContent("{}", new MediaTypeHeaderValue(content));
        }

        using var answer = await client.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, Cancel);
        return answer.StatusCode;
    }

    [GeneratedRegex(@":\w+(?=\})")]
    private static partial Regex Constraint();

    [GeneratedRegex(@"\{\w+\}")]
    private static partial Regex Parameter();
}
