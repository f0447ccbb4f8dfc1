using System.Net.ServerSentEvents;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Web.Clicks;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>"Did it work?" is answered without asking again.</summary>
public class LiveClicksTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_click_arrives_at_once_at_its_own_workspace_and_at_no_other()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var link = (await mine.Send())["placements"]![0]!["link"]!;
        var foreign = (await other.Send())["placements"]![0]!["link"]!;
        await using var watched = await Watching.From(mine.Viewer);
        ((int)(await watched.Next("recent"))["people"]!).ShouldBe(0);

        await other.Visit((string)foreign["slug"]!);
        await mine.Visit((string)link["slug"]!, r => r.Headers.Add("X-Forwarded-For", "203.0.113.7"));
        var arrivals = await watched.Next("arrivals");
        ((int)arrivals["people"]!).ShouldBe(1);
        var arrived = arrivals["links"]!.AsArray().ShouldHaveSingleItem()!;
        ((string)arrived["link"]!, (int)arrived["people"]!, (string)arrived["device"]!, (string)arrived["country"]!).ShouldBe(
            ((string)link["id"]!, 1, "computer", "")
        );
    }

    [Fact]
    public async Task A_test_open_is_told_as_the_teams_and_not_counted()
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]![0]!["link"]!;
        await using var watched = await Watching.From(world.Viewer);
        await watched.Next("recent");

        var opening = await app.CreateClient(new() { AllowAutoRedirect = false })
            .SendAsync(
                new HttpRequestMessage(HttpMethod.Get, $"/api/v1/links/{link["id"]}/open")
                {
                    Headers = { Authorization = world.Viewer.DefaultRequestHeaders.Authorization },
                },
                Cancel
            );
        await world.Visit(opening.Headers.Location!.PathAndQuery.TrimStart('/'));
        var arrivals = await watched.Next("arrivals");
        ((int)arrivals["people"]!, (int)arrivals["links"]![0]!["team"]!).ShouldBe((0, 1));
    }

    [Fact]
    public void Links_are_told_with_the_most_recent_last_and_by_their_last_click()
    {
        var (workspace, now) = (Guid.NewGuid(), SystemClock.Instance.GetCurrentInstant());
        var live = new LiveClicks(SystemClock.Instance);
        using var watch = live.Begin(workspace);
        var (poster, leaflet) = (Guid.NewGuid(), Guid.NewGuid());
        StoredClick Click(Guid link, int secondsAgo, string device) =>
            new(link, workspace, now - Duration.FromSeconds(secondsAgo), new EnrichedClick(ClickKind.Person, 1, "", device, "", "", "", ""));

        live.Tell([
            Click(poster, 9, "tablet"),
            Click(poster, 1, "phone"),
            Click(leaflet, 5, "computer"),
            Click(leaflet, 200, "watch") with
            {
                WorkspaceId = Guid.NewGuid(),
            },
        ]);

        watch.Arrivals.TryRead(out var arrivals).ShouldBeTrue();
        arrivals!.Links.Select(l => (l.Link, l.People, l.Device)).ShouldBe([(leaflet, 1, "computer"), (poster, 2, "phone")]);
    }

    private sealed class Watching(HttpResponseMessage response, IAsyncEnumerator<SseItem<string>> events) : IAsyncDisposable
    {
        public static async Task<Watching> From(HttpClient member)
        {
            var response = await member.GetAsync("/api/v1/clicks/live", HttpCompletionOption.ResponseHeadersRead, Cancel);
            response.Content.Headers.ContentType!.MediaType.ShouldBe("text/event-stream");
            var events = SseParser.Create(await response.Content.ReadAsStreamAsync(Cancel)).EnumerateAsync(Cancel).GetAsyncEnumerator(Cancel);
            return new Watching(response, events);
        }

        public async Task<JsonNode> Next(string kind)
        {
            do
            {
                (await events.MoveNextAsync().AsTask().WaitAsync(TimeSpan.FromSeconds(30), Cancel)).ShouldBeTrue();
            } while (events.Current.EventType != kind);
            return JsonNode.Parse(events.Current.Data)!;
        }

        public async ValueTask DisposeAsync()
        {
            response.Dispose();
            await Task.CompletedTask;
        }
    }
}
