using System.Net;
using System.Net.Http.Json;

namespace Cursus.Web.Tests.Addresses;

public class DomainsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_localhost_name_answers_at_once_and_any_other_waits_until_it_points_here()
    {
        var world = await World.Make(app);
        var local = $"go-{Guid.NewGuid():N}.localhost";
        ((bool)(await World.Read(await Add(world, local)))["isVerified"]!).ShouldBeTrue();
        (await world.Visit("", host: local)).StatusCode.ShouldBe(HttpStatusCode.OK);

        var remote = $"go-{Guid.NewGuid():N}.example";
        ((bool)(await World.Read(await Add(world, remote)))["isVerified"]!).ShouldBeFalse();
        (await world.Visit("", host: remote)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var refused = await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "northmoor.example", domain = remote }, Cancel);
        ((string)(await World.Read(refused))["code"]!).ShouldBe("domain-unverified");
    }

    [Theory]
    [InlineData("")]
    [InlineData("https://go.example.org/path")]
    [InlineData("two words.example")]
    [InlineData("localhost")]
    [InlineData("127.0.0.1")]
    [InlineData("[::1]")]
    [InlineData("go.example.org?x=1")]
    public async Task What_is_no_name_of_a_domain_of_ones_own_is_refused(string name)
    {
        var world = await World.Make(app);
        var refused = await Add(world, name);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await World.Read(refused))["errors"]!["name"].ShouldNotBeNull();
    }

    [Fact]
    public async Task A_name_is_kept_in_lower_case_ASCII()
    {
        var world = await World.Make(app);
        var number = Guid.NewGuid().ToString("N")[..8];
        ((string)(await World.Read(await Add(world, $"Bücher{number}.LOCALHOST")))["name"]!).ShouldStartWith("xn--bcher");
    }

    [Fact]
    public async Task New_links_take_the_default_domain_and_another_can_be_made_the_default()
    {
        var world = await World.Make(app);
        var second = await World.Read(await Add(world, $"two-{Guid.NewGuid():N}.localhost"));
        ((bool)second["isDefault"]!).ShouldBeFalse();
        (await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{second["id"]}", new { isDefault = true }, Cancel)).EnsureSuccessStatusCode();
        ((string)(await world.Send())["placements"]![0]!["link"]!["domain"]!).ShouldBe((string)second["name"]!);
        (await world.Get("/api/v1/domains"))["items"]!.AsArray().Count(d => (bool)d!["isDefault"]!).ShouldBe(1);
    }

    [Fact]
    public async Task A_domain_that_does_not_answer_cannot_be_the_default()
    {
        var world = await World.Make(app);
        var waiting = await World.Read(await Add(world, $"w-{Guid.NewGuid():N}.example"));
        (await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{waiting["id"]}", new { isDefault = true }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Conflict
        );
    }

    [Theory]
    [InlineData("javascript:1")]
    [InlineData("OWN")]
    public async Task The_bare_page_cannot_be_what_no_destination_can_be(string page)
    {
        var world = await World.Make(app);
        var id = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        var refused = await world.Owner.PatchAsJsonAsync($"/api/v1/domains/{id}", new { barePage = page == "OWN" ? world.Domain : page }, Cancel);
        (await World.Read(refused))["errors"]!["barePage"].ShouldNotBeNull();
    }

    private static Task<HttpResponseMessage> Add(World world, string name) => world.Owner.PostAsJsonAsync("/api/v1/domains", new { name }, Cancel);
}
