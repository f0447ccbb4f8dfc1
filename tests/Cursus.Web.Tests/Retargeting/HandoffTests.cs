using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Links;
using Cursus.Core.Retargeting;
using Microsoft.AspNetCore.Mvc.Testing;

namespace Cursus.Web.Tests.Retargeting;

public sealed class HandoffTests(CursusApp app) : IClassFixture<CursusApp>
{
    private const int OnlyVisitor = 7;

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task A_person_gets_the_page_that_fires_each_pixel_once_and_is_counted_as_one_click()
    {
        var (world, slug, _) = await Ready();
        var response = await world.Visit(slug);
        response.StatusCode.ShouldBe(HttpStatusCode.OK);
        response.Headers.CacheControl!.NoStore.ShouldBeTrue();
        var page = await response.Content.ReadAsStringAsync(Cancel);
        page.Split("\"address\":\"https://px.fairlead.example/hit").Length.ShouldBe(2);
        page.Split("\"address\":\"https://tag.beaconry.example/t.js\"").Length.ShouldBe(2);
        page.ShouldContain("\"to\":\"https://www.northmoor.example/events/geminids-night?lang=en&utm_source=guildhall");
        page.ShouldContain($"on=http%3A%2F%2F{world.Domain}%2F{slug}&c=winter-members");
        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(1);
    }

    [Theory]
    [InlineData("User-Agent", "ExampleBot/2.0 (+http://bot.example/)")]
    [InlineData("Sec-Purpose", "prefetch;prerender")]
    [InlineData("Sec-GPC", "1")]
    [InlineData("DNT", "1")]
    [InlineData("Cookie", "cursus-consent=no")]
    public async Task Machines_previews_and_those_who_said_no_are_led_on_plainly(string header, string value)
    {
        var (world, slug, _) = await Ready();
        var response = await world.Visit(slug, r =>
        {
            r.Headers.Remove(header);
            r.Headers.TryAddWithoutValidation(header, value);
        });
        response.StatusCode.ShouldBe(HttpStatusCode.Found);
        response.Headers.Location!.Host.ShouldBe("www.northmoor.example");
    }

    [Fact]
    public async Task A_link_without_pixels_and_one_whose_pixel_was_deleted_redirect()
    {
        var (world, slug, pixel) = await Ready();
        var plain = await World.Read(
            await world.Editor.PostAsJsonAsync("/api/v1/links", new { destination = "https://www.northmoor.example/shop" }, Cancel)
        );
        (await world.Visit((string)plain["slug"]!)).StatusCode.ShouldBe(HttpStatusCode.Found);
        (await world.Owner.DeleteAsync($"/api/v1/pixels/{pixel.Fairlead}", Cancel)).EnsureSuccessStatusCode();
        (await world.Owner.DeleteAsync($"/api/v1/pixels/{pixel.Beaconry}", Cancel)).EnsureSuccessStatusCode();
        (await world.Visit(slug)).StatusCode.ShouldBe(HttpStatusCode.Found);
    }

