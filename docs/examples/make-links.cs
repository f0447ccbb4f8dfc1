using System.Net.Http.Headers;
using System.Text.Json.Nodes;

using var client = new HttpClient { BaseAddress = new Uri(Environment.GetEnvironmentVariable("CURSUS")!) };
client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", Environment.GetEnvironmentVariable("CURSUS_TOKEN"));
client.DefaultRequestHeaders.Add("Idempotency-Key", Guid.NewGuid().ToString());

var post = new JsonObject
{
    ["title"] = "Geminids night",
    ["destination"] = "https://www.northmoor.example/geminids",
    ["campaign"] = "winter-members",
    ["placements"] = new JsonArray(new JsonObject { ["channel"] = "perch" }, new JsonObject { ["channel"] = "guildhall" }),
};
var answer = await client.PostAsync("/api/v1/posts", new StringContent(post.ToJsonString(), new MediaTypeHeaderValue("application/json")));
answer.EnsureSuccessStatusCode();

var made = JsonNode.Parse(await answer.Content.ReadAsStringAsync())!;
foreach (var placement in made["placements"]!.AsArray())
{
    Console.WriteLine(placement!["link"]!["shortUrl"]);
}
