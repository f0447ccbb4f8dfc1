using System.Globalization;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Sums;
using NodaTime;

namespace Cursus.Web.Tests.Links;

/// <summary>How many people took each way of a link.</summary>
public class RouteFiguresTests(CursusApp app)
{
    private const string Firefox = "Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private static Instant Now => SystemClock.Instance.GetCurrentInstant();

    [Fact]
    public async Task Each_branch_has_its_people_and_a_split_that_works_is_told_from_one_that_does_not()
    {
        var (world, link) = await Routed("day");
        await Ship(link, rule: 1, page: 2, people: 7, from: 10_000);
        await Ship(link, rule: 0, page: 3, people: 118, from: 0);
        await Ship(link, rule: 0, page: 4, people: 82, from: 200);

        // They come again.
        await Ship(link, rule: 0, page: 3, people: 50, from: 0, Now + Duration.FromMinutes(1));
        var figures = await Figures(world, link);
        ((string?)figures["since"]).ShouldNotBeNull();
        var (phones, rest) = (figures["branches"]![0]!, figures["branches"]![1]!);
        ((int)phones["people"]!, (int)phones["clicks"]!, (string?)phones["says"]).ShouldBe((7, 7, null));
        ((int)rest["people"]!, (int)rest["clicks"]!).ShouldBe((200, 250));
        rest["pages"]!
            .AsArray()
            .Select(p => ((int)p!["shareSet"]!, (double)p["shareGot"]!, (int)p["people"]!))
            .ShouldBe([(60, 0.59, 118), (40, 0.41, 82)]);
        ((string?)rest["split"], (string?)rest["says"]).ShouldBe(
            ("as-set", "The split works as set. People are shared out as set; these figures don’t say which page is better.")
        );

        await Ship(link, rule: 0, page: 4, people: 100, from: 400);
        rest = (await Figures(world, link))["branches"]![1]!;
        ((string?)rest["split"]).ShouldBe("off");
        ((string?)rest["says"]).ShouldStartWith("Off: ");
        ((string)rest["says"]!).ShouldContain(" of 300 people. ");
    }

    [Fact]
    public async Task Figures_begin_anew_when_the_shares_change_and_go_on_when_a_page_is_only_called_something_else()
    {
        var (world, link) = await Routed("day");
        await Ship(link, rule: 0, page: 3, people: 30, from: 0);
        await Put(world, link, Route("day", names: ", \"name\": \"Short form\""));
        var figures = await Figures(world, link);
        ((int)figures["branches"]![1]!["people"]!).ShouldBe(30);
        ((string?)figures["branches"]![1]!["pages"]![0]!["name"]).ShouldBe("Short form");
        await Task.Delay(5, Cancel);
        await Put(world, link, Route("day").Replace("60", "70", StringComparison.Ordinal).Replace("40", "30", StringComparison.Ordinal));
        ((int)(await Figures(world, link))["branches"]![1]!["people"]!).ShouldBe(0);
        ((string?)(await Figures(world, link))["branches"]![1]!["says"]).ShouldStartWith("Too few people to check the split: 0 of at least 17.");
    }

    /// <summary>Whoever comes each day for a week with the same page counts as seven people, of whom only one was shared out.</summary>
    [Fact]
    public async Task Where_visitors_are_known_for_thirty_days_one_day_alone_is_checked()
    {
        var (world, link) = await Routed("30-days", before: Duration.FromDays(8));
        for (var day = 1; day <= 7; day++)
        {
            await Ship(link, rule: 0, page: 3, people: 66, from: 1000 * day, Now - Duration.FromDays(day));
            await Ship(link, rule: 0, page: 4, people: 34, from: (1000 * day) + 500, Now - Duration.FromDays(day));
        }

        var rest = (await Figures(world, link))["branches"]![1]!;
        ((int)rest["people"]!).ShouldBe(700);
        ((string?)rest["split"]).ShouldBe("as-set", "66 to 34 is within chance for a hundred people, 462 to 238 isn’t for seven hundred");
    }

    [Fact]
    public async Task A_post_adds_up_the_splits_that_its_links_have_alike()
    {
        var world = await World.Make(app);
        var post = await world.Send(p =>
        {
            p["routes"] = JsonNode.Parse(Route("day"));
            p["placements"] = JsonNode.Parse("""[{"channel":"perch"},{"channel":"guildhall"},{"channel":"hearthside","routes":{}}]""");
        });
        var links = post["placements"]!.AsArray().Select(p => p!["link"]!).ToList();
        await Ship(links[0], rule: 0, page: 3, people: 61, from: 0);
        await Ship(links[0], rule: 0, page: 4, people: 39, from: 100);
        await Ship(links[1], rule: 0, page: 3, people: 59, from: 200);
        await Ship(links[1], rule: 0, page: 4, people: 41, from: 300);
        var split = (await world.Get($"/api/v1/posts/{post["id"]}/routes/figures")).AsArray().ShouldHaveSingleItem()!;
        ((int)split["links"]!).ShouldBe(2);
        split["figures"]!["pages"]!.AsArray().Select(p => ((int)p!["shareSet"]!, (int)p["people"]!)).ShouldBe([(60, 120), (40, 80)]);
        ((string)split["figures"]!["says"]!).ShouldStartWith("The split works as set.");
    }

