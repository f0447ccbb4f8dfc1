using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Data.Addresses;
using Cursus.Data.Posts;
using Cursus.Data.Workspaces;
using Microsoft.AspNetCore.Identity;
using Microsoft.AspNetCore.Mvc.Testing;
using NodaTime;

namespace Cursus.Web.Tests.Support;

/// <summary>A workspace of one test: three members with tokens, four channels, one campaign, one short domain.</summary>
public sealed class World
{
    public const string Password = "northern-lights";

    /// <summary>Made once, since hashing a password takes long on purpose.</summary>
    private static readonly string PasswordHash = new PasswordHasher<Account>().HashPassword(null!, Password);

    private static int made;
    private static int visitors = 1000;

    private World(CursusApp app) => App = app;

    public CursusApp App { get; }
    public required Workspace Workspace { get; init; }
    public required string Domain { get; init; }
    public required HttpClient Owner { get; init; }
    public required HttpClient Editor { get; init; }
    public required HttpClient Viewer { get; init; }
    public required string OwnerEmail { get; init; }

    public static async Task<World> Make(CursusApp app, string timeZone = "Europe/London")
    {
        var number = Interlocked.Increment(ref made);
        var now = SystemClock.Instance.GetCurrentInstant();
        await using var db = app.Database();
        var workspace = new Workspace
        {
            Name = $"Observatory {number}",
            Key = $"observatory-{number}",
            TimeZone = timeZone,
            CreatedAt = now,
        };
        var domain = new ShortDomain
        {
            WorkspaceId = workspace.Id,
            Name = $"w{number}.localhost",
            IsDefault = true,
            VerifiedAt = now,
            CreatedAt = now,
        };
        db.AddRange(
            workspace,
            domain,
            new Campaign
            {
                WorkspaceId = workspace.Id,
                Key = "winter-members",
                Name = "Winter members",
            }
        );
        string[] channels = ["Guildhall", "Perch", "Hearthside", "Night Letter"];
        db.AddRange(
            channels.Select(
                (name, i) =>
                    new Channel
                    {
                        WorkspaceId = workspace.Id,
                        Key = Key(name),
                        Name = name,
                        Source = Key(name),
                        Medium = i == 3 ? "email" : "social",
                        Signet = name[..2],
                        Position = i,
                    }
            )
        );
        var clients = new Dictionary<Role, HttpClient>();
        foreach (var role in Enum.GetValues<Role>())
        {
            var email = $"{role}-{number}@northmoor.example".ToLowerInvariant();
            var account = new Account
            {
                Name = $"{role}",
                Email = email,
                UserName = email,
                NormalizedEmail = email.ToUpperInvariant(),
                NormalizedUserName = email.ToUpperInvariant(),
                SecurityStamp = "x",
                LockoutEnabled = true,
            };
            account.PasswordHash = PasswordHash;
            var member = new Member
            {
                WorkspaceId = workspace.Id,
                AccountId = account.Id,
                Role = role,
                CreatedAt = now,
            };
            var (token, text) = ApiToken.Make(member.Id, "test", now);
            db.AddRange(account, member, token);
            clients[role] = app.CreateClient();
            clients[role].DefaultRequestHeaders.Authorization = new AuthenticationHeaderValue("Bearer", text);
        }

        await db.SaveChangesAsync();
        await app.Feed.CatchUp();
        return new World(app)
        {
            Workspace = workspace,
            Domain = domain.Name,
            OwnerEmail = $"owner-{number}@northmoor.example",
            Owner = clients[Role.Owner],
            Editor = clients[Role.Editor],
            Viewer = clients[Role.Viewer],
        };
    }

