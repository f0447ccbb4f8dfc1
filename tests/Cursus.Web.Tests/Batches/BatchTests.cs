using System.Net;
using System.Net.Http.Json;
using Cursus.Web.Access;
using Cursus.Web.Addresses;
using Cursus.Web.Batches;
using Cursus.Web.Hosting;
using Cursus.Web.Runs;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;
using static Cursus.Web.Tests.Batches.BatchSteps;

namespace Cursus.Web.Tests.Batches;

/// <summary>Many links from one list: told before what would come of it, then made all or none.</summary>
public class BatchTests(CursusApp app)
{
    private const string Sky =
        "address,title,channel,campaign,slug\nnorthmoor.example/sky,Winter sky,Guildhall,Winter members,sky-g\nnorthmoor.example/sky,Winter sky,perch,winter-members,\nnorthmoor.example/shop,Shop,,,shop\n";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Lines_become_posts_with_placements_and_links_that_lead_on_at_once()
    {
        var world = await World.Make(app);
        var batch = await Made(world, await Upload(world, Sky), new { });
        ((string)batch["state"]!, (int)batch["links"]!, (int)batch["leftOut"]!).ShouldBe(("done", 3, 0));

        var posts = await world.Get("/api/v1/posts");
        ((int)posts["total"]!, (string)posts["items"]![0]!["title"]!, posts["items"]![0]!["placements"]!.AsArray().Count).ShouldBe(
            (1, "Winter sky", 2)
        );
        (await world.Visit("sky-g"))
            .Headers.Location!.ToString()
            .ShouldBe("https://northmoor.example/sky?utm_source=guildhall&utm_medium=social&utm_campaign=winter-members");
        (await world.Visit("shop")).Headers.Location!.ToString().ShouldBe("https://northmoor.example/shop");
    }

    [Fact]
    public async Task A_line_without_a_channel_makes_one_link_for_each_chosen_channel()
    {
        var world = await World.Make(app);
        var forAll = new
        {
            campaign = "winter-members",
            channels = new[] { "perch", "night-letter" },
            tags = new[] { "shop" },
            slugKind = "readable",
        };
        var batch = await Upload(world, "northmoor.example/orion\nnorthmoor.example/lyra");
        var preview = await Preview(world, batch, new { forAll });
        ((int)preview["links"]!, (string)preview["rows"]![0]!["shortUrl"]!).ShouldBe((4, $"http://{world.Domain}/orion-perch"));

        await Made(world, batch, new { forAll });
        (await world.Get("/api/v1/links?campaign=winter-members"))["items"]!
            .AsArray()
            .Select(l => (string)l!["slug"]!)
            .ShouldBe(["orion-perch", "orion-night-letter", "lyra-perch", "lyra-night-letter"], "in the order of the list");
        var posts = await world.Get("/api/v1/posts");
        ((int)posts["total"]!, ((string)(await world.Get("/api/v1/links?tag=shop&query=lyra-night"))["items"]![0]!["slug"]!)).ShouldBe(
            (2, "lyra-night-letter")
        );
    }

    [Fact]
    public async Task Links_of_a_list_fire_the_pixels_that_were_chosen_for_all_lines()
    {
        var world = await World.Make(app);
        var (pixel, _) = await Retargeting.Pixels.SetUp(world);
        await Retargeting.Pixels.AskNobody(world);
        var batch = await Upload(world, "address,slug\nnorthmoor.example/orion,orion\nnorthmoor.example/lyra,lyra");
        var refused = (await Preview(world, batch, new { forAll = new { pixels = new[] { Guid.NewGuid() } } }))["problems"]!.AsArray();
        ((string)refused.ShouldHaveSingleItem()!["field"]!).ShouldBe("pixels");
        await Made(world, batch, new { forAll = new { pixels = new[] { pixel } } });
        foreach (var slug in new[] { "orion", "lyra" })
        {
            (await (await world.Visit(slug)).Content.ReadAsStringAsync(Cancel)).ShouldContain("https://px.fairlead.example/hit?p=FL-204417");
        }
    }