    [Fact]
    public async Task What_became_of_each_pixel_is_counted_apart()
    {
        var (world, slug, pixel) = await Ready();
        await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=11", visitor: 1);
        await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=10", visitor: 1);
        await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=10", visitor: 2);
        await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=1", visitor: 3); // not of these pixels
        await world.Visit(slug, r => r.Headers.Add("Sec-GPC", "1"));
        await world.Visit(slug, r => r.Headers.Add("Cookie", "cursus-consent=no"));
        await app.Shipped();
        var fairlead = await world.Get($"/api/v1/pixels/{pixel.Fairlead}/audience?by=link");
        Outcomes(fairlead["outcomes"]!).ShouldBe((3, 0, 1, 1));
        fairlead["windows"]!
            .AsArray()
            .Select(w => ((int)w!["days"]!, (int)w["visits"]!, (int)w["visitors"]!, (bool)w["isTooSmall"]!))
            .ShouldBe([(7, 3, 2, true), (28, 3, 2, true), (30, 3, 2, true), (90, 3, 2, true), (180, 3, 2, true)]);
        fairlead["advice"]!.AsArray().ShouldHaveSingleItem();
        ((string)fairlead["parts"]!.AsArray().ShouldHaveSingleItem()!["label"]!).ShouldBe($"{world.Domain}/{slug}");
        Outcomes((await world.Get($"/api/v1/pixels/{pixel.Beaconry}/audience"))["outcomes"]!).ShouldBe((1, 2, 1, 1));

        var rows = (await world.Breakdown("by=pixel"))["rows"]!.AsArray();
        rows.Select(r => (string)r!["label"]!).Order().ShouldBe(["Beaconry", "Fairlead"]);
        Outcomes(rows.Single(r => (string)r!["label"]! == "Fairlead")!["pixel"]!).ShouldBe((3, 0, 1, 1));
        ((int)(await world.Breakdown($"by=channel&pixel={pixel.Fairlead}"))["total"]!["clicks"]!).ShouldBe(2);
        ((int)(await world.Breakdown($"by=channel&pixel={Guid.NewGuid()}"))["total"]!["clicks"]!).ShouldBe(0);
    }

    [Fact]
    public async Task A_page_reports_on_the_visit_that_got_it_whatever_has_become_of_the_link_since()
    {
        var (world, slug, pixel) = await Ready();
        var page = await (await world.Visit(slug)).Content.ReadAsStringAsync(Cancel);
        var ticket = System.Text.RegularExpressions.Regex.Match(page, "\"ticket\":\"([^\"]+)\"").Groups[1].Value;
        HandoffTicket.TryParse(ticket, out var read).ShouldBeTrue();
        read!.Pixels.Select(p => p.ToString()).ShouldBe([pixel.Fairlead, pixel.Beaconry], ignoreOrder: true);
        (
            await world.Editor.PutAsJsonAsync($"/api/v1/pixels/{pixel.Fairlead}/attachments", new { campaigns = Array.Empty<string>() }, Cancel)
        ).EnsureSuccessStatusCode();
        (await world.Owner.DeleteAsync($"/api/v1/pixels/{pixel.Beaconry}", Cancel)).EnsureSuccessStatusCode();
        await Report(world, $"slug={slug}&ticket={ticket}&came=11", visitor: 1);
        await app.Shipped();
        Outcomes((await world.Get($"/api/v1/pixels/{pixel.Fairlead}/audience"))["outcomes"]!).ShouldBe((1, 0, 0, 0));
    }

