using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Clicks.Sums;

namespace Cursus.Web.Tests.Codes;

/// <summary>Scans are counted apart from clicks, each code by itself.</summary>
public sealed class ScanCountingTests(CursusApp app) : IClassFixture<CursusApp>
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Scans_and_clicks_of_one_link_are_told_apart_in_every_report()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var (link, slug) = ((string)post["placements"]![0]!["link"]!["id"]!, World.Slug(post, 0));
        var made = await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/links/{link}/codes", new { name = "Station" }, Cancel));
        made["codes"]!.AsArray().Select(c => ((int)c!["number"]!, (string)c["name"]!)).ShouldBe([(1, "Own code"), (2, "Station")]);
        await world.Editor.PostAsJsonAsync($"/api/v1/links/{link}/codes", new { name = "Library" }, Cancel);

        string[] visits =
        [
            slug,
            slug,
            $"{slug}/1",
            $"{slug.ToUpperInvariant()}/2",
            $"{slug.ToUpperInvariant()}/2",
            $"{slug}/2",
            $"{slug}/3?utm_id=7",
        ];
        foreach (var visit in visits)
        {
            var answer = await world.Visit(visit);
            answer.StatusCode.ShouldBe(HttpStatusCode.Redirect, visit);
            answer.Headers.Location!.AbsolutePath.ShouldBe("/events/geminids-night", "the number is stripped before the destination");
        }

        (await world.Visit($"{slug}/9999")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        var byScan = await world.Breakdown("by=scan");
        Rows(byScan).ShouldBe([("scanned", 5), ("clicked", 2)]);
        var byCode = await world.Get("/api/v1/reports/breakdown?by=code");
        byCode["rows"]!
            .AsArray()
            .Select(r => ((string)r!["label"]!, (int)r["clicks"]!))
            .OrderByDescending(r => r.Item2)
            .ThenBy(r => r.Item1, StringComparer.Ordinal)
            .ShouldBe([("Geminids night · Station", 3), ("No QR code", 2), ("Geminids night · Library", 1), ("Geminids night · own code", 1)]);
        Rows(await world.Get($"/api/v1/reports/breakdown?by=channel&scan=scanned")).ShouldBe([("guildhall", 5)]);
        Rows(await world.Get($"/api/v1/reports/breakdown?by=channel&code={link}/2")).ShouldBe([("guildhall", 3)]);
        (await world.Get($"/api/v1/links/{link}/codes"))["codes"]!.AsArray().Select(c => (int)c!["scans"]!).ShouldBe([1, 3, 1]);
        ((int)(await world.Get($"/api/v1/links/{link}"))["clicks"]!).ShouldBe(7);
        var csv = await world.Viewer.GetStringAsync("/api/v1/reports/clicks.csv?bom=false&scan=scanned", Cancel);
        var code = Array.IndexOf(csv.Split("\r\n")[0].Split(','), "code");
        csv.Split("\r\n", StringSplitOptions.RemoveEmptyEntries).Skip(1).Select(l => l.Split(',')[code]).Order().ShouldBe(["1", "2", "2", "2", "3"]);

        await using var source = app.DataSource();
        (await new RollUps(source).Check(Cancel)).Differences.ShouldBeEmpty("the sums agree with the clicks themselves");
    }

    [Fact]
    public async Task A_number_is_never_given_twice_and_what_is_printed_still_leads_and_counts()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var (link, slug) = ((string)post["placements"]![0]!["link"]!["id"]!, World.Slug(post, 0));
        var path = $"/api/v1/links/{link}/codes";
        await world.Editor.PostAsJsonAsync(path, new { name = "Poster A" }, Cancel);
        (await world.Editor.PostAsJsonAsync(path, new { name = "poster a" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await world.Editor.PostAsJsonAsync(path, new { name = " " }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await world.Editor.DeleteAsync($"{path}/2", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Editor.DeleteAsync($"{path}/1", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound, "the own code is always there");
        var again = await World.Read(await world.Editor.PostAsJsonAsync(path, new { name = "Poster A" }, Cancel));
        again["codes"]!.AsArray().Select(c => (int)c!["number"]!).ShouldBe([1, 3]);
        (await world.Editor.PatchAsJsonAsync($"{path}/3", new { name = "Poster C" }, Cancel)).EnsureSuccessStatusCode();
        (await world.Viewer.PostAsJsonAsync(path, new { name = "Mine" }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await world.Visit($"{slug}/2")).StatusCode.ShouldBe(HttpStatusCode.Redirect);
        (await world.Breakdown("by=code"))["rows"]!.AsArray().Select(r => (string)r!["label"]!).ShouldBe(["Geminids night · Poster A"]);
    }

    private static IEnumerable<(string Key, int Clicks)> Rows(JsonNode report) =>
        report["rows"]!.AsArray().Select(r => ((string)r!["key"]!, (int)r["clicks"]!)).Where(r => r.Item2 > 0);
}
