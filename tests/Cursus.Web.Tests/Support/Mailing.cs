using System.Net;
using System.Net.Http.Json;
using System.Text.Json.Nodes;
using System.Text.RegularExpressions;
using Cursus.Web.Mail;
using Microsoft.AspNetCore.Mvc.Testing;
using Microsoft.Extensions.DependencyInjection;
using MimeKit;

namespace Cursus.Web.Tests.Support;

/// <summary>The application with a mail server, one for all tests of a run, since whoever sends mail sends all that waits in the database.</summary>
public sealed partial class Mailing : IAsyncDisposable
{
    private readonly MailServer server = new();
    private readonly SemaphoreSlim turn = new(1);
    private readonly WebApplicationFactory<Program> app;
    private int browsers;

    internal Mailing(CursusApp on)
    {
        app = on.WithWebHostBuilder(builder =>
            builder
                .UseSetting("Cursus:Mail:Host", "127.0.0.1")
                .UseSetting("Cursus:Mail:Port", $"{server.Port}")
                .UseSetting("Cursus:Mail:Security", "None")
                .UseSetting("Cursus:AppAddress", "http://localhost")
                .UseSetting("Cursus:JournalFolder", on.Folder("journal-mailing"))
                .UseSetting("Cursus:SnapshotFile", on.Folder("mailing.snapshot"))
        );

        // Started once, here: tests that ask for it at the same time would start one each.
        _ = app.Server;
    }

    public async ValueTask DisposeAsync()
    {
        await app.DisposeAsync();
        await server.DisposeAsync();
        turn.Dispose();
    }

    /// <summary>A client with somebody's token.</summary>
    public HttpClient As(HttpClient somebody)
    {
        var client = app.CreateClient();
        client.DefaultRequestHeaders.Authorization = somebody.DefaultRequestHeaders.Authorization;
        return client;
    }

    /// <summary>A browser that nobody is signed in in, from a network of its own.</summary>
    public Browser NewBrowser()
    {
        var client = app.CreateClient();
        client.DefaultRequestHeaders.Add("X-Forwarded-For", $"198.51.{Interlocked.Increment(ref browsers) / 250}.{(browsers % 250) + 1}");
        client.DefaultRequestHeaders.Add("User-Agent", "Mozilla/5.0 (X11; Linux x86_64; rv:140.0) Gecko/20100101 Firefox/140.0");
        return new Browser(client);
    }

    /// <summary>Sends what waits, and returns what has come for an address so far, oldest first.</summary>
    public async Task<List<MimeMessage>> MailsOf(string email)
    {
        await turn.WaitAsync(TestContext.Current.CancellationToken);
        try
        {
            await using var scope = app.Services.CreateAsyncScope();
            await scope.ServiceProvider.GetRequiredService<MailSending>().Run(TestContext.Current.CancellationToken);
        }
        finally
        {
            turn.Release();
        }

        return [.. server.Letters.Where(l => l.To.Mailboxes.Single().Address == email)];
    }

    /// <summary>The secret of the link in the last e-mail to an address.</summary>
    public async Task<string> LastSecret(string email) => SecretIn((await MailsOf(email))[^1]);

    public static string SecretIn(MimeMessage mail) => Link().Match(mail.TextBody!).Groups[1].Value;

    [GeneratedRegex(@"http://localhost/[a-z-]+#(\S+)")]
    private static partial Regex Link();
}

/// <summary>A browser of one person, with its cookies.</summary>
public sealed class Browser(HttpClient client, string below = "")
{
    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    /// <summary>The same browser at the addresses of one workspace.</summary>
    public Browser At(string workspace) => new(client, $"/w/{workspace}");

    public async Task<HttpResponseMessage> Send(HttpMethod method, string path, object? body = null)
    {
        var request = new HttpRequestMessage(method, $"{below}/api/v1/{path}") { Content = body is null ? null : JsonContent.Create(body) };
        if (method != HttpMethod.Get && await Session() is { } session)
        {
            request.Headers.Add("X-CSRF-Token", (string)session["csrfToken"]!);
        }

        return await client.SendAsync(request, Cancel);
    }

    public Task<HttpResponseMessage> Post(string path, object body) => Send(HttpMethod.Post, path, body);

    public async Task<JsonNode> Get(string path) => await World.Read(await Send(HttpMethod.Get, path));

    /// <summary>Who is signed in; null where nobody is.</summary>
    public async Task<JsonNode?> Session()
    {
        var answer = await client.GetAsync($"{below}/api/v1/session", Cancel);
        return answer.StatusCode == HttpStatusCode.OK ? await World.Read(answer) : null;
    }

    public async Task<HttpStatusCode> SignIn(string email, string password) => (await Post("session", new { email, password })).StatusCode;
}