    [Fact]
    public async Task Reports_tell_clicks_by_the_page_they_were_led_to_alone_crossed_and_as_a_filter_before_and_after_days_are_sealed()
    {
        var (world, link) = await Routed("day");
        await Ship(link, rule: 1, page: 2, people: 4, from: 0, Now - Duration.FromDays(40));
        await Ship(link, rule: 0, page: 3, people: 9, from: 50, Now - Duration.FromDays(40));
        await Ship(link, rule: 0, page: 0, people: 2, from: 90, Now - Duration.FromDays(41));
        for (var round = 0; round < 2; round++)
        {
            var asked = $"from={Day(60)}&to={Day(1)}&link={link["id"]}";
            var report = await world.Get($"/api/v1/reports/breakdown?by=destination&{asked}");
            Rows(report)
                .ShouldBe([("https://www.northmoor.example/a", 9), ("https://www.northmoor.example/app", 4), ((string)link["destination"]!, 2)]);
            ((string)report["answer"]!).ShouldStartWith("www.northmoor.example/a got the most: 9 clicks (60%).");
            ((string)report["answer"]!).ShouldContain("don’t say which page is better");
            Rows(await world.Get($"/api/v1/reports/breakdown?by=channel&{asked}&destination=https://www.northmoor.example/app"))
                .ShouldBe([("perch", 4)]);
            var pivot = await world.Get($"/api/v1/reports/pivot?by=destination&across=country&{asked}");
            pivot["rows"]!.AsArray().Count.ShouldBe(3);
            await using var source = app.DataSource();
            await new RollUps(source).SealDays(Now, Cancel);
        }

        (await world.Viewer.GetStringAsync($"/api/v1/reports/clicks.csv?from={Day(60)}&to={Day(1)}&link={link["id"]}", Cancel))
            .Split("https://www.northmoor.example/app")
            .Length.ShouldBe(5, "four clicks");
    }

    private static string Day(int ago) => (Now - Duration.FromDays(ago)).InUtc().Date.ToString("uuuu-MM-dd", CultureInfo.InvariantCulture);

    private static List<(string, int)> Rows(JsonNode report) => [.. report["rows"]!.AsArray().Select(r => ((string)r!["key"]!, (int)r["clicks"]!))];

    private async Task<(World World, JsonNode Link)> Routed(string remember, Duration before = default)
    {
        var world = await World.Make(app);
        var link = (await world.Send())["placements"]!.AsArray().Select(p => p!["link"]!).First(l => (string?)l["channel"] == "perch");
        await Put(world, link, Route(remember));
        if (before != default)
        {
            await using var db = app.Database();
            var (id, at) = ((Guid)link["id"]!, Now - before);
            await Microsoft.EntityFrameworkCore.RelationalDatabaseFacadeExtensions.ExecuteSqlAsync(
                db.Database,
                $"update link_versions set until = {at} where link_id = {id}",
                Cancel
            );
        }

        return (world, link);
    }

    private static string Route(string remember, string names = "") =>
        $$"""
            {"remember": "{{remember}}", "rules": [{"when": {"devices": ["phone"]}, "to": [{"destination": "https://www.northmoor.example/app"}]}],
             "otherwise": {"to": [
                {"destination": "https://www.northmoor.example/a", "weight": 60 {{names}} },
                {"destination": "https://www.northmoor.example/b", "weight": 40}] } }
            """;

    private static async Task Put(World world, JsonNode link, string route) =>
        (
            await world.Editor.PutAsync($"/api/v1/links/{link["id"]}/routes", JsonContent.Create(JsonNode.Parse(route)), Cancel)
        ).EnsureSuccessStatusCode();

    private static Task<JsonNode> Figures(World world, JsonNode link) => world.Get($"/api/v1/links/{link["id"]}/routes/figures");

    private Task Ship(JsonNode link, byte rule, byte page, int people, int from, Instant? at = null) =>
        app.Ship([
            .. Enumerable
                .Range(from, people)
                .Select(n => new Click(
                    at ?? Now,
                    (Guid)link["id"]!,
                    ClickKind.Person,
                    (long)((ulong)(n + 1) * 0x9E3779B97F4A7C15),
                    default,
                    default,
                    "",
                    Firefox,
                    "en",
                    Page: page,
                    Rule: rule
                )),
        ]);
}
