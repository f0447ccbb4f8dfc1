using System.Collections.Concurrent;
using System.Globalization;
using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Web.Outgoing;
using Cursus.Web.Webhooks;
using Microsoft.AspNetCore.Http;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;

namespace Cursus.Web.Tests.Webhooks;

/// <summary>What other programs are told, that they can trust it, and what happens when they don't listen.</summary>
public sealed class WebhookTests(CursusApp app) : IAsyncLifetime
{
    private readonly ConcurrentQueue<(Dictionary<string, string> Headers, string Body)> arrived = new();
    private TestSites sites = null!;
    private int status = StatusCodes.Status204NoContent;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    public async ValueTask InitializeAsync()
    {
        sites = await TestSites.Start();
        sites.Pages["receiver.localhost/cursus"] = async context =>
        {
            var body = await new StreamReader(context.Request.Body).ReadToEndAsync(Cancel);
            arrived.Enqueue((context.Request.Headers.ToDictionary(h => h.Key.ToLowerInvariant(), h => h.Value.ToString()), body));
            context.Response.StatusCode = status;
        };
    }

    public ValueTask DisposeAsync() => sites.DisposeAsync();

    [Fact]
    public async Task A_program_is_told_of_new_links_and_changed_destinations_and_can_check_that_it_is_true()
    {
        var (world, other) = (await World.Make(app), await World.Make(app));
        await world.Send();
        var secret = await Add(world, "link-created", "destination-changed");
        var post = await world.Send();
        await other.Send();
        var link = post["placements"]![0]!["link"]!;
        var changed = await world.Editor.PatchAsJsonAsync(
            $"/api/v1/links/{link["id"]}",
            new { destination = "https://www.northmoor.example/elsewhere", title = "Elsewhere" },
            Cancel
        );
        changed.EnsureSuccessStatusCode();
        await world.Editor.PatchAsJsonAsync($"/api/v1/links/{link["id"]}", new { title = "Only the title" }, Cancel);

        await Tell();
        var bodies = arrived.Select(a => JsonNode.Parse(a.Body)!).ToList();
        var made = post["placements"]!.AsArray().Count;
        bodies.Select(b => (string)b["event"]!).Order().ShouldBe(["destination-changed", .. Enumerable.Repeat("link-created", made)]);
        var told = bodies.Single(b => (string)b["event"]! == "destination-changed");
        ((string)told["before"]!).ShouldBe((string)link["destination"]!);
        ((string)told["link"]!["destination"]!).ShouldBe("https://www.northmoor.example/elsewhere");
        ((string)told["link"]!["shortUrl"]!).ShouldBe((string)link["shortUrl"]!);
        ((string)told["workspace"]!["key"]!).ShouldBe(world.Workspace.Key);

        (await Checked(secret, arrived)).ShouldAllBe(isTrue => isTrue);
        (await Checked(secret, arrived.Select(a => (a.Headers, a.Body.Replace("northmoor", "southmoor", StringComparison.Ordinal))))).ShouldAllBe(
            isTrue => !isTrue
        );
        (await Checked("another secret", arrived)).ShouldAllBe(isTrue => !isTrue);
        var late = arrived.Select(a =>
            (
                new Dictionary<string, string>(a.Headers)
                {
                    ["cursus-time"] = $"{long.Parse(a.Headers["cursus-time"], CultureInfo.InvariantCulture) - 301}",
                },
                a.Body
            )
        );
        (await Checked(secret, late)).ShouldAllBe(isTrue => !isTrue);

        await Tell();
        arrived.Count.ShouldBe(made + 1, "each is told once");
    }

    [Fact]
    public async Task A_program_is_told_of_pages_milestones_and_digests_once_and_of_nothing_that_was_there_before()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var (first, second) = ((Guid)post["placements"]![0]!["link"]!["id"]!, (Guid)post["placements"]![1]!["link"]!["id"]!);
        await using var db = app.Database();
        await Clicked(db, first, 1500);
        await Add(world, "page-died", "page-back", "milestone-reached", "digest-ready");
        await Look();
        await Tell();
        arrived.ShouldBeEmpty();

