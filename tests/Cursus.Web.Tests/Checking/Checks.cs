using System.Net.Http.Json;
using System.Text.Json.Nodes;
using Cursus.Core.Checking;
using Cursus.Web.Checking;
using Cursus.Web.Outgoing;
using Microsoft.AspNetCore.Http;
using Microsoft.Extensions.Caching.Memory;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging.Abstractions;
using NodaTime;

namespace Cursus.Web.Tests.Checking;

/// <summary>A workspace with links to sites that do as they are told, and a link check whose clock is the test's.</summary>
internal sealed class Checks : IAsyncDisposable
{
    /// <summary>A round asks whatever is due, and takes away pages that nobody leads to, so that none may run beside another or beside tests that
    /// look at these pages.</summary>
    public const string OneAtATime = "link checks";

    private readonly StoppedClock clock = new(SystemClock.Instance.GetCurrentInstant() + Duration.FromMinutes(1));

    private Checks(World world, TestSites sites) => (World, Sites) = (world, sites);

    public World World { get; }

    public TestSites Sites { get; }

    /// <summary>Pages that the link check has asked: method, host and path.</summary>
    public IEnumerable<string> Asked => Sites.Log.Where(r => r.Agent == PageCheck.UserAgent).Select(r => r.What);

    public static async Task<Checks> Begin(CursusApp app) => new(await World.Make(app), await TestSites.Start());

    public ValueTask DisposeAsync() => Sites.DisposeAsync();

    public void GoOn(Duration by) => clock.GoOn(by);

    /// <summary>Lets a page answer with a title, or with a status where that is no success.</summary>
    public void Let(string page, string title, int status = 200, Action<HttpContext>? more = null) =>
        Sites.Pages[page] = async context =>
        {
            context.Response.StatusCode = status;
            more?.Invoke(context);
            await context.Response.WriteAsync($"<title>{title}</title><h1>{title}</h1>");
        };

    /// <summary>Makes a link to a page, and returns it.</summary>
    public async Task<JsonNode> Link(string page, Action<JsonObject>? change = null)
    {
        var (host, path) = (page[..page.IndexOf('/', StringComparison.Ordinal)], page[page.IndexOf('/', StringComparison.Ordinal)..]);
        var wish = new JsonObject { ["title"] = page, ["destination"] = Sites.At(path, host) };
        change?.Invoke(wish);
        var response = await World.Editor.PostAsJsonAsync("/api/v1/links", wish, TestContext.Current.CancellationToken);
        var link = await World.Read(response);
        response.IsSuccessStatusCode.ShouldBeTrue(link.ToJsonString());
        return await World.Get($"/api/v1/links/{link["id"]}");
    }

    /// <summary>What the check says of the page that a link leads to, after asking it.</summary>
    public async Task<JsonNode> Ask(JsonNode link)
    {
        await Round().Check(Guid.Parse((string)link["check"]!["page"]!), TestContext.Current.CancellationToken);
        await World.App.Feed.CatchUp();
        return (await World.Get($"/api/v1/links/{link["id"]}"))["check"]!;
    }

    /// <summary>A round over everything that is due by the test's clock.</summary>
    public async Task RunRound()
    {
        await Round().Run(TestContext.Current.CancellationToken);
        await World.App.Feed.CatchUp();
    }

    public async Task<JsonNode> Do(HttpMethod method, string path, object? body = null)
    {
        var response = await World.Editor.SendAsync(
            new HttpRequestMessage(method, "/api/v1/" + path) { Content = body as HttpContent ?? (body is null ? null : JsonContent.Create(body)) },
            TestContext.Current.CancellationToken
        );
        var text = await response.Content.ReadAsStringAsync(TestContext.Current.CancellationToken);
        response.IsSuccessStatusCode.ShouldBeTrue(text);
        return JsonNode.Parse(text.Length == 0 ? "{}" : text)!;
    }

    /// <summary>Where a visitor of a link is sent, and with which status.</summary>
    public async Task<(int Status, string To)> Follow(JsonNode link)
    {
        var answer = await World.Visit((string)link["slug"]!);
        return ((int)answer.StatusCode, answer.Headers.Location!.ToString());
    }

    /// <summary>A page whose very address breaks the check, as a fault in it would.</summary>
    public string? Breaking { get; set; }

    private CheckRound Round()
    {
        var services = World.App.Services;
        var (outgoing, options) = (services.GetRequiredService<OutgoingClient>(), services.GetRequiredService<LinkCheckOptions>());
        var check = new BreakablePageCheck(() => Breaking, outgoing, new SiteRules(outgoing, new MemoryCache(new MemoryCacheOptions())), options);
        return new(services.GetRequiredService<IServiceScopeFactory>(), check, options, clock, NullLogger<CheckRound>.Instance);
    }

    private sealed class BreakablePageCheck(Func<string?> breaking, OutgoingClient outgoing, SiteRules rules, LinkCheckOptions options)
        : PageCheck(outgoing, rules, options)
    {
        public override Task<PageAnswer> Ask(string address, PageState known, Func<string, bool> isOwn, CancellationToken cancel) =>
            breaking() is { } part && address.Contains(part, StringComparison.Ordinal)
                ? throw new InvalidOperationException("as a parser might")
                : base.Ask(address, known, isOwn, cancel);
    }
}
