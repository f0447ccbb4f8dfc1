using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Batches;

/// <summary>What tests do with lists.</summary>
internal static class BatchSteps
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public static async Task<JsonNode> Upload(World world, string text) =>
        await World.Read(await world.Editor.PostAsync("/api/v1/batches?name=list.csv", new StringContent(text), Cancel));

    public static async Task<JsonNode> Preview(World world, JsonNode batch, object request) =>
        await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/preview", request, Cancel));

    /// <summary>Makes the links of a list; the batch afterwards.</summary>
    public static async Task<JsonNode> Made(World world, JsonNode batch, object request)
    {
        var answer = await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", request, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.Accepted, await answer.Content.ReadAsStringAsync(Cancel));
        var after = await Over(world, batch);
        ((string)after["state"]!).ShouldBe("done", (string?)after["failure"]);
        return after;
    }

    /// <summary>The batch when it is no longer being made.</summary>
    public static async Task<JsonNode> Over(World world, JsonNode batch)
    {
        while (true)
        {
            var now = await World.Read(await world.Editor.GetAsync($"/api/v1/batches/{batch["id"]}", Cancel));
            if ((string)now["state"]! != "running")
            {
                return now;
            }

            await Task.Delay(50, Cancel);
        }
    }

    public static Task<HttpResponseMessage> Undo(World world, JsonNode batch) =>
        world.Editor.PostAsync($"/api/v1/batches/{batch["id"]}/undo", null, Cancel);

    /// <summary>The link that has this slug now.</summary>
    public static async Task<JsonNode> LinkOf(World world, string slug) =>
        (await world.Get($"/api/v1/links?query={slug}&limit=100"))["items"]!.AsArray().Single(l => (string)l!["slug"]! == slug)!;
}