    [Fact]
    public async Task Each_error_is_told_with_its_line_and_nothing_is_saved_unless_the_good_lines_are_wanted_alone()
    {
        var world = await World.Make(app);
        await world.Send(p => p["placements"]![0]!["slug"] = "gone");
        var batch = await Upload(
            world,
            """
            url;slug;channel;campaign;redirect;published
            northmoor.example/1;good;perch;winter-members;301;2026-03-24
            ftp://northmoor.example/2;;;;;
            northmoor.example/3;gone;;;;
            northmoor.example/4;good;;;;
            northmoor.example/5;;chirp;winter-members;;
            northmoor.example/6;;perch;spring;;
            northmoor.example/7;;;;often;
            northmoor.example/8;;;;;24/3/26
            """
        );
        var preview = await Preview(world, batch, new { });
        ((int)preview["lines"]!, (int)preview["goodLines"]!, (string)preview["newCampaigns"]!.AsArray().Single()!).ShouldBe((8, 1, "spring"));
        preview["problems"]!
            .AsArray()
            .Select(p => $"{p!["lines"]![0]} {p["field"]}")
            .ShouldBe(["3 destination", "4 slug", "5 slug", "6 channel", "7 campaign", "8 redirect", "9 publishedOn"]);

        var refused = await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", new { }, Cancel);
        refused.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(2);

        var made = await Made(world, batch, new { isGoodOnly = true });
        ((int)made["links"]!, (int)made["leftOut"]!).ShouldBe((1, 7));
        var result = await world.Editor.GetStringAsync($"/api/v1/batches/{batch["id"]}/result.csv", Cancel);
        var lines = result.TrimEnd().Split("\r\n");
        lines.Length.ShouldBe(9);
        lines[1].ShouldStartWith($"2,http://{world.Domain}/good,");
        lines[2].ShouldStartWith("3,,refused,");
        var post = (await world.Get("/api/v1/posts"))["items"]!.AsArray().Single(p => p!["placements"]!.AsArray().Count == 1)!;
        ((string)post["publishedOn"]!, (int)post["placements"]![0]!["link"]!["redirect"]!).ShouldBe(("2026-03-24", 301));
    }

