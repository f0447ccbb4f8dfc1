using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Addresses;

/// <summary>A short domain on its way from bought to good, against a real name server.</summary>
public class DomainCheckTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_domain_becomes_good_when_its_records_are_set_and_tells_when_they_break()
    {
        var world = await World.Make(app);
        var name = $"visit-{world.Workspace.Id:N}.example";
        var added = await Add(world, name);
        ((bool)added["isVerified"]!, (bool)added["isApex"]!).ShouldBe((false, true));
        added["records"]!.AsArray().Select(r => (string)r!["type"]!).ShouldBe(["A", "TXT"]);

        app.Names.Set(name, "A 192.0.2.80");
        var first = await Check(world, added);
        ((bool)first["isVerified"]!).ShouldBeFalse();
        ((string)first["records"]![0]!["text"]!).ShouldBe("Points to 192.0.2.80. Replace that with 203.0.113.10 and 203.0.113.11.");
        (await Send(world, name)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);

        app.Names.Set(name, "A 203.0.113.10", "A 203.0.113.11");
        app.Names.Set("_cursus." + name, "TXT " + ProofOf(added));
        var good = await Check(world, added);
        ((bool)good["isVerified"]!, good["failingSince"]).ShouldBe((true, null));
        var link = await World.Read(await Send(world, name));
        (await world.Visit((string)link["slug"]!, host: name)).StatusCode.ShouldBe(HttpStatusCode.Found);

        app.Names.Set(name, "A 192.0.2.80");
        var broken = await Check(world, added);
        ((bool)broken["isVerified"]!).ShouldBeTrue();
        broken["failingSince"].ShouldNotBeNull();
        (await world.Visit((string)link["slug"]!, host: name)).StatusCode.ShouldBe(HttpStatusCode.Found, "visitors who still arrive are led on");
    }

    [Fact]
    public async Task A_domain_moves_to_the_workspace_whose_proof_stands_and_not_before_the_old_one_is_gone()
    {
        var (old, heir) = (await World.Make(app), await World.Make(app));
        var name = $"go.moves-{old.Workspace.Id:N}.example";
        var held = await Add(old, name);
        held["records"]![0]!["type"]!.ToString().ShouldBe("CNAME");
        app.Names.Set(name, "CNAME edge.cursus.example");
        app.Names.Set("_cursus." + name, "TXT " + ProofOf(held));
        ((bool)(await Check(old, held))["isVerified"]!).ShouldBeTrue();

        var wanted = await Add(heir, name);
        app.Names.Set("_cursus." + name, "TXT " + ProofOf(held), "TXT " + ProofOf(wanted));
        var refused = await Check(heir, wanted);
        ((bool)refused["isVerified"]!).ShouldBeFalse();
        ((string)refused["records"]![1]!["text"]!).ShouldContain("another workspace");

        app.Names.Set("_cursus." + name, "TXT " + ProofOf(wanted));
        ((bool)(await Check(heir, wanted))["isVerified"]!).ShouldBeTrue();
        ((bool)(await old.Get($"/api/v1/domains/{held["id"]}"))["isVerified"]!).ShouldBeFalse();
        (await Send(heir, name)).StatusCode.ShouldBe(HttpStatusCode.Created);
    }

    [Fact]
    public async Task A_name_in_other_letters_is_stored_for_DNS_and_shown_for_people()
    {
        var world = await World.Make(app);
        var added = await Add(world, $"sternführung-{world.Workspace.Id:N}.example");
        ((string)added["name"]!).ShouldStartWith("xn--");
        ((string)added["shown"]!).ShouldStartWith("sternführung-");
    }

    [Fact]
    public async Task The_page_behind_a_destination_is_looked_at()
    {
        await using var sites = await TestSites.Start();
        var world = await World.Make(app);
        var page = await Look(world, sites.At("/page"));
        ((string)page["state"]!, (string)page["title"]!, (string)page["description"]!, (string)page["picture"]!).ShouldBe(
            ("answers", "Geminids night", "A hundred meteors", sites.At("/sky.png"))
        );
        ((string)(await Look(world, sites.At("/bare")))["title"]!).ShouldBe("Plain & simple");
        ((string)(await Look(world, sites.At("/gone")))["state"]!).ShouldBe("refuses");
        ((string)(await Look(world, "http://no-such-host.example/"))["state"]!).ShouldBe("silent");
        ((string)(await Look(world, sites.At("/to?at=" + Uri.EscapeDataString(sites.At("/page", world.Domain)))))["state"]!).ShouldBe("loops");
    }

    [Fact]
    public async Task A_destination_that_leads_back_through_another_site_is_refused_and_its_own_link_is_not_visited()
    {
        await using var sites = await TestSites.Start();
        var world = await World.Make(app);
        var own = World.Slug(await world.Send(), 0);
        var around = sites.At("/to?at=" + Uri.EscapeDataString($"http://{world.Domain}/{own}"));
        foreach (
            var refused in new[]
            {
                await world.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(p => p["destination"] = around), Cancel),
                await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = around }, Cancel),
            }
        )
        {
            refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
            ((string)(await World.Read(refused))["code"]!).ShouldBe("destination-loop");
        }

        var preview = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(p => p["destination"] = around), Cancel)
        );
        preview["errors"]!["destination"]!.ToJsonString().ShouldContain(world.Domain);
        (await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = sites.At("/slow") }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Created,
            "a slow page is no reason not to send"
        );
        await app.Shipped();
        (await world.Get("/api/v1/links"))["items"]!.AsArray().Sum(l => (int)l!["clicks"]!).ShouldBe(0);
    }

    private static async Task<JsonNode> Look(World world, string address)
    {
        var answer = await world.Editor.GetAsync("/api/v1/destinations/look?address=" + Uri.EscapeDataString(address), Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static string ProofOf(JsonNode domain) => (string)domain["records"]![1]!["expected"]![0]!;

    private static async Task<JsonNode> Add(World world, string name)
    {
        var answer = await world.Owner.PostAsJsonAsync("/api/v1/domains", new { name }, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Created, await answer.Content.ReadAsStringAsync(Cancel));
        return await World.Read(answer);
    }

    private static async Task<JsonNode> Check(World world, JsonNode domain) =>
        await World.Read(await world.Owner.PostAsync($"/api/v1/domains/{domain["id"]}/check", null, Cancel));

    private static Task<HttpResponseMessage> Send(World world, string domain) =>
        world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "https://www.northmoor.example/", domain }, Cancel);
}