        await Clicked(db, first, 9999);
        await Clicked(db, second, 12_345);
        await db
            .Workspaces.Where(w => w.Id == world.Workspace.Id)
            .ExecuteUpdateAsync(w => w.SetProperty(x => x.DigestToldFor, new LocalDate(2020, 1, 6)), Cancel);
        await Verdict(db, world, 5);
        await Verdict(db, world, 1);
        await Look();
        await Look();
        await Tell();
        var bodies = arrived.Select(a => JsonNode.Parse(a.Body)!).ToList();
        var milestone = bodies.Single(b => (string)b["event"]! == "milestone-reached");
        ((Guid)milestone["link"]!["id"]!, (long)milestone["clicks"]!).ShouldBe((second, 10_000));
        bodies.Count(b => (string)b["event"]! == "page-died").ShouldBe(1);
        bodies.Count(b => (string)b["event"]! == "page-back").ShouldBe(1);
        var isReady = WebhookWatch.ReadyWeek(world.Workspace, SystemClock.Instance.GetCurrentInstant()) is not null;
        bodies.Count(b => (string)b["event"]! == "digest-ready").ShouldBe(isReady ? 1 : 0, "it is told from Monday morning to Wednesday");
    }

    [Fact]
    public async Task What_does_not_arrive_is_tried_again_for_three_days_and_then_the_webhook_is_paused()
    {
        var world = await World.Make(app);
        await Add(world, "link-created");
        status = StatusCodes.Status503ServiceUnavailable;
        var id = await Test(world);
        var clock = new StoppedClock(SystemClock.Instance.GetCurrentInstant() + Duration.FromSeconds(1));
        var tries = 0;
        while (await Next(id) is { } next)
        {
            clock.GoOn(next - clock.GetCurrentInstant() + Duration.FromSeconds(1));
            await Tell(id, clock);
            tries++;
        }

        arrived.Count.ShouldBe(tries);
        tries.ShouldBeInRange(15, 30);
        // The pauses before giving up end within the three days; one more failure after them makes it dead.
        clock.GoOn(Duration.FromHours(7));
        await Resend(world, id, clock);
        var webhook = await Only(world);
        ((string)webhook["pausedWhy"]!).ShouldContain("three days");
        (await world.Owner.PostAsync($"/api/v1/webhooks/{id}/test", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);

        status = StatusCodes.Status200OK;
        (await world.Owner.PatchAsJsonAsync($"/api/v1/webhooks/{id}", new { isPaused = false }, Cancel)).EnsureSuccessStatusCode();
        await Resend(world, id, clock);
        var log = await Read(world, $"webhooks/{id}/deliveries");
        log["items"]![0]!["deliveredAt"].ShouldNotBeNull();
        (await Only(world))["failingSince"].ShouldBeNull();
    }

    [Fact]
    public async Task A_receiver_that_says_it_is_gone_is_paused_at_once_and_told_nothing_meanwhile()
    {
        var world = await World.Make(app);
        await Add(world, "link-created");
        status = StatusCodes.Status410Gone;
        await Test(world);
        await Tell();
        (await Only(world))["pausedAt"].ShouldNotBeNull();
        await world.Send();
        await Tell();
        arrived.Count.ShouldBe(1);
    }

    [Fact]
    public async Task Webhooks_go_to_the_internet_and_by_https_alone()
    {
        var world = await World.Make(app);
        foreach (var address in new[] { "http://www.northmoor.example/hook", "https://10.0.0.7/hook", "https://[::1]/hook", "nonsense", "" })
        {
            var answer = await world.Owner.PostAsJsonAsync("/api/v1/webhooks", new { address, events = new[] { "link-created" } }, Cancel);
            answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity, address);
        }

        var none = await world.Owner.PostAsJsonAsync(
            "/api/v1/webhooks",
            new { address = "https://www.northmoor.example/hook", events = Array.Empty<string>() },
            Cancel
        );
        none.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task The_secret_is_shown_once_and_lies_sealed_in_the_database()
    {
        var world = await World.Make(app);
        var secret = await Add(world, "link-created");
        $"{await Read(world, "webhooks")}".ShouldNotContain(secret);
        await using var db = app.Database();
        (await db.Webhooks.SingleAsync(w => w.WorkspaceId == world.Workspace.Id, Cancel)).Secret.ShouldNotContain(secret);
    }

    /// <summary>What the example of docs/webhooks.md says of messages, run by Node.js.</summary>
    private static async Task<List<bool>> Checked(string secret, IEnumerable<(Dictionary<string, string> Headers, string Body)> messages)
    {
        var docs = await File.ReadAllTextAsync(Repository.Of("docs", "webhooks.md"), Cancel);
        var example = docs.Split("```js\n")[1].Split("```")[0];
        var input = new JsonArray([
            .. messages.Select(m => new JsonObject
            {
                ["headers"] = new JsonObject(m.Headers.Select(h => KeyValuePair.Create(h.Key, (JsonNode?)h.Value))),
                ["body"] = m.Body,
            }),
        ]);
        var script = Path.Combine(Directory.CreateTempSubdirectory("webhook-example-").FullName, "check.mjs");
        await File.WriteAllTextAsync(
            script,
            $"{example}\nconsole.log(JSON.stringify({input.ToJsonString()}.map((m) => isFromCursus({JsonValue.Create(secret).ToJsonString()}, m.headers, m.body))))",
            Cancel
        );
        var said = await Command.Run("node", [script], Cancel);
        return [.. JsonNode.Parse(said.Single())!.AsArray().Select(isTrue => (bool)isTrue!)];
    }

    private async Task<string> Add(World world, params string[] events)
    {
        var answer = await world.Owner.PostAsJsonAsync(
            "/api/v1/webhooks",
            new { address = sites.At("/cursus", "receiver.localhost"), events },
            Cancel
        );
        return (string)(await World.Read(answer))["secret"]!;
    }

    private static async Task<JsonNode> Read(World world, string path) => await World.Read(await world.Owner.GetAsync($"/api/v1/{path}", Cancel));

    private static async Task<JsonNode> Only(World world) => (await Read(world, "webhooks"))["items"]!.AsArray().Single()!;

    private static async Task<Guid> Test(World world)
    {
        var id = (Guid)(await Only(world))["id"]!;
        (await world.Owner.PostAsync($"/api/v1/webhooks/{id}/test", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        return id;
    }

    private async Task Resend(World world, Guid id, IClock clock)
    {
        var last = (string)(await Read(world, $"webhooks/{id}/deliveries"))["items"]![0]!["id"]!;
        (await world.Owner.PostAsync($"/api/v1/webhooks/{id}/deliveries/{last}/resend", null, Cancel)).EnsureSuccessStatusCode();
        await Tell(id, clock);
    }

    private async Task<Instant?> Next(Guid webhook)
    {
        await using var db = app.Database();
        return await db.WebhookDeliveries.Where(d => d.WebhookId == webhook).Select(d => d.NextTryAt).SingleAsync(Cancel);
    }

    private async Task Tell()
    {
        await using var scope = app.Services.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<WebhookSending>().Run(Cancel);
    }

    /// <summary>Sends one webhook what is due at another time.</summary>
    private async Task Tell(Guid webhook, IClock clock)
    {
        await using var db = app.Database();
        await new WebhookReceiver(
            db,
            app.Services.GetRequiredService<OutgoingClient>(),
            app.Services.GetRequiredService<WebhookSecret>(),
            clock
        ).SendDue(webhook, Cancel);
    }

    private async Task Look()
    {
        await using var scope = app.Services.CreateAsyncScope();
        await scope.ServiceProvider.GetRequiredService<WebhookWatch>().Run(Cancel);
    }

    private static Task<int> Clicked(Cursus.Data.CursusDb db, Guid link, long clicks) =>
        db.Database.ExecuteSqlAsync(
            $"insert into link_totals (link_id, clicks, last_click_at) values ({link}, {clicks}, now()) on conflict (link_id) do update set clicks = {clicks}",
            Cancel
        );

    private static Task<int> Verdict(Cursus.Data.CursusDb db, World world, short verdict) =>
        db.Database.ExecuteSqlAsync(
            $"update checked_pages set verdict = {verdict} where id = (select min(id::text)::uuid from checked_pages where workspace_id = {world.Workspace.Id})",
            Cancel
        );
}
