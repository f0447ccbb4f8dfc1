using System.Net.Http.Json;
using Cursus.Edge;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.DependencyInjection;
using Npgsql;

namespace Cursus.Web.Tests.Edge;

/// <summary>Visitors who come while an edge that has just been started still reads its links.</summary>
public class UnloadedLinksTests(CursusApp app)
{
    [Fact]
    public async Task They_are_led_on_from_the_database_and_counted()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        var edge = Starting(app.Services.GetRequiredService<NpgsqlDataSource>());
        foreach (var typed in new[] { slug, slug.ToUpperInvariant() + "/" })
        {
            var visit = await Visit(edge, world.Domain, typed);
            (visit.StatusCode, visit.Headers.Location.ToString()).ShouldBe((302, (await world.Visit(slug)).Headers.Location!.OriginalString));
        }

        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(4);
    }

    [Fact]
    public async Task By_an_address_that_the_link_had_before_they_come_to_where_it_leads_now()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { slug = "renamed" }, TestContext.Current.CancellationToken)
        ).EnsureSuccessStatusCode();
        var visit = await Visit(Starting(app.Services.GetRequiredService<NpgsqlDataSource>()), world.Domain, (string)link["slug"]!);
        visit.Headers.Location.ToString().ShouldBe((await world.Visit("renamed")).Headers.Location!.OriginalString);
    }

    [Fact]
    public async Task What_nobody_made_is_not_found_and_what_can_be_no_slug_is_not_asked_for()
    {
        var world = await World.Make(app);
        (await Visit(Starting(app.Services.GetRequiredService<NpgsqlDataSource>()), world.Domain, "nobody-made-this")).StatusCode.ShouldBe(404);
        await using var away = Away();
        (await Visit(Starting(away), world.Domain, "a/b/c")).StatusCode.ShouldBe(404);
    }

    [Fact]
    public async Task Where_the_database_is_away_as_well_they_are_asked_to_come_again()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        await using var away = Away();
        var visit = await Visit(Starting(away), world.Domain, slug);
        (visit.StatusCode, visit.Headers.RetryAfter.ToString()).ShouldBe((503, "2"));
    }

    /// <summary>An edge that knows its domains and none of its links.</summary>
    private EdgeAnswer Starting(NpgsqlDataSource database)
    {
        var links = new LinkTable();
        var feed = ActivatorUtilities.CreateInstance<LinkFeed>(app.Services, database, links);
        return ActivatorUtilities.CreateInstance<EdgeAnswer>(app.Services, links, new UnloadedLinks(feed));
    }

    private static NpgsqlDataSource Away() => NpgsqlDataSource.Create("Host=127.0.0.1;Port=1;Timeout=1");

    private static async Task<HttpResponse> Visit(EdgeAnswer edge, string domain, string path)
    {
        var context = new DefaultHttpContext
        {
            Request =
            {
                Method = "GET",
                Scheme = "http",
                Host = new(domain),
                Path = $"/{path}",
            },
        };
        context.Request.Headers.UserAgent = $"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/{Guid.NewGuid():N}";
        await edge.Answer(context.Features);
        return context.Response;
    }
}
