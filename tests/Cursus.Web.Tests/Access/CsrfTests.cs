using System.Net;
using System.Net.Http.Json;

namespace Cursus.Web.Tests.Access;

/// <summary>A browser sends its cookie with what other sites' pages ask for, too.</summary>
public class CsrfTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task No_request_by_cookie_changes_anything_without_its_CSRF_token()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        using var browser = World.FromAnyNetwork(app.CreateClient());
        (await browser.PostAsJsonAsync("/api/v1/session", new { email = world.OwnerEmail, password = World.Password }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NoContent
        );
        var strangers = app.Mailing.NewBrowser();
        (await strangers.SignIn(other.OwnerEmail, World.Password)).ShouldBe(HttpStatusCode.NoContent);
        var foreign = (string)(await strangers.Session())!["csrfToken"]!;

        var operations = ApiOperation.Of(app).Where(o => o.Method is not "GET" && !RolePoliciesTests.Open.Contains($"{o}")).ToList();
        operations.Count.ShouldBeGreaterThan(100);
        foreach (var operation in operations)
        {
            foreach (var token in new[] { null, foreign })
            {
                var request = operation.Request();
                if (token is not null)
                {
                    request.Headers.Add("X-CSRF-Token", token);
                }

                var answer = await browser.SendAsync(request, Cancel);
                answer.StatusCode.ShouldBe(HttpStatusCode.Forbidden, $"{operation}");
                ((string)(await World.Read(answer))["code"]!).ShouldBe("csrf", $"{operation}");
            }
        }
    }

    /// <summary>What signs somebody in carries no token, since nobody is signed in yet; it is taken from the application's own pages alone.</summary>
    [Theory]
    [InlineData("session")]
    [InlineData("invitations/accept")]
    public async Task Nobody_is_signed_in_by_another_sites_page(string path)
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"/api/v1/{path}")
        {
            Content = JsonContent.Create(new { email = "maren@northmoor.example", password = "northern-lights" }),
            Headers = { { "Origin", "https://elsewhere.example" } },
        };
        using var browser = World.FromAnyNetwork(app.CreateClient());
        var answer = await browser.SendAsync(request, Cancel);
        ((string)(await World.Read(answer))["code"]!).ShouldBe("csrf");
    }
}
