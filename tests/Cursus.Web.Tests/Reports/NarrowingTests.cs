using System.Net.Http.Json;

namespace Cursus.Web.Tests.Reports;

public class NarrowingTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task An_answer_says_by_name_what_it_is_narrowed_to()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var link = post["placements"]![0]!["link"]!;
        var narrowed = await Narrowed(
            world,
            $"campaign=winter-members&channel=night-letter&channel=perch&post={post["id"]}&link={link["id"]}&country=GB&network=own&elsewhere=own-channel&scan=scanned&browser=Firefox&language="
        );
        narrowed.ShouldBe(
            [
                "browser: Firefox",
                "campaign: Winter members",
                "channel: Night Letter",
                "channel: Perch",
                "country: United Kingdom",
                "language: none",
                $"link: {world.Domain}/{link["slug"]}",
                "network: own site",
                "post: Geminids night",
                "scan: by QR code",
                "elsewhere: on its own channel",
            ],
            ignoreOrder: true
        );
    }

    [Fact]
    public async Task What_another_workspace_calls_its_things_is_not_told()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var post = await other.Send();
        var link = post["placements"]![0]!["link"]!;
        (await Narrowed(world, $"post={post["id"]}&link={link["id"]}")).ShouldBe([$"post: {post["id"]}", $"link: {link["id"]}"], ignoreOrder: true);
    }

    [Fact]
    public async Task A_shared_view_says_its_question_with_names_instead_of_keys()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var view = await World.Read(
            await world.Editor.PostAsJsonAsync(
                "/api/v1/views",
                new { name = "Letters", question = $"by=channel&campaign=winter-members&post={post["id"]}" },
                Cancel
            )
        );
        var share = await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", new { name = "The trustees" }, Cancel));
        var shared = await World.Read(await app.CreateClient().GetAsync($"/api/v1/shared/{share["secret"]}", Cancel));
        ((string)shared["words"]!).ShouldBe("Which channel brought the most clicks for campaign Winter members, post Geminids night?");
    }

    private static async Task<List<string>> Narrowed(World world, string filters) =>
        [.. (await world.Get($"/api/v1/reports/breakdown?by=channel&{filters}"))["narrowed"]!.AsArray().Select(n => $"{n!["filter"]}: {n["label"]}")];
}
