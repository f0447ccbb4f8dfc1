using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Retargeting;

public sealed class PixelTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task One_paste_sets_a_pixel_up_and_nothing_of_the_code_is_kept()
    {
        var world = await World.Make(app);
        (await world.Owner.PostAsJsonAsync("/api/v1/ad-networks", JsonNode.Parse(Pixels.Picture), Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Created
        );
        var reading = await World.Read(
            await world.Owner.PostAsJsonAsync(
                "/api/v1/pixels/reading",
                new { pasted = "<script>steal()</script><img src='https://px.fairlead.example/hit?p=FL-204417'>" },
                Cancel
            )
        );
        var read = reading["readings"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)read["networkName"]!, (string)read["reference"]!).ShouldBe(("Fairlead", "FL-204417"));
        var added = await World.Read(
            await world.Owner.PostAsJsonAsync(
                "/api/v1/pixels",
                new { network = (string)read["network"]!, reference = (string)read["reference"]! },
                Cancel
            )
        );
        ((string)added["name"]!, (string)added["reference"]!, (int)added["links"]!).ShouldBe(("Fairlead", "FL-204417", 0));
        (await world.Get("/api/v1/pixels")).ToJsonString().ShouldNotContain("steal");
    }

    [Theory]
    [InlineData("""{ "network": "fairlead", "reference": "FL-1" }""", 422, "is no id of Fairlead")]
    [InlineData("""{ "network": "nobody", "reference": "FL-204417" }""", 422, "Choose the pixel’s ad network")]
    [InlineData("""{ "network": "image-pixel", "reference": "javascript:alert(1)" }""", 422, "isn’t a valid pixel address")]
    [InlineData("""{ "network": "fairlead", "reference": "FL-204417", "name": "Twice" }""", 409, "already has this ID")]
    [InlineData("""{ "network": "fairlead", "reference": "FL-204418" }""", 409, "There is already a pixel called “Fairlead”")]
    public async Task A_pixel_that_could_not_fire_is_refused_with_the_reason(string request, int status, string says)
    {
        var world = await World.Make(app);
        await Pixels.SetUp(world);
        var response = await world.Owner.PostAsJsonAsync("/api/v1/pixels", JsonNode.Parse(request), Cancel);
        ((int)response.StatusCode).ShouldBe(status);
        System.Text.RegularExpressions.Regex.Unescape(await response.Content.ReadAsStringAsync(Cancel)).ShouldContain(says);
    }

    [Fact]
    public async Task Owners_define_editors_attach_and_viewers_look()
    {
        var world = await World.Make(app);
        var (pixel, _) = await Pixels.SetUp(world);
        var definition = new { network = "image-pixel", reference = "https://ads.example/p.gif" };
        (await world.Editor.PostAsJsonAsync("/api/v1/pixels", definition, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Editor.DeleteAsync($"/api/v1/pixels/{pixel}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Editor.PostAsJsonAsync("/api/v1/ad-networks", JsonNode.Parse(Pixels.Picture), Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Editor.PatchAsJsonAsync("/api/v1/handoff", new { consent = "off" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Editor.PutAsJsonAsync($"/api/v1/pixels/{pixel}/attachments", new { channels = new[] { "perch" } }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.OK
        );
        (await world.Viewer.PutAsJsonAsync($"/api/v1/pixels/{pixel}/attachments", new { channels = new[] { "perch" } }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await world.Viewer.PostAsync($"/api/v1/pixels/{pixel}/test", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Get($"/api/v1/pixels/{pixel}"))["channels"]!.AsArray().Select(c => (string)c!).ShouldBe(["perch"]);
    }

    [Fact]
    public async Task Another_workspaces_pixels_networks_and_settings_are_out_of_reach()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var (pixel, _) = await Pixels.SetUp(world);
        var post = await other.Send();
        var link = (string)post["placements"]![0]!["link"]!["id"]!;
        foreach (
            var response in new[]
            {
                await other.Owner.GetAsync($"/api/v1/pixels/{pixel}", Cancel),
                await other.Owner.GetAsync($"/api/v1/pixels/{pixel}/audience", Cancel),
                await other.Owner.GetAsync($"/api/v1/pixels/{pixel}/definition", Cancel),
                await other.Owner.PostAsync($"/api/v1/pixels/{pixel}/test", null, Cancel),
                await other.Owner.PatchAsJsonAsync($"/api/v1/pixels/{pixel}", new { name = "Mine" }, Cancel),
                await other.Owner.PutAsJsonAsync($"/api/v1/pixels/{pixel}/attachments", new { channels = new[] { "perch" } }, Cancel),
                await other.Owner.DeleteAsync($"/api/v1/pixels/{pixel}", Cancel),
                await other.Owner.PutAsJsonAsync("/api/v1/ad-networks/fairlead", JsonNode.Parse(Pixels.Picture), Cancel),
                await other.Owner.DeleteAsync("/api/v1/ad-networks/fairlead", Cancel),
                await world.Owner.PutAsJsonAsync($"/api/v1/posts/{(string)post["id"]!}/pixels", new { pixels = new[] { pixel } }, Cancel),
            }
        )
        {
            response.StatusCode.ShouldBe(HttpStatusCode.NotFound, response.RequestMessage!.RequestUri!.ToString());
        }

        foreach (
            var response in new[]
            {
                await other.Editor.PatchAsJsonAsync($"/api/v1/links/{link}", new { pixels = new[] { pixel } }, Cancel),
                await other.Editor.PutAsJsonAsync($"/api/v1/posts/{(string)post["id"]!}/pixels", new { pixels = new[] { pixel } }, Cancel),
                await other.Editor.PostAsJsonAsync("/api/v1/posts", World.Post(p => p["pixels"] = new JsonArray(pixel)), Cancel),
                await other.Editor.PostAsJsonAsync(
                    "/api/v1/links",
                    new { destination = "https://www.northmoor.example/", pixels = new[] { pixel } },
                    Cancel
                ),
            }
        )
        {
            response.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        }

        (await World.Read(await other.Owner.GetAsync("/api/v1/pixels", Cancel)))["total"]!.GetValue<int>().ShouldBe(0);
        (await World.Read(await other.Owner.GetAsync("/api/v1/ad-networks", Cancel)))["items"]!.AsArray().ShouldAllBe(n => !(bool)n!["isOwn"]!);
        (await world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { line = "Ours alone" }, Cancel)).EnsureSuccessStatusCode();
        (await World.Read(await other.Owner.GetAsync("/api/v1/handoff", Cancel)))["line"].ShouldBeNull();
        (await other.Owner.GetStringAsync("/api/v1/handoff/page", Cancel)).ShouldNotContain("Ours alone");
    }

    [Fact]
    public async Task A_network_with_pixels_stays_and_still_fits_them()
    {
        var world = await World.Make(app);
        await Pixels.SetUp(world);
        (await world.Owner.DeleteAsync("/api/v1/ad-networks/fairlead", Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        var narrower = JsonNode.Parse(Pixels.Picture)!;
        narrower["idPattern"] = "FL-9[0-9]{5}";
        (await world.Owner.PutAsJsonAsync("/api/v1/ad-networks/fairlead", narrower, Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        var renamed = JsonNode.Parse(Pixels.Picture)!;
        renamed["name"] = "Fairlead Ads";
        (await world.Owner.PutAsJsonAsync("/api/v1/ad-networks/fairlead", renamed, Cancel)).StatusCode.ShouldBe(HttpStatusCode.OK);
        (await world.Get("/api/v1/pixels"))["items"]!.AsArray().Select(p => (string)p!["networkName"]!).ShouldContain("Fairlead Ads");
        (await world.Owner.DeleteAsync("/api/v1/ad-networks/image-pixel", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Fact]
    public async Task A_pixel_fires_for_link_post_campaign_channel_and_domain_and_the_link_says_why()
    {
        var world = await World.Make(app);
        var (fairlead, beaconry) = await Pixels.SetUp(world);
        var ofLink = await Pixels.Add(world, "image-pixel", "https://ads.example/p.gif", "Of the link");
        var post = await world.Send(p =>
        {
            p["pixels"] = new JsonArray(fairlead);
            p["placements"]![0]!["pixels"] = new JsonArray(ofLink);
        });
        (
            await world.Editor.PutAsJsonAsync(
                $"/api/v1/pixels/{beaconry}/attachments",
                new
                {
                    campaigns = new[] { "winter-members" },
                    channels = new[] { "guildhall" },
                    domains = new[] { world.Domain },
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var link = await world.Get($"/api/v1/links/{(string)post["placements"]![0]!["link"]!["id"]!}");
        link["pixels"]!.AsArray().Select(p => (string)p!).ShouldBe([ofLink]);
        link["firingPixels"]!
            .AsArray()
            .Select(p => $"{(string)p!["name"]!} by {(string)p["place"]!}")
            .ShouldBe(["Beaconry by campaign", "Beaconry by channel", "Beaconry by domain", "Fairlead by post", "Of the link by link"]);
        (await world.Get($"/api/v1/pixels/{fairlead}"))["links"]!.GetValue<int>().ShouldBe(2);

        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{(string)link["id"]!}", new { pixels = Array.Empty<string>() }, Cancel)
        ).EnsureSuccessStatusCode();
        (await world.Get($"/api/v1/links/{(string)link["id"]!}"))["pixels"]!.AsArray().ShouldBeEmpty();
    }

    [Fact]
    public async Task An_audience_is_defined_by_what_the_slugs_have_in_common()
    {
        var world = await World.Make(app);
        var (pixel, _) = await Pixels.SetUp(world);
        var post = await world.Send(p =>
        {
            p["pixels"] = new JsonArray(pixel);
            p["placements"]![0]!["slug"] = "geminids-guildhall";
            p["placements"]![1]!["slug"] = "geminids-perch";
        });
        await world.Send(p => p["placements"]![0]!["slug"] = "red-lamps");
        var definition = await world.Get($"/api/v1/pixels/{pixel}/definition?post={(string)post["id"]!}");
        definition["contains"]!.AsArray().Select(c => (string)c!).ShouldBe([$"{world.Domain}/geminids"]);
        ((string)definition["name"]!, (int)definition["linksWithoutPixel"]!).ShouldBe(("Geminids night, by Fairlead", 0));
        var campaign = await world.Get($"/api/v1/pixels/{pixel}/definition?campaign=winter-members");
        ((int)campaign["links"]!, (int)campaign["linksWithoutPixel"]!).ShouldBe((4, 2));
        (await world.Viewer.GetAsync($"/api/v1/pixels/{pixel}/definition?campaign=nobody", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }
}