    [Fact]
    public async Task What_many_lines_have_in_common_is_said_once()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, "a.example\nb.example\nc.example");
        var problems = (await Preview(world, batch, new { forAll = new { channels = new[] { "perch" } } }))["problems"]!.AsArray();
        problems.Count.ShouldBe(1);
        problems[0]!["lines"]!.ToJsonString().ShouldBe("[1,2,3]");
    }

    [Fact]
    public async Task Columns_can_be_chosen_anew_and_a_list_without_addresses_is_not_made()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, "Thing,Where\nShop,northmoor.example/shop\ntitle,x.example");
        batch["columns"]!.AsArray().Select(c => (string?)c!["field"]).ShouldBe(["destination"], "a list without known names is one address a line");
        batch = await Upload(world, "title,where\nShop,northmoor.example/shop");
        (await Preview(world, batch, new { }))["errors"]!["columns"].ShouldNotBeNull();
        (await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", new { }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
        (await Preview(world, batch, new { columns = new[] { "destination", "destination" } }))["errors"]!["columns"].ShouldNotBeNull();
        var preview = await Preview(world, batch, new { columns = new[] { "title", "destination" } });
        ((string)preview["rows"]![0]!["title"]!, (string)preview["rows"]![0]!["finalUrl"]!).ShouldBe(("Shop", "https://northmoor.example/shop"));
    }

    [Fact]
    public async Task Complete_tags_in_an_address_are_counted_under_and_slips_are_pointed_out()
    {
        var world = await World.Make(app);
        var preview = await Preview(
            world,
            await Upload(
                world,
                "a.example/?utm_source=perch&utm_medium=social&utm_campaign=winter-members\nb.example/?utm_source=Perch&utm_medium=social&utm_campaign=winter-members\nc.example/?utm_source=perch"
            ),
            new { }
        );
        ((int)preview["goodLines"]!, (string)preview["hints"]![0]!["field"]!, (int)preview["hints"]![0]!["lines"]![0]!).ShouldBe((3, "source", 2));
    }

    [Fact]
    public async Task Ten_thousand_lines_are_made_in_one_go_and_can_be_taken_back()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, string.Join('\n', Enumerable.Range(1, 10_000).Select(i => $"northmoor.example/stars/{i}")));
        var made = await Made(world, batch, new { forAll = new { campaign = "winter-members", channels = new[] { "perch" } } });
        ((int)made["links"]!).ShouldBe(10_000);
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(10_000);
        (await world.Editor.PostAsync($"/api/v1/batches/{batch["id"]}/undo", null, Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        ((int)(await world.Get("/api/v1/links"))["total"]!, (int)(await world.Get("/api/v1/posts"))["total"]!).ShouldBe((0, 0));
    }

    [Fact]
    public async Task A_batch_is_made_however_long_the_database_takes_for_it()
    {
        await using var impatient = new CursusApp(throughLine: false, commandSeconds: 1);
        await impatient.InitializeAsync();
        var world = await World.Make(impatient);
        await using var db = impatient.Database();
        await db.Database.ExecuteSqlRawAsync(
            """
            create function slow() returns trigger language plpgsql as 'begin perform pg_sleep(1.5); return null; end';
            create trigger slow after insert on links for each statement execute function slow();
            create trigger slow after update on batches for each statement execute function slow();
            """,
            Cancel
        );
        var made = await Made(world, await Upload(world, "northmoor.example/stars"), new { });
        ((int)made["links"]!).ShouldBe(1);
    }

    [Fact]
    public async Task A_batch_that_is_cancelled_while_it_is_made_leaves_nothing_and_waits_again()
    {
        var world = await World.Make(app);
        var batch = await Upload(world, string.Join('\n', Enumerable.Range(1, 20_000).Select(i => $"northmoor.example/stars/{i}")));
        (await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", new { }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Accepted);
        (await world.Editor.PostAsJsonAsync($"/api/v1/batches/{batch["id"]}/run", new { }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
        (await world.Editor.DeleteAsync($"/api/v1/batches/{batch["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var after = await Over(world, batch);
        ((string)after["state"]!, ((string)after["failure"]!)).ShouldBe(("waiting", "It was cancelled; no links were created."));
        ((int)(await world.Get("/api/v1/links"))["total"]!).ShouldBe(0);

        (await world.Editor.DeleteAsync($"/api/v1/batches/{batch["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NoContent);
        (await world.Editor.GetAsync($"/api/v1/batches/{batch["id"]}", Cancel)).StatusCode.ShouldBe(HttpStatusCode.NotFound);
    }

    [Theory]
    [InlineData(false, 0)]
    [InlineData(true, 1)]
    public async Task A_slug_lost_between_preview_and_saving_costs_its_own_line_only_where_the_good_ones_are_wanted_alone(bool isGoodOnly, int links)
    {
        var world = await World.Make(app);
        var uploaded = await Upload(world, "url,slug\na.example,first\nb.example,second");
        await using var scope = app.Services.CreateAsyncScope();
        await using var db = app.Database();
        var member = new CurrentMember();
        member.Is(await db.Members.Include(m => m.Workspace).FirstAsync(m => m.WorkspaceId == world.Workspace.Id, Cancel));
        var batch = await db.Batches.AsNoTracking().SingleAsync(b => b.Id == Guid.Parse((string)uploaded["id"]!), Cancel);
        var now = SystemClock.Instance.GetCurrentInstant();
        ListFile.TryRead(batch.Content!, out var table, out _, TestContext.Current.CancellationToken).ShouldBeTrue();
        var vocabulary = await Vocabulary.Load(db, member, app.Services.GetRequiredService<CursusOptions>(), Cancel);
        var plan = await BatchPlan.Make(table!, new BatchRequest(), vocabulary, member, db, now, Cancel);
        await world.Send(p => p["placements"]![0]!["slug"] = "second");

        using var cancellation = new CancellationTokenSource();
        var failure = await ActivatorUtilities
            .CreateInstance<BatchMaking>(scope.ServiceProvider)
            .Make(batch, plan, isGoodOnly, member, new LongRun(member.WorkspaceId, 2, null, cancellation));
        (failure is null).ShouldBe(isGoodOnly);
        (await db.BatchLines.CountAsync(l => l.BatchId == batch.Id && l.LinkId != null, Cancel)).ShouldBe(links);
        (await db.BatchLines.Where(l => l.BatchId == batch.Id && l.Problem != null).Select(l => l.Line).ToListAsync(Cancel)).ShouldBe(
            isGoodOnly ? [3] : []
        );
        ((await db.Batches.AsNoTracking().SingleAsync(b => b.Id == batch.Id, Cancel)).DoneAt is null).ShouldBe(!isGoodOnly);
    }

    [Fact]
    public async Task What_is_no_list_is_refused_and_nothing_is_kept()
    {
        var world = await World.Make(app);
        var answer = await world.Editor.PostAsync(
            "/api/v1/batches?name=photo.png",
            new ByteArrayContent([0x89, 0x50, 0x4E, 0x47, 0, 0, 0, 1]),
            Cancel
        );
        answer.StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        ((int)(await World.Read(await world.Editor.GetAsync("/api/v1/batches", Cancel)))["total"]!).ShouldBe(0);
        (await world.Viewer.PostAsync("/api/v1/batches", new StringContent("a.example"), Cancel)).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
    }

    [Fact]
    public async Task The_template_can_be_filled_in_and_dropped_as_it_is()
    {
        var world = await World.Make(app);
        var template = await world.Editor.GetStringAsync("/api/v1/batches/template.csv", Cancel);
        var preview = await Preview(world, await Upload(world, template), new { });
        ((int)preview["lines"]!, (int)preview["goodLines"]!).ShouldBe((2, 2));
    }
}
