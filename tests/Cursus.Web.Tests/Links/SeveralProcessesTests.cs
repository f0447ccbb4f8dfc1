using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Microsoft.EntityFrameworkCore;

namespace Cursus.Web.Tests.Links;

/// <summary>A routed link that several processes answer.</summary>
public class SeveralProcessesTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_visitor_gets_the_same_page_of_a_split_from_each_process_without_a_cookie()
    {
        var (world, slug, _) = await Routed(
            """
            {"otherwise": {"to": [
                {"destination": "https://www.northmoor.example/a", "weight": 50},
                {"destination": "https://www.northmoor.example/b", "weight": 30},
                {"destination": "https://www.northmoor.example/c", "weight": 20}]}}
            """
        );
        await using var beside = await Beside();
        var pages = new HashSet<string>();
        foreach (var visitor in Enumerable.Range(0, 60))
        {
            var first = await Page(world, slug, visitor, app);
            (await Page(world, slug, visitor, beside)).ShouldBe(first);
            (await Page(world, slug, visitor, app)).ShouldBe(first);
            pages.Add(first);
        }

        pages.Count.ShouldBe(3);
    }

    [Fact]
    public async Task The_first_people_are_the_same_for_each_process_once_it_has_heard_of_them()
    {
        var (world, slug, link) = await Routed(
            """{"rules": [{"when": {"first": 3}, "to": [{"destination": "https://www.northmoor.example/gift"}]}]}"""
        );
        await using var beside = await Beside();
        foreach (var visitor in new[] { 1, 2 })
        {
            (await Page(world, slug, visitor, app)).ShouldBe("/gift");
        }

        await Heard(link, 2, beside);
        (await Page(world, slug, 3, beside)).ShouldBe("/gift");
        (await Page(world, slug, 4, beside)).ShouldBe("/sale");
        (await Page(world, slug, 1, beside)).ShouldBe("/gift");
        await Heard(link, 3, app);
        (await Page(world, slug, 5, app)).ShouldBe("/sale");
        (await Page(world, slug, 3, app)).ShouldBe("/gift");
    }

    [Fact]
    public async Task People_who_come_to_two_processes_at_once_are_never_too_few_and_at_most_as_many_as_both_let_through()
    {
        var (world, slug, _) = await Routed("""{"rules": [{"when": {"first": 4}, "to": [{"destination": "https://www.northmoor.example/gift"}]}]}""");
        await using var beside = await Beside();
        var pages = await Task.WhenAll(Enumerable.Range(0, 20).Select(visitor => Page(world, slug, visitor, visitor % 2 == 0 ? app : beside)));
        pages.Count(p => p == "/gift").ShouldBeInRange(4, 8);
    }

    private async Task<(World World, string Slug, Guid Link)> Routed(string routes)
    {
        var world = await World.Make(app);
        var wish = new JsonObject { ["destination"] = "https://www.northmoor.example/sale", ["routes"] = JsonNode.Parse(routes) };
        var link = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/links", wish, Cancel));
        return (world, (string)link["slug"]!, (Guid)link["id"]!);
    }

    private async Task<CursusApp> Beside()
    {
        var beside = app.Beside();
        await beside.InitializeAsync();
        return beside;
    }

    private static async Task<string> Page(World world, string slug, int visitor, CursusApp process) =>
        (await world.Visit(slug, r => World.As(r, 900_000 + visitor), through: process)).Headers.Location!.AbsolutePath;

    /// <summary>Waits until so many people are written down, and a process has read who they are.</summary>
    private async Task Heard(Guid link, int people, CursusApp process)
    {
        await using var db = app.Database();
        while (
            await db.Database.SqlQuery<int>($"select count(*)::int as \"Value\" from rule_people where link_id = {link}").SingleAsync(Cancel) < people
        )
        {
            await Task.Delay(50, Cancel);
        }

        await process.Feed.CatchUp();
    }
}
