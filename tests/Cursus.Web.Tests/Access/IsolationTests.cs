using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Cursus.Core.Checking;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Authorization;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.AspNetCore.Routing;
using Microsoft.EntityFrameworkCore;
using Microsoft.Extensions.DependencyInjection;

namespace Cursus.Web.Tests.Access;

/// <summary>
/// A workspace never sees another's data. The endpoints are taken from the application itself, so that a new one is tested without being named here.
/// Each check is also made as it would be with a leak (by the other workspace's own member), where it must find what it looks for: a check that can't
/// fail fails.
/// </summary>
public partial class IsolationTests(CursusApp app)
{
    /// <summary>What lists and reports are asked, where they need more than the usual.</summary>
    private static readonly Dictionary<string, Func<World, string>> Questions = new() { ["/api/v1/channels/proposal"] = _ => "name=Guildhall" };

    /// <summary>Lists and answers in which a workspace's own names can't stand; why.</summary>
    private static readonly Dictionary<string, string> SayNothingOfAnybody = new()
    {
        ["/api/v1/background-work"] = "the installation’s, not a workspace’s",
        ["/api/v1/batches/template.csv"] = "the same for all",
        ["/api/v1/channels/starter-set"] = "the same for all",
        ["/api/v1/channels/proposal"] = "made of the name that is asked",
        ["/api/v1/codes/places"] = "the same for all",
        ["/api/v1/link-checks/summary"] = "counts",
        ["/api/v1/campaigns/proposals"] = "made of the name that is asked",
        ["/api/v1/workspace/time-zone"] = "a time zone",
    };

    /// <summary>Endpoints that are checked elsewhere, and where.</summary>
    private static readonly Dictionary<string, string> CheckedElsewhere = new()
    {
        ["/api/v1/clicks/live"] = "LiveClicksTests.A_click_arrives_at_once_at_its_own_workspace_and_at_no_other",
        ["/api/v1/session/introduction"] = "leads over domains of the member's workspace that are named: SignInTests",
        ["/api/v1/destinations/look"] = "tells of a page outside: PageReadingTests",
    };

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    [Fact]
    public async Task Every_entry_of_another_workspace_does_not_exist()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var foreign = await IdsOf(other);
        var (twin, own) = (other, foreign);
        var withId = Endpoints().Where(e => e.Pattern.Contains("{id", StringComparison.Ordinal)).OrderBy(e => e.Method == "DELETE").ToList();
        withId.Count.ShouldBeGreaterThan(80);
        foreach (var (method, pattern) in withId)
        {
            (await Ask(mine.Owner, method, Filled(pattern, foreign))).ShouldBe(HttpStatusCode.NotFound, $"{method} {pattern}");
        }

        (await IdsOf(other, make: false)).ShouldBe(foreign, ignoreOrder: true);