    [Fact]
    public async Task Nobody_learns_by_a_made_up_report_where_a_link_will_lead()
    {
        var (world, slug, pixel) = await Ready();
        var link = (await world.Get("/api/v1/links?query=" + slug))["items"]![0]!;
        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{(string)link["id"]!}", new { opensAt = "2036-12-01T09:00" }, Cancel)
        ).EnsureSuccessStatusCode();
        foreach (var ticket in new[] { $"{pixel.Ticket}", $"1{$"{pixel.Ticket}"[1..]}", "7", "nonsense", "" })
        {
            var answer = await Report(world, $"slug={slug}&ticket={ticket}&answer=no");
            answer.StatusCode.ShouldBe(HttpStatusCode.NotFound, ticket);
            (await answer.Content.ReadAsStringAsync(Cancel)).ShouldBeEmpty();
        }
    }

    [Fact]
    public async Task Reports_of_the_team_of_machines_and_of_other_sites_pages_count_for_nobody()
    {
        var (world, slug, pixel) = await Ready();
        await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=11", change: r =>
        {
            r.Headers.UserAgent.Clear();
            r.Headers.UserAgent.ParseAdd("ExampleBot/2.0");
        });
        (
            await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=11", change: r => r.Headers.Add("Sec-Fetch-Site", "cross-site"))
        ).StatusCode.ShouldBe(HttpStatusCode.Forbidden);
        (await Report(world, $"slug=nothing&came=11")).StatusCode.ShouldBe(HttpStatusCode.NotFound);
        (await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=11&more={new string('x', 5000)}")).StatusCode.ShouldBe(
            HttpStatusCode.BadRequest
        );
        (await Report(world, $"slug={slug}&ticket={pixel.Ticket}&came=11", host: (await World.Make(app)).Domain)).StatusCode.ShouldBe(
            HttpStatusCode.NotFound
        );
        await app.Shipped();
        Outcomes((await world.Get($"/api/v1/pixels/{pixel.Fairlead}/audience"))["outcomes"]!).ShouldBe((0, 0, 0, 0));
    }

    [Fact]
    public async Task Whoever_must_be_asked_is_asked_in_their_language_and_nothing_can_fire_before()
    {
        var (world, slug, _) = await Ready("everybody");
        var response = await world.Visit(slug, r => r.Headers.Add("Accept-Language", "de-DE,de;q=0.9"));
        var page = await response.Content.ReadAsStringAsync(Cancel);
        page.ShouldContain("<html lang=\"de\">");
        page.ShouldContain("Dürfen sich Fairlead und Beaconry Ihren Besuch merken");
        page.ShouldNotContain("<noscript>");
        page.ShouldContain("<form method=\"post\"");
        (await (await world.Visit(slug, r => r.Headers.Add("Cookie", "cursus-consent=yes"))).Content.ReadAsStringAsync(Cancel)).ShouldNotContain(
            "<form"
        );
    }

    [Fact]
    public async Task A_workspace_that_has_chosen_nothing_asks_those_whose_country_nobody_knows()
    {
        var (world, slug, _) = await Ready(consent: null);
        ((string)(await world.Get("/api/v1/handoff"))["consent"]!).ShouldBe("listed");
        (await (await world.Visit(slug)).Content.ReadAsStringAsync(Cancel)).ShouldContain("<form");
    }

    [Theory]
    [InlineData("yes", 180)]
    [InlineData("no", 365)]
    public async Task An_answer_is_remembered_for_the_short_domain_and_no_longer_than_promised(string answer, int days)
    {
        var (world, slug, pixel) = await Ready("everybody");
        var response = await Report(world, $"slug={slug}&ticket={pixel.Ticket}&answer={answer}&remember=1");
        response.StatusCode.ShouldBe(HttpStatusCode.NoContent);
        var cookie = response.Headers.GetValues("Set-Cookie").ShouldHaveSingleItem();
        cookie
            .Split("; ")
            .Order(StringComparer.Ordinal)
            .ShouldBe(["cursus-consent=" + answer, "httponly", $"max-age={days * 86_400}", "path=/", "samesite=lax"]);
        await app.Shipped();
        Outcomes((await world.Get($"/api/v1/pixels/{pixel.Fairlead}/audience"))["outcomes"]!).ShouldBe(answer == "no" ? (0, 0, 1, 0) : (0, 0, 0, 0));
    }

    [Fact]
    public async Task Without_scripts_the_form_leads_on_and_only_a_yes_fires()
    {
        var (world, slug, pixel) = await Ready("everybody");
        var yes = await (await Report(world, $"slug={slug}&ticket={pixel.Ticket}&query=%3Fa%3D1&answer=yes")).Content.ReadAsStringAsync(Cancel);
        yes.ShouldContain("<noscript><meta http-equiv=\"refresh\"");
        yes.ShouldContain("https://px.fairlead.example/hit?p=FL-204417");
        var no = await (await Report(world, $"slug={slug}&ticket={pixel.Ticket}&answer=no")).Content.ReadAsStringAsync(Cancel);
        no.ShouldContain("http-equiv=\"refresh\"");
        no.ShouldNotContain("fairlead");
    }

    [Fact]
    public async Task What_the_visitor_brings_is_passed_on_through_the_page_and_the_deadline_is_the_links()
    {
        var (world, slug, _) = await Ready();
        var link = (await world.Get("/api/v1/links?query=" + slug))["items"]![0]!;
        (
            await world.Editor.PatchAsJsonAsync(
                $"/api/v1/links/{(string)link["id"]!}",
                new
                {
                    options = new
                    {
                        passQuery = "link-wins",
                        referrer = "hide",
                        handoffDeadline = 250,
                    },
                },
                Cancel
            )
        ).EnsureSuccessStatusCode();
        var response = await world.Visit(slug + "?ref=stall");
        var page = await response.Content.ReadAsStringAsync(Cancel);
        page.ShouldContain("&ref=stall");
        page.ShouldContain("\"wait\":250");
        response.Headers.GetValues("Referrer-Policy").ShouldBe(["no-referrer"]);
        (
            await world.Editor.PatchAsJsonAsync($"/api/v1/links/{(string)link["id"]!}", new { options = new { handoffDeadline = 5001 } }, Cancel)
        ).StatusCode.ShouldBe(HttpStatusCode.UnprocessableEntity);
    }

    [Fact]
    public async Task Attaching_and_taking_off_hold_at_the_next_visit()
    {
        var (world, slug, pixel) = await Ready();
        foreach (var id in new[] { pixel.Fairlead, pixel.Beaconry })
        {
            (
                await world.Editor.PutAsJsonAsync($"/api/v1/pixels/{id}/attachments", new { campaigns = Array.Empty<string>() }, Cancel)
            ).EnsureSuccessStatusCode();
        }

        (await world.Visit(slug)).StatusCode.ShouldBe(HttpStatusCode.Found);
        (
            await world.Editor.PutAsJsonAsync($"/api/v1/pixels/{pixel.Fairlead}/attachments", new { domains = new[] { world.Domain } }, Cancel)
        ).EnsureSuccessStatusCode();
        (await world.Visit(slug)).StatusCode.ShouldBe(HttpStatusCode.OK);
    }

    [Fact]
    public async Task Packed_for_browsers_that_take_it()
    {
        var (world, slug, _) = await Ready();
        var response = await world.Visit(slug, r => r.Headers.Add("Accept-Encoding", "gzip"));
        response.Content.Headers.ContentEncoding.ShouldBe(["gzip"]);
        (await response.Content.ReadAsByteArrayAsync(Cancel)).Length.ShouldBeLessThan(4096);
    }

    /// <summary>A link of a campaign that two pixels are attached to, and what its page sends back.</summary>
    private async Task<(World World, string Slug, (string Fairlead, string Beaconry, HandoffTicket Ticket) Pixel)> Ready(string? consent = "off")
    {
        var world = await World.Make(app);
        var pixel = await Pixels.SetUp(world);
        (await world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { consent }, Cancel)).EnsureSuccessStatusCode();
        foreach (var id in new[] { pixel.Fairlead, pixel.Beaconry })
        {
            (
                await world.Editor.PutAsJsonAsync($"/api/v1/pixels/{id}/attachments", new { campaigns = new[] { "winter-members" } }, Cancel)
            ).EnsureSuccessStatusCode();
        }

        return (
            world,
            World.Slug(await world.Send(), 0),
            (pixel.Fairlead, pixel.Beaconry, new(LinkPage.Destination, [Guid.Parse(pixel.Fairlead), Guid.Parse(pixel.Beaconry)]))
        );
    }

    /// <summary>What the page reports back.</summary>
    private Task<HttpResponseMessage> Report(
        World world,
        string form,
        int visitor = OnlyVisitor,
        Action<HttpRequestMessage>? change = null,
        string? host = null
    )
    {
        var request = new HttpRequestMessage(HttpMethod.Post, $"http://{host ?? world.Domain}/.well-known/cursus-handoff")
        {
            Content = new StringContent(form, System.Text.Encoding.UTF8, "application/x-www-form-urlencoded"),
        };
        World.As(request, visitor);
        change?.Invoke(request);
        return app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, HandleCookies = false })
            .SendAsync(request, Cancel);
    }

    private static (int Fired, int Missed, int Declined, int OptedOut) Outcomes(JsonNode of) =>
        ((int)of["fired"]!, (int)of["missed"]!, (int)of["declined"]!, (int)of["optedOut"]!);
}
