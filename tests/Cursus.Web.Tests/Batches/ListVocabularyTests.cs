using System.Net;
using System.Net.Http.Json;
using System.Text;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Batches;

/// <summary>A workspace can begin with the words of its old links.</summary>
public class ListVocabularyTests(CursusApp app)
{
    private const string Old = """
        url,title
        https://www.northmoor.example/?utm_source=harbour-radio&utm_medium=audio&utm_campaign=harvest-moon,One
        https://www.northmoor.example/?utm_source=harbour-radio&utm_medium=audio&utm_campaign=harvest-moon,Two
        https://www.northmoor.example/?utm_source=Harbour_Radio&utm_medium=audio&utm_campaign=Harvest Moon,Three
        https://www.northmoor.example/?utm_source=perch&utm_medium=social&utm_campaign=winter-members,Four
        """;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task What_is_chosen_of_a_lists_words_is_added_and_proposed_no_more()
    {
        var world = await World.Make(app);
        var batch = await Upload(world);
        var proposal = await Proposal(world, batch);
        proposal["channels"]!
            .AsArray()
            .Select(c => $"{c!["name"]} {c["source"]} {c["medium"]} {c["links"]} {c["isKnown"]}")
            .ShouldBe(["Harbour radio harbour-radio audio 3 false", "Perch perch social 1 true"]);
        proposal["campaigns"]!.AsArray().Select(c => $"{c!["value"]} {c["isKnown"]}").ShouldBe(["harvest-moon false", "winter-members true"]);
        proposal["merges"]!
            .AsArray()
            .Select(m => $"{m!["field"]} {m["from"]} {m["into"]}")
            .ShouldBe(["source Harbour_Radio harbour-radio", "campaign Harvest Moon harvest-moon"], ignoreOrder: true);

        var added = await Add(
            world.Owner,
            batch,
            new
            {
                channels = new[]
                {
                    new
                    {
                        name = "Harbour Radio",
                        source = "harbour-radio",
                        medium = "audio",
                    },
                },
                campaigns = new[] { new { name = "Harvest moon", value = "harvest-moon" } },
                merges = new[]
                {
                    new
                    {
                        field = "source",
                        from = "Harbour_Radio",
                        into = "harbour-radio",
                    },
                    new
                    {
                        field = "campaign",
                        from = "Harvest Moon",
                        into = "harvest-moon",
                    },
                },
            }
        );

        added.StatusCode.ShouldBe(HttpStatusCode.OK, await added.Content.ReadAsStringAsync(Cancel));
        (await world.Get("/api/v1/channels"))["items"]!.AsArray().ShouldContain(c => (string)c!["key"]! == "harbour-radio");
        var again = await Proposal(world, batch);
        again["channels"]!.AsArray().ShouldAllBe(c => (bool)c!["isKnown"]!);
        again["campaigns"]!.AsArray().ShouldAllBe(c => (bool)c!["isKnown"]!);
        again["merges"]!.AsArray().ShouldBeEmpty();

        var preview = await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch}/preview", new { }, Cancel));
        preview["rows"]!
            .AsArray()
            .Select(r => (string?)r!["channel"])
            .ShouldBe(
                ["harbour-radio", "harbour-radio", "harbour-radio", "perch"],
                "each link finds its channel by its source and medium, whatever the spelling"
            );
    }

    [Fact]
    public async Task One_that_cannot_be_added_keeps_all_from_it()
    {
        var world = await World.Make(app);
        var batch = await Upload(world);
        var refused = await Add(
            world.Owner,
            batch,
            new
            {
                channels = new[]
                {
                    new
                    {
                        name = "Harbour Radio",
                        source = "harbour-radio",
                        medium = "audio",
                    },
                },
                merges = new[]
                {
                    new
                    {
                        field = "campaign",
                        from = "Harvest Moon",
                        into = "harvest-moon",
                    },
                },
            }
        );
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await refused.Content.ReadAsStringAsync(Cancel)).ShouldContain("merges[0].into");
        (await world.Get("/api/v1/channels"))["items"]!.AsArray().ShouldNotContain(c => (string)c!["key"]! == "harbour-radio");
    }

    [Fact]
    public async Task Only_an_owner_adds_them_and_nobody_of_another_workspace_sees_them()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        var batch = await Upload(world);
        (await Add(world.Editor, batch, new { campaigns = new[] { new { name = "Harvest moon", value = "harvest-moon" } } })).StatusCode.ShouldBe(
            HttpStatusCode.Forbidden
        );
        (await Add(other.Owner, batch, new { campaigns = new[] { new { name = "Harvest moon", value = "harvest-moon" } } })).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        (await other.Editor.PostAsJsonAsync($"/api/v1/batches/{batch}/vocabulary/proposal", new { }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
    }

    private static async Task<Guid> Upload(World world) =>
        (Guid)
            (
                await World.Read(
                    await world.Editor.PostAsync("/api/v1/batches?name=old.csv", new StringContent(Old, Encoding.UTF8, "text/csv"), Cancel)
                )
            )["id"]!;

    private static async Task<JsonNode> Proposal(World world, Guid batch) =>
        await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch}/vocabulary/proposal", new { }, Cancel));

    private static Task<HttpResponseMessage> Add(HttpClient client, Guid batch, object wanted) =>
        client.PostAsJsonAsync($"/api/v1/batches/{batch}/vocabulary", wanted, Cancel);
}