    /// <summary>Sends a post; the request may be changed first.</summary>
    public async Task<JsonNode> Send(Action<JsonObject>? change = null)
    {
        var response = await Editor.PostAsJsonAsync("/api/v1/posts", Post(change), TestContext.Current.CancellationToken);
        response.StatusCode.ShouldBe(
            System.Net.HttpStatusCode.Created,
            await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken)
        );
        return (await response.Content.ReadFromJsonAsync<JsonNode>(TestContext.Current.CancellationToken))!;
    }

    /// <summary>A good request for a post on Guildhall and Perch, to be made worse.</summary>
    public static JsonObject Post(Action<JsonObject>? change = null)
    {
        var post = JsonNode
            .Parse(
                """
                {
                  "title": "Geminids night", "destination": "https://www.northmoor.example/events/geminids-night?lang=en#top", "campaign": "winter-members",
                  "placements": [{ "channel": "guildhall" }, { "channel": "perch" }]
                }
                """
            )!
            .AsObject();
        change?.Invoke(post);
        return post;
    }

    /// <summary>Follows a short address as a visitor's browser would, without going on to the destination. Each visit is another visitor's unless
    /// <paramref name="change"/> says who it is (<see cref="As"/>).</summary>
    public Task<HttpResponseMessage> Visit(string slug, Action<HttpRequestMessage>? change = null, string? host = null, CursusApp? through = null)
    {
        var request = new HttpRequestMessage(HttpMethod.Get, $"http://{host ?? Domain}/{slug}");
        As(request, Interlocked.Increment(ref visitors));
        change?.Invoke(request);
        return (through ?? App)
            .CreateClient(new WebApplicationFactoryClientOptions { AllowAutoRedirect = false, HandleCookies = false })
            .SendAsync(request, TestContext.Current.CancellationToken);
    }

    /// <summary>Makes a request the one visitor's of this number.</summary>
    public static void As(HttpRequestMessage request, int visitor)
    {
        request.Headers.UserAgent.Clear();
        request.Headers.UserAgent.ParseAdd($"Mozilla/5.0 (X11; Linux x86_64) AppleWebKit/537.36 Person/{visitor}");
    }

    /// <summary>Changes many links at once, and waits until that is over.</summary>
    public async Task<JsonNode> ChangeMany(object request)
    {
        var begun = await Editor.PostAsJsonAsync("/api/v1/link-changes", request, TestContext.Current.CancellationToken);
        begun.StatusCode.ShouldBe(System.Net.HttpStatusCode.Accepted, await begun.Content.ReadAsStringAsync(TestContext.Current.CancellationToken));
        var change = await Read(begun);
        while ((string)change["state"]! == "running")
        {
            await Task.Delay(50, TestContext.Current.CancellationToken);
            change = await Get($"/api/v1/link-changes/{change["id"]}");
        }

        return change;
    }

    /// <summary>The breakdown report, after every click so far has been stored.</summary>
    public async Task<JsonNode> Breakdown(string query)
    {
        await App.Shipped();
        return await Get("/api/v1/reports/breakdown?" + query);
    }

    public async Task<JsonNode> Get(string path)
    {
        var response = await Viewer.GetAsync(path, TestContext.Current.CancellationToken);
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        response.IsSuccessStatusCode.ShouldBeTrue(text);
        return JsonNode.Parse(text)!;
    }

    public static string Slug(JsonNode post, int placement) => (string)post["placements"]![placement]!["link"]!["slug"]!;

    /// <summary>A client in a network of its own: attempts to sign in are counted by network and minute, and other tests sign in as well.</summary>
    public static HttpClient FromAnyNetwork(HttpClient client)
    {
        ArgumentNullException.ThrowIfNull(client);
        client.DefaultRequestHeaders.Add("X-Forwarded-For", $"2001:db8:{Random.Shared.Next(256, 65536):x}:{Random.Shared.Next(65536):x}::1");
        return client;
    }

    public static async Task<JsonNode> Read(HttpResponseMessage response) =>
        JsonNode.Parse(await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken))!;

    private static string Key(string name) => name.ToLowerInvariant().Replace(' ', '-');
}
