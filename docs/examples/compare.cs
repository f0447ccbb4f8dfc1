using System.Net.Http.Headers;
using System.Text.Json.Nodes;

using var client = new HttpClient { BaseAddress = new Uri(Environment.GetEnvironmentVariable("CURSUS")!) };
client.DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", Environment.GetEnvironmentVariable("CURSUS_TOKEN"));

var report = JsonNode.Parse(await client.GetStringAsync("/api/v1/reports/breakdown?by=channel&period=last-28"))!;
foreach (var row in report["rows"]!.AsArray())
{
    Console.WriteLine($"{row!["label"]}: {row["clicks"]}");
}