        // The same requests find the entries for the workspace that has them, so that nothing else made them fail.
        foreach (var (method, pattern) in withId)
        {
            if (await Ask(twin.Owner, method, Filled(pattern, own)) != HttpStatusCode.NotFound)
            {
                continue;
            }

            // An earlier request has taken the entry away.
            twin = await World.Make(app);
            own = await IdsOf(twin);
            (await Ask(twin.Owner, method, Filled(pattern, own))).ShouldNotBe(HttpStatusCode.NotFound, $"{method} {pattern} of its own workspace");
        }
    }

    [Fact]
    public async Task No_list_and_no_report_shows_anything_of_another_workspace()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        var lists = Endpoints()
            .Where(e => e.Method == "GET" && !e.Pattern.Contains('{', StringComparison.Ordinal) && !CheckedElsewhere.ContainsKey(e.Pattern))
            .Select(e => e.Pattern)
            .ToList();
        lists.Count.ShouldBeGreaterThan(50);
        var pictures = lists.Where(p => p.EndsWith(".png", StringComparison.Ordinal) || p.EndsWith(".svg", StringComparison.Ordinal)).ToList();
        var (mineBefore, otherBefore) = (await Pictures(mine, pictures), await Pictures(other, pictures));

        var foreign = await IdsOf(other);
        var post = await World.Read(await other.Owner.GetAsync($"/api/v1/posts/{foreign["posts"]}", Cancel));
        foreach (var placement in Enumerable.Range(0, 3))
        {
            await other.Visit(World.Slug(post, placement), r => r.Headers.Referrer = new Uri($"https://forum.{other.Domain}/"));
        }

        await app.Shipped();
        string[] secrets = [.. foreign.Values.Where(id => Guid.TryParse(id, out _)), other.Domain, other.Workspace.Name, other.OwnerEmail];
        var silent = new List<string>();
        foreach (var pattern in lists.Except(pictures))
        {
            var (hidden, shown) = (await Text(mine, pattern, other), await Text(other, pattern, other));
            secrets.Where(s => hidden.Contains(s, StringComparison.Ordinal)).ShouldBeEmpty(pattern);
            if (!secrets.Any(s => shown.Contains(s, StringComparison.Ordinal)))
            {
                silent.Add(pattern);
            }
        }

        silent.ShouldBe(SayNothingOfAnybody.Keys, ignoreOrder: true, "the check finds nothing in these even where their own member asks");

        // Pictures hold outlines instead of text: one of a workspace without clicks is the same to the byte, however many another has, whose own has
        // changed.
        (await Pictures(mine, pictures)).ShouldBe(mineBefore);
        var otherAfter = await Pictures(other, pictures);
        pictures.ShouldAllBe(p => otherAfter[p] != otherBefore[p]);

        var asked = await mine.Breakdown($"by=link&link={post["placements"]![0]!["link"]!["id"]}");
        ((int)asked["total"]!["clicks"]!).ShouldBe(0);
    }

    [Fact]
    public async Task Another_workspaces_words_cannot_be_used()
    {
        var (mine, other) = (await World.Make(app), await World.Make(app));
        await other.Owner.PostAsJsonAsync("/api/v1/campaigns", new { name = "Perseid nights" }, Cancel);
        var refused = await mine.Editor.PostAsJsonAsync(
            "/api/v1/posts",
            World.Post(p =>
            {
                p["campaign"] = "perseid-nights";
                p["domain"] = other.Domain;
            }),
            Cancel
        );
        var errors = (await World.Read(refused))["errors"]!;
        errors["campaign"].ShouldNotBeNull();
        errors["domain"].ShouldNotBeNull();
        (await mine.Owner.PostAsJsonAsync("/api/v1/domains", new { name = other.Domain }, Cancel)).StatusCode.ShouldBe(HttpStatusCode.Conflict);
    }

    private List<(string Method, string Pattern)> Endpoints() =>
        [
            .. app
                .Services.GetRequiredService<EndpointDataSource>()
                .Endpoints.OfType<RouteEndpoint>()
                .Where(e => e.Metadata.GetMetadata<IAuthorizeData>() is not null)
                .SelectMany(e =>
                    e.Metadata.GetRequiredMetadata<IHttpMethodMetadata>().HttpMethods.Select(m => (m, "/" + e.RoutePattern.RawText!.TrimStart('/')))
                ),
        ];

    /// <summary>An endpoint's path, for entries of the feature that its path names.</summary>
    private static string Filled(string pattern, Dictionary<string, string> ids) =>
        Parameter()
            .Replace(pattern, found =>
            {
                var name = found.Groups["name"].Value;
                var key =
                    name != "id" ? name
                    : pattern is "/api/v1/batches/{id:guid}/undo" or "/api/v1/batches/{id:guid}/result.csv" ? "a batch that was run"
                    : pattern.Contains("/sign-ins/", StringComparison.Ordinal) ? "account/sign-ins"
                    : pattern.Contains("/passkeys/", StringComparison.Ordinal) ? "account/passkeys"
                    : pattern.Split('/')[3];
                return ids.TryGetValue(key, out var value)
                    ? value
                    : throw new InvalidOperationException($"{pattern} needs an entry of another workspace to be tested with");
            });

    [GeneratedRegex(@"\{(?<name>\w+)(:\w+)?\}")]
    private static partial Regex Parameter();

    private async Task<HttpStatusCode> Ask(HttpClient member, string method, string path)
    {
        using var client = app.CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false });
        client.DefaultRequestHeaders.Authorization = member.DefaultRequestHeaders.Authorization;
        var request = new HttpRequestMessage(new HttpMethod(method), path)
        {
            Content = method is "GET" or "DELETE" ? null : JsonContent.Create(new { name = "Taken over" }),
        };
        return (await client.SendAsync(request, Cancel)).StatusCode;
    }

    /// <summary>What a list or report says to a member who asks for another workspace's things.</summary>
    private static async Task<string> Text(World world, string pattern, World about)
    {
        var question =
            Questions.TryGetValue(pattern, out var ask) ? ask(about)
            : pattern.Contains("/reports/", StringComparison.Ordinal) ? "by=link&across=post&period=this-year"
            : $"query={about.Domain}&limit=500";
        var response = await world.Owner.GetAsync($"{pattern}?{question}", Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.OK, $"{pattern}: {await response.Content.ReadAsStringAsync(Cancel)}");
        return (await AnswerText.Of(response, Cancel)).ShouldNotBeNull(pattern);
    }

    private static async Task<Dictionary<string, string>> Pictures(World world, IEnumerable<string> patterns)
    {
        var pictures = new Dictionary<string, string>();
        foreach (var pattern in patterns)
        {
            var response = await world.Owner.GetAsync(
                $"{pattern}?{(pattern.Contains("map", StringComparison.Ordinal) ? "by=country" : "by=link")}&across=post&period=this-year",
                Cancel
            );
            (response.StatusCode, response.Content.Headers.ContentType!.MediaType!.Split('/')[0]).ShouldBe((HttpStatusCode.OK, "image"), pattern);
            pictures[pattern] = Convert.ToHexString(
                System.Security.Cryptography.SHA256.HashData(await response.Content.ReadAsByteArrayAsync(Cancel))
            );
        }

        return pictures;
    }

    /// <summary>One entry of each feature that has entries, by the names of the parameters that stand for them in paths.</summary>
    private static async Task<Dictionary<string, string>> IdsOf(World world, bool make = true)
    {
        if (make)
        {
            await world.Send(p =>
            {
                p["title"] = $"Geminids over {world.Domain}";
                p["tags"] = new JsonArray("event");
                p["placements"] = JsonNode.Parse(
                    """[{ "channel": "guildhall", "variant": "logo" }, { "channel": "guildhall", "variant": "button" }, { "channel": "perch" }]"""
                );
            });
            await Make(world, "tokens", new { name = $"mine of {world.Domain}" });
            await Make(world, "recipes", new { name = $"As on {world.Domain}", content = World.Post() });
            (await world.Owner.PutAsJsonAsync($"/api/v1/drafts/{Guid.NewGuid()}", World.Post(), Cancel)).EnsureSuccessStatusCode();
            await Make(world, "agreed-values", new { field = "term", value = world.Domain });
            await Make(
                world,
                "tag-merges",
                new
                {
                    field = "source",
                    from = world.Domain,
                    into = "perch",
                }
            );
            await Batches.BatchSteps.Made(world, await Upload(world), new { });
            await Upload(world);
            await Make(world, "referrer-rules", new { host = $"forum.{world.Domain}", channel = "perch" });
            await Make(world, "views", new { name = $"Year of {world.Domain}", question = "by=channel&period=this-year" });
            await Make(
                world,
                "routes",
                new
                {
                    name = $"By country, {world.Domain}",
                    routes = new { otherwise = new { to = new[] { new { destination = $"https://shop.{world.Domain}/" } } } },
                }
            );
            await Make(
                world,
                "ad-networks",
                JsonNode.Parse(Retargeting.Pixels.Picture.Replace("\"Fairlead\"", $"\"Fairlead of {world.Domain}\"", StringComparison.Ordinal))!
            );
            await Make(
                world,
                "pixels",
                new
                {
                    name = $"Of {world.Domain}",
                    network = "image-pixel",
                    reference = $"https://{world.Domain}/p.gif",
                }
            );
            await Make(world, "code-styles", new { name = $"Plum of {world.Domain}" });
            (
                await world.Owner.PostAsync(
                    $"/api/v1/code-logos?name={world.Domain}",
                    new StringContent(
                        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 8 8'><rect width='8' height='8'/></svg>",
                        null,
                        "image/svg+xml"
                    ),
                    Cancel
                )
            ).EnsureSuccessStatusCode();
            await Make(world, "saved-filters", new { name = $"Of {world.Domain}", filter = $"domain={world.Domain}" });
            await Make(world, "campaigns", new { name = $"Nights of {world.Domain}" });
            await world.ChangeMany(new { links = new { filter = new { } }, change = new { addTags = new[] { $"from {world.Domain}" } } });
            foreach (var term in new[] { world.Domain, $"{world.Domain}s" })
            {
                await Make(
                    world,
                    "links",
                    new
                    {
                        destination = "https://www.northmoor.example/shop",
                        channel = "perch",
                        campaign = "winter-members",
                        term,
                    }
                );
            }

            (
                await world.Owner.PatchAsJsonAsync("/api/v1/handoff", new { line = $"Brought to you by {world.Domain}" }, Cancel)
            ).EnsureSuccessStatusCode();
            (
                await world.Owner.PatchAsJsonAsync("/api/v1/link-checks/settings", new { goneWords = new[] { $"gone from {world.Domain}" } }, Cancel)
            ).EnsureSuccessStatusCode();
            await using var db = world.App.Database();
            await db
                .CheckedPages.Where(c => c.WorkspaceId == world.Workspace.Id)
                .ExecuteUpdateAsync(c => c.SetProperty(x => x.Verdict, PageVerdict.Gone).SetProperty(x => x.NeedsCare, true), Cancel);
            await Make(world, "webhooks", new { address = $"https://hook.{world.Domain}/", events = new[] { "link-created" } });
            await Make(world, "folders", new { name = $"Shop of {world.Domain}" });
            await Make(world, "invitations", new { emails = new[] { $"ines@{world.Domain}" } });
            var owner = await db.Users.Where(a => a.Email == world.OwnerEmail).Select(a => a.Id).SingleAsync(Cancel);
            db.Add(
                new IdentityUserPasskey<Guid>
                {
                    UserId = owner,
                    CredentialId = owner.ToByteArray(),
                    Data = new IdentityPasskeyData
                    {
                        Name = $"Laptop at {world.Domain}",
                        PublicKey = [],
                        AttestationObject = [],
                        ClientDataJson = [],
                    },
                }
            );
            db.Add(
                new SignIn
                {
                    AccountId = owner,
                    LastUsedAt = NodaTime.SystemClock.Instance.GetCurrentInstant(),
                    Device = $"Browser of {world.Domain}",
                }
            );
            await db.SaveChangesAsync(Cancel);
        }

        var ids = new Dictionary<string, string> { ["channel"] = "guildhall", ["number"] = "1" };
        foreach (
            var feature in new[]
            {
                "posts",
                "links",
                "channels",
                "campaigns",
                "domains",
                "tags",
                "tokens",
                "webhooks",
                "members",
                "invitations",
                "account/sign-ins",
                "audit/people",
                "folders",
                "recipes",
                "drafts",
                "agreed-values",
                "tag-merges",
                "batches",
                "referrer-rules",
                "views",
                "routes",
                "pixels",
                "code-styles",
                "code-logos",
                "saved-filters",
                "link-changes",
                "link-checks",
            }
        )
        {
            var list = await World.Read(await world.Owner.GetAsync($"/api/v1/{feature}", Cancel));
            ids[feature] = (string)list["items"]![0]!["id"]!;
        }

        if (make)
        {
            await world.Owner.PostAsync($"/api/v1/webhooks/{ids["webhooks"]}/test", null, Cancel);
        }

        ids["delivery"] = (string)
            (await World.Read(await world.Owner.GetAsync($"/api/v1/webhooks/{ids["webhooks"]}/deliveries", Cancel)))["items"]![0]!["id"]!;
        ids["account/passkeys"] = (string)(await World.Read(await world.Owner.GetAsync("/api/v1/account/two-step", Cancel)))["passkeys"]![0]!["id"]!;
        ids["a batch that was run"] = (string)(await World.Read(await world.Owner.GetAsync("/api/v1/batches", Cancel)))["items"]![1]!["id"]!;
        if (make)
        {
            ids["share"] = (string)(await Make(world, $"views/{ids["views"]}/shares", new { name = $"Trustees of {world.Domain}" }))["id"]!;
            await Make(world, $"links/{ids["links"]}/codes", new { name = $"Poster at {world.Domain}" });
        }
        else
        {
            var view = await World.Read(await world.Owner.GetAsync($"/api/v1/views/{ids["views"]}", Cancel));
            ids["share"] = (string)view["shares"]![0]!["id"]!;
        }

        ids["number"] =
            $"{(await World.Read(await world.Owner.GetAsync($"/api/v1/links/{ids["links"]}/codes", Cancel)))["codes"]!.AsArray().Max(c => (int)c!["number"]!)}";

        return ids;
    }

    private static async Task<JsonNode> Upload(World world)
    {
        var response = await world.Owner.PostAsync($"/api/v1/batches?name={world.Domain}", new StringContent("northmoor.example"), Cancel);
        response.StatusCode.ShouldBe(HttpStatusCode.Created);
        return await World.Read(response);
    }

    private static async Task<JsonNode> Make(World world, string feature, object entry)
    {
        var response = await world.Owner.PostAsJsonAsync($"/api/v1/{feature}", entry, Cancel);
        response.IsSuccessStatusCode.ShouldBeTrue($"{feature}: {await response.Content.ReadAsStringAsync(Cancel)}");
        return await World.Read(response);
    }
}
