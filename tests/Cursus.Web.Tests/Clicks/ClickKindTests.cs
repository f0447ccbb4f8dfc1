using System.Net.Http.Json;
using Cursus.Core.Clicks;
using Cursus.Core.Clicks.Requests;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;
using NodaTime;

namespace Cursus.Web.Tests.Clicks;

/// <summary>Only people count in headlines; whoever else came is kept and told by reason.</summary>
public class ClickKindTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Machines_previews_prefetches_and_header_requests_are_left_out_by_reason()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        await world.Visit(slug);
        await world.Visit(slug, r => r.Headers.UserAgent.Clear());
        await world.Visit(slug, r => SendAs(r, Known("machine")));
        await world.Visit(slug, r => SendAs(r, Known("preview")));
        await world.Visit(slug, r => r.Headers.Add("Sec-Purpose", "prefetch;prerender"));
        await world.Visit(slug, r => r.Headers.Add("Purpose", "prefetch"));
        await world.Visit(slug, r => r.Method = HttpMethod.Head);

        var excluded = (await world.Breakdown("by=channel"))["excluded"]!;
        var report = await world.Breakdown("by=channel");
        ((int)report["total"]!["clicks"]!).ShouldBe(1);
        ((int)excluded["machines"]!, (int)excluded["previews"]!, (int)excluded["prefetches"]!, (int)excluded["heads"]!).ShouldBe((2, 1, 2, 1));
    }

    [Fact]
    public async Task A_visitor_who_clicks_twice_in_a_moment_is_counted_once_and_another_visitor_is_not_held_back()
    {
        var world = await World.Make(app);
        var post = await world.Send();
        await world.Visit(World.Slug(post, 0), r => World.As(r, 1));
        await world.Visit(World.Slug(post, 0), r => World.As(r, 1));
        await world.Visit(World.Slug(post, 0), r => World.As(r, 2));
        await world.Visit(World.Slug(post, 1), r => World.As(r, 1));
        var report = await world.Breakdown("by=channel");
        ((int)report["total"]!["clicks"]!, (int)report["excluded"]!["repeats"]!).ShouldBe((3, 1));
    }

    /// <summary>However the clicks are cut into batches, and whatever is shipped twice, the same ones count; held against counting by hand.</summary>
    [Theory]
    [InlineData(1)]
    [InlineData(2)]
    [InlineData(3)]
    [InlineData(4)]
    public async Task Repeats_do_not_depend_on_how_clicks_are_shipped(int seed)
    {
        var world = await World.Make(app);
        var link = Guid.Parse((string)(await world.Send())["placements"]![0]!["link"]!["id"]!);
        var random = new Random(seed);
        var at = SystemClock.Instance.GetCurrentInstant() - Duration.FromHours(1);
        var clicks = Enumerable
            .Range(0, 120)
            .Select(i =>
            {
                at += Duration.FromMilliseconds(random.Next(1, 6000));
                return (
                    Position: (long)(i + 1) * 8,
                    Click: new Click(
                        at,
                        link,
                        random.Next(8) == 0 ? ClickKind.Machine : ClickKind.Person,
                        random.Next(3),
                        default,
                        default,
                        "",
                        "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                        "en"
                    )
                );
            })
            .ToList();

        var store = app.Services.GetRequiredService<ClickStore>();
        var (journal, _) = await store.Register(Guid.NewGuid(), Cancel);
        for (var from = 0; from < clicks.Count; )
        {
            var batch = clicks.Skip(from).Take(random.Next(1, 30)).ToList();
            await store.Ship(journal, new JournalBatch(batch, [], batch[^1].Position + 8), Cancel);
            await store.Ship(journal, new JournalBatch(batch, [], batch[^1].Position + 8), Cancel);
            from += batch.Count;
        }

        var last = new Dictionary<long, Instant>();
        var counted = 0;
        foreach (var (_, click) in clicks.Where(c => c.Click.Kind == ClickKind.Person))
        {
            counted += !last.TryGetValue(click.Visitor, out var before) || click.At - before >= Duration.FromSeconds(10) ? 1 : 0;
            last[click.Visitor] = click.At;
        }

        await using var db = app.Database();
        var stored = await db.LinkDays.Where(d => d.LinkId == link).ToListAsync(Cancel);
        stored.Sum(d => d.Clicks).ShouldBe(counted);
        stored.Sum(d => d.Repeats).ShouldBe(clicks.Count(c => c.Click.Kind == ClickKind.Person) - counted);
    }

    /// <summary>Two servers behind one address: a person's double click may reach both.</summary>
    [Fact]
    public async Task A_repeat_is_found_whichever_server_answered_the_first_click()
    {
        var world = await World.Make(app);
        var link = Guid.Parse((string)(await world.Send())["placements"]![0]!["link"]!["id"]!);
        var at = SystemClock.Instance.GetCurrentInstant() - Duration.FromHours(2);
        await using var source = app.DataSource();
        using var one = new ClickStore(source, SystemClock.Instance);
        using var other = new ClickStore(source, SystemClock.Instance);
        var (oneJournal, _) = await one.Register(Guid.NewGuid(), Cancel);
        var (otherJournal, _) = await other.Register(Guid.NewGuid(), Cancel);
        Click After(int seconds) =>
            new(
                at + Duration.FromSeconds(seconds),
                link,
                ClickKind.Person,
                77,
                default,
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            );

        await one.Ship(oneJournal, new JournalBatch([(8, After(0))], [], 16), Cancel);
        await other.Ship(otherJournal, new JournalBatch([(8, After(4))], [], 16), Cancel);
        await one.Ship(oneJournal, new JournalBatch([(16, After(8)), (24, After(30))], [], 32), Cancel);

        await using var db = app.Database();
        var day = (await db.LinkDays.Where(d => d.LinkId == link).ToListAsync(Cancel)).ShouldHaveSingleItem();
        (day.Clicks, day.Repeats).ShouldBe((2, 2));
    }

    [Fact]
    public async Task A_program_under_a_browsers_name_is_left_out_by_what_its_request_lacks()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        foreach (var accept in new[] { "text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8", "*/*", "image/avif,image/webp,*/*" })
        {
            await world.Visit(slug, r =>
            {
                r.Headers.UserAgent.Clear();
                r.Headers.TryAddWithoutValidation("User-Agent", "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0");
                r.Headers.TryAddWithoutValidation("Accept", accept);
                r.Headers.TryAddWithoutValidation("Accept-Language", "en");
            });
        }

        var report = await world.Breakdown("by=channel");
        ((int)report["total"]!["clicks"]!, (int)report["excluded"]!["impostors"]!).ShouldBe((1, 2));
    }

    [Theory]
    [InlineData(true, 1, 4, 1, 1)]
    [InlineData(false, 7, 0, 0, 0)]
    public async Task What_visitors_do_leaves_their_clicks_out_unless_the_workspace_says_no(
        bool isWanted,
        int clicks,
        int sweeps,
        int probes,
        int echoes
    )
    {
        var world = await World.Make(app);
        var saved = await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { leavesOutByBehaviour = isWanted }, Cancel);
        ((bool)(await World.Read(saved))["leavesOutByBehaviour"]!).ShouldBe(isWanted);
        List<Guid> links =
        [
            .. (await world.Send())["placements"]!
                .AsArray()
                .Concat((await world.Send())["placements"]!.AsArray())
                .Select(p => (Guid)p!["link"]!["id"]!),
        ];
        var at = SystemClock.Instance.GetCurrentInstant() - Duration.FromHours(3);
        Click Click(double after, int link, long visitor, ClickKind kind = ClickKind.Person) =>
            new(
                at + Duration.FromSeconds(after),
                links[link],
                kind,
                visitor,
                default,
                default,
                "",
                "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
                "en"
            );
        await app.Ship([
            Click(0, 0, 1),
            Click(0.4, 1, 1),
            Click(0.8, 2, 1),
            Click(1.2, 3, 1),
            Click(60, 0, 2, ClickKind.Head),
            Click(61, 0, 2),
            Click(90, 0, 3, ClickKind.Team),
            Click(90.5, 0, 4),
            Click(120, 0, 5),
        ]);

        var report = await world.Breakdown("by=channel");
        var excluded = report["excluded"]!;
        ((int)report["total"]!["clicks"]!, (int)excluded["sweeps"]!, (int)excluded["probes"]!, (int)excluded["echoes"]!).ShouldBe(
            (clicks, sweeps, probes, echoes)
        );
    }

    [Fact]
    public async Task Visitors_from_a_listed_office_network_are_the_teams()
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        var saved = await world.Owner.PatchAsJsonAsync(
            "/api/v1/workspace",
            new { officeNetworks = new[] { "198.51.100.9/24", " ", "198.51.100.0/24" } },
            Cancel
        );
        (await World.Read(saved))["officeNetworks"]!.AsArray().Select(n => (string)n!).ShouldBe(["198.51.100.0/24"]);
        var refused = await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { officeNetworks = new[] { "0.0.0.0/0" } }, Cancel);
        ((string)(await World.Read(refused))["errors"]!["officeNetworks"]![0]!).ShouldContain("so wide");

        await app.Feed.CatchUp();
        await world.Visit(slug, r => r.Headers.Add("X-Forwarded-For", "198.51.101.77"));
        await world.Visit(slug, r => r.Headers.Add("X-Forwarded-For", "198.51.100.77"));
        var report = await world.Breakdown("by=channel");
        ((int)report["total"]!["clicks"]!, (int)report["excluded"]!["team"]!).ShouldBe((1, 1));
    }

    /// <summary>A plain word of the open list, as an agent of that kind would have it in its name.</summary>
    private static string Known(string kind)
    {
        using var list = new StreamReader(typeof(UserAgentKind).Assembly.GetManifestResourceStream("crawlers.txt")!);
        return list.ReadToEnd().Split('\n').Select(line => line.Split('\t', 2)).First(line => line[0] == kind && line[1].All(char.IsAsciiLetter))[1];
    }

    private static void SendAs(HttpRequestMessage request, string agent)
    {
        request.Headers.UserAgent.Clear();
        request.Headers.UserAgent.ParseAdd(agent + "/1.0");
    }
}
