using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;

namespace Cursus.Web.Tests.Access;

/// <summary>What is set for the workspace holds where nobody says otherwise.</summary>
public class WorkspaceSettingsTests(CursusApp app)
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task New_links_begin_with_the_workspaces_options_unless_their_domain_has_its_own()
    {
        var world = await World.Make(app);
        await Set(
            world,
            new
            {
                options = new
                {
                    hideFromSearch = true,
                    passQuery = "visitor-wins",
                    anchorText = "Book now",
                },
            }
        );
        (await OptionsOf(world)).ShouldBe((true, "visitor-wins", "Book now"));

        var domain = (string)(await world.Get("/api/v1/domains"))["items"]![0]!["id"]!;
        await Patch(world, $"/api/v1/domains/{domain}", new { options = new { passQuery = "off" } });
        (await OptionsOf(world)).ShouldBe((true, "off", "Book now"), "the domain’s own begin as the workspace’s");
        await Set(world, new { options = new { anchorText = "" } });
        (await OptionsOf(world)).ShouldBe((true, "off", "Book now"), "from then on the domain keeps its own");
        await Patch(world, $"/api/v1/domains/{domain}", new { hasOwnOptions = false });
        (await OptionsOf(world)).ShouldBe((true, "visitor-wins", null));
    }

    [Fact]
    public async Task The_preview_of_a_post_proposes_slugs_as_the_workspace_wants_them()
    {
        var world = await World.Make(app);
        (await ProposedSlug(world)).ShouldNotBeNull();
        await Set(world, new { slugKind = "random" });
        (await ProposedSlug(world)).ShouldBeNull();
    }

    [Fact]
    public async Task Sentences_write_numbers_as_the_workspace_does_and_tables_never()
    {
        var world = await World.Make(app);
        var slug = (string)(await world.Send())["placements"]![0]!["link"]!["slug"]!;
        foreach (var _ in Enumerable.Range(0, 3))
        {
            await world.Visit(slug);
        }

        await world.Visit((string)(await world.Send())["placements"]![1]!["link"]!["slug"]!);
        ((string)(await world.Breakdown("by=channel"))["answer"]!).ShouldContain("3 clicks (75%)");
        await Set(world, new { numberLanguage = "de-DE" });
        ((string)(await world.Breakdown("by=channel"))["answer"]!).ShouldContain("3 clicks (75\u00a0%)");
        (await world.Viewer.GetStringAsync("/api/v1/reports/breakdown.csv?by=channel", Cancel)).ShouldContain("0.75");
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { numberLanguage = "xx" }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    [Theory]
    [InlineData("monday", "2026-11-23")]
    [InlineData("saturday", "2026-11-28")]
    [InlineData("sunday", "2026-11-29")]
    public async Task Weeks_begin_on_the_workspaces_day(string start, string week)
    {
        var world = await World.Make(app);
        await Set(world, new { weekStart = start });
        (await world.Get("/api/v1/reports/series?by=channel&step=week&from=2026-11-29&to=2026-11-29"))["points"]!
            .AsArray()
            .Select(p => (string)p!["at"]!)
            .ShouldBe([week]);
        ((string)(await world.Get("/api/v1/reports/pivot?by=weekday&across=hour"))["rows"]![0]!["label"]!).ShouldBe(
            start,
            StringCompareShould.IgnoreCase
        );
        DayOfWeek((string)(await world.Get("/api/v1/reports/digest"))["from"]!).ShouldBe(start);
    }

    [Fact]
    public async Task Outsiders_are_told_the_public_name()
    {
        var world = await World.Make(app);
        await Set(world, new { name = "Northmoor, press office", publicName = "Northmoor Observatory" });
        ((string)(await world.Get("/api/v1/session"))["workspace"]!).ShouldBe("Northmoor, press office");
        var view = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/views", new { name = "Channels", question = "by=channel&period=last-28" }, Cancel)
        );
        var share = await World.Read(await world.Editor.PostAsJsonAsync($"/api/v1/views/{view["id"]}/shares", new { name = "Board" }, Cancel));
        var secret = (string)share["secret"]!;
        ((string)(await app.CreateClient().GetFromJsonAsync<JsonNode>($"/api/v1/shared/{secret}", Cancel))!["workspace"]!).ShouldBe(
            "Northmoor Observatory"
        );
        await Set(world, new { publicName = "" });
        ((string)(await app.CreateClient().GetFromJsonAsync<JsonNode>($"/api/v1/shared/{secret}", Cancel))!["workspace"]!).ShouldBe(
            "Northmoor, press office"
        );
    }

    [Fact]
    public async Task An_archive_takes_the_settings_along()
    {
        var (world, heir) = (await World.Make(app), await World.Make(app));
        await Set(
            world,
            new
            {
                publicName = "Northmoor",
                weekStart = "sunday",
                numberLanguage = "fr-FR",
                slugKind = "random",
                options = new { nofollow = true, titleAttribute = "Tickets" },
            }
        );
        var archive = await (await world.Owner.GetAsync("/api/v1/archive", Cancel)).Content.ReadAsByteArrayAsync(Cancel);
        var imported = await heir.Owner.PostAsync(
            "/api/v1/archive",
            new ByteArrayContent(archive) { Headers = { ContentType = new MediaTypeHeaderValue("application/zip") } },
            Cancel
        );
        imported.StatusCode.ShouldBe(HttpStatusCode.OK, await imported.Content.ReadAsStringAsync(Cancel));
        var (before, after) = (await world.Get("/api/v1/workspace"), await heir.Get("/api/v1/workspace"));
        foreach (var setting in (string[])["publicName", "weekStart", "numberLanguage", "slugKind", "options"])
        {
            after[setting]!.ToJsonString().ShouldBe(before[setting]!.ToJsonString(), setting);
        }
    }

    [Fact]
    public async Task Names_are_neither_empty_nor_endless()
    {
        var world = await World.Make(app);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { name = " " }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
        (await world.Owner.PatchAsJsonAsync("/api/v1/workspace", new { publicName = new string('x', 101) }, Cancel)).StatusCode.ShouldBe(
            HttpStatusCode.UnprocessableEntity
        );
    }

    private static string DayOfWeek(string day) => $"{NodaTime.Text.LocalDatePattern.Iso.Parse(day).Value.DayOfWeek}".ToLowerInvariant();

    private static Task Set(World world, object settings) => Patch(world, "/api/v1/workspace", settings);

    private static async Task Patch(World world, string path, object body)
    {
        var answer = await world.Owner.PatchAsJsonAsync(path, body, Cancel);
        answer.StatusCode.ShouldBe(HttpStatusCode.OK, await answer.Content.ReadAsStringAsync(Cancel));
    }

    private static async Task<(bool, string, string?)> OptionsOf(World world)
    {
        var id = (string)(await world.Send())["placements"]![0]!["link"]!["id"]!;
        var options = (await world.Get($"/api/v1/links/{id}"))["options"]!;
        return ((bool)options["hideFromSearch"]!, (string)options["passQuery"]!, (string?)options["anchorText"]);
    }

    private static async Task<string?> ProposedSlug(World world)
    {
        var preview = await World.Read(await world.Editor.PostAsJsonAsync("/api/v1/posts/preview", World.Post(), Cancel));
        return (string?)preview["placements"]![0]!["slug"];
    }
}
