using System.Net;
using Microsoft.AspNetCore.Mvc.Testing;

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
                var status = await Ask(ClientOf(asked, role), served[operation]);
                var isRefused = status is HttpStatusCode.Unauthorized or HttpStatusCode.Forbidden;
                if (isRefused == may.Contains(role))
                {
                    wrong.Add($"{operation} as {role}: {(int)status}");
                }
            }
        }

        wrong.ShouldBeEmpty();
    }

    private Dictionary<string, ApiOperation> Served() => ApiOperation.Of(app).ToDictionary(o => $"{o}");

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
    private static async Task<HttpStatusCode> Ask(HttpClient client, ApiOperation operation)
    {
        using var answer = await client.SendAsync(operation.Request(), HttpCompletionOption.ResponseHeadersRead, Cancel);
        return answer.StatusCode;
    }
}
