using System.IO.Pipelines;
using System.Text;
using System.Text.Json.Nodes;
using Cursus.Edge;
using Microsoft.AspNetCore.Connections;
using Microsoft.AspNetCore.Connections.Features;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Options;

namespace Cursus.Web.Tests.Edge;

/// <summary>Visits that are answered before the web server makes anything of them, and all that is left to it.</summary>
public class EdgeConnectionTests(CursusApp app)
{
    private const string Browser = "User-Agent: Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0\r\n";

    private const string Visitor = Browser + "Accept: text/html,*/*;q=0.8\r\nAccept-Language: en\r\n";

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private EdgeConnection Edge => app.Services.GetRequiredService<EdgeConnection>();

    [Theory]
    [InlineData(301, false)]
    [InlineData(302, true)]
    [InlineData(307, false)]
    [InlineData(308, true)]
    public async Task A_plain_visit_is_answered_as_the_web_server_answers_it(int redirect, bool isHidden)
    {
        var world = await World.Make(app);
        var slug = World.Slug(
            await world.Send(p =>
            {
                p["redirect"] = redirect;
                p["options"] = isHidden ? new JsonObject { ["hideFromSearch"] = true, ["referrer"] = "hide" } : [];
            }),
            0
        );
        var expected = await world.Visit(slug);

        var (answer, left) = await Talk(Get(world, slug));

        left.ShouldBeNull();
        var lines = answer.Split("\r\n");
        lines[0].ShouldBe($"HTTP/1.1 {redirect} {expected.ReasonPhrase}");
        lines[^2..].ShouldBe(["", ""]);
        var headers = lines[1..^2].Select(l => l.Split(": ", 2)).ToDictionary(l => l[0], l => l[1]);
        headers.Remove("Date", out var date).ShouldBeTrue();
        DateTimeOffset.ParseExact(date!, "R", null).ShouldBe(DateTimeOffset.UtcNow, TimeSpan.FromSeconds(5));
        headers.Remove("Content-Length", out var length).ShouldBeTrue();
        length.ShouldBe("0");
        headers.ShouldBe(expected.Headers.NonValidated.ToDictionary(h => h.Key, h => h.Value.ToString()), ignoreOrder: true);
    }

    [Theory]
    [InlineData("")]
    [InlineData(Browser)]
    [InlineData("User-Agent: curl/8.5.0\r\n")]
    [InlineData(Browser + "Referer: https://www.perch.localhost/feed?who=somebody\r\nAccept-Language: de-DE,de;q=0.9\r\n")]
    [InlineData(Browser + "Sec-Purpose: prefetch;prerender\r\n")]
    [InlineData(Browser + "X-Moz: prefetch\r\n")]
    [InlineData(Browser + "Sec-CH-UA-Platform: \"Android\"\r\nSec-CH-UA-Mobile: ?1\r\nSec-CH-UA-Form-Factors: \"Tablet\"\r\n")]
    [InlineData(
        Browser
            + "Accept: text/html,*/*;q=0.8\r\nAccept-Language: en\r\nSec-Fetch-Mode: navigate\r\nSec-CH-UA: \"Chromium\";v=\"141\"\r\nX-Forwarded-Proto: https\r\n"
    )]
    [InlineData(Browser + "Accept: */*\r\nSec-Fetch-Mode: cors\r\nX-Forwarded-Proto: http\r\n")]
    [InlineData(Browser + "X-Forwarded-For: 203.0.113.7\r\naccept:*/*\r\nACCEPT-LANGUAGE:\tfr \r\n")]
    public async Task It_counts_as_the_web_servers_does(string headers)
    {
        var world = await World.Make(app);
        var post = await world.Send();
        var (usual, plain) = (World.Slug(post, 0), World.Slug(post, 1));
        await world.Visit($"{usual}/7", request =>
        {
            request.Headers.Clear();
            request.Headers.Host = world.Domain;
            foreach (var line in headers.Split("\r\n", StringSplitOptions.RemoveEmptyEntries))
            {
                request.Headers.TryAddWithoutValidation(line[..line.IndexOf(':')], line[(line.IndexOf(':') + 1)..].Trim());
            }
        });

        var (answer, _) = await Talk(Get(world, $"{plain}/7", headers));

        answer.ShouldStartWith("HTTP/1.1 302 Found\r\n");
        await app.Shipped();
        await using var source = app.DataSource();
        async Task<string> ClickOn(string slug)
        {
            await using var command = source.CreateCommand(
                "select row_to_json(told) from (select c.kind, c.visitor, c.user_agent_id, c.country, c.language, c.referrer_host, c.code from clicks c join links l on l.id = c.link_id where l.slug = $1) told"
            );
            command.Parameters.Add(new() { Value = slug });
            return (string)(await command.ExecuteScalarAsync(Cancel))!;
        }

        (await ClickOn(plain)).ShouldBe(await ClickOn(usual));
    }

    [Theory]
    [InlineData("HEAD /{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("POST /{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("get /{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.0\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET  /{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET http://{host}/{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /%67{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /x/../{slug} HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /{slug}?cursus-pass=x HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /{slug}#part HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /nobody-made-this HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET / HTTP/1.1\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: nobody.example\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: localhost\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nHost: {host}\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost : {host}\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\n X: folded\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nno header\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nX: a\nY: b\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nX: a\rb\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nX: a\0b\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nUser-Agent: Käse\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nCookie: a=b\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nConnection: close\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nConnection: Upgrade\r\nUpgrade: h2c\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nExpect: 100-continue\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nContent-Length: 5\r\n\r\nhello")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nTransfer-Encoding: chunked\r\n\r\n0\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\nX-Forwarded-For: 203.0.113.7\r\nX-Forwarded-For: 203.0.113.8\r\n\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\r\nHost: {host}\r\n")]
    [InlineData("GET /{slug} HTTP/1.1\nHost: {host}\n\n")]
    [InlineData("PRI * HTTP/2.0\r\n\r\nSM\r\n\r\n")]
    [InlineData("\u0016\u0003\u0001\u0002\0")]
    public async Task Whatever_else_comes_is_left_to_the_web_server_from_its_first_byte(string request)
    {
        var world = await World.Make(app);
        var slug = World.Slug(await world.Send(), 0);
        var bytes = request.Replace("{slug}", slug, StringComparison.Ordinal).Replace("{host}", world.Domain, StringComparison.Ordinal);

        var (answer, left) = await Talk(Get(world, slug) + bytes);

        answer.Split("HTTP/1.1 302 Found").Length.ShouldBe(2, "only the plain visit before it was answered");
        left.ShouldBe(bytes);
        ((int)(await world.Breakdown("by=channel"))["total"]!["clicks"]!).ShouldBe(1, "and only that is a click");
    }

    [Fact]
    public async Task A_head_that_is_too_long_is_left_to_the_web_server()
    {
        var world = await World.Make(app);
        var request = Get(world, World.Slug(await world.Send(), 0), $"X: {new string('x', PlainRequest.MostBytes)}\r\n");
        (await Talk(request)).ShouldBe(("", request));
    }

    [Fact]
    public async Task Links_that_do_more_than_lead_on_are_left_to_the_web_server()
    {
        var world = await World.Make(app);
        foreach (
            var change in new Action<JsonObject>[]
            {
                p => p["options"] = new JsonObject { ["referrer"] = "hide-by-page" },
                p => p["endsAt"] = "2099-01-01T00:00:00Z",
            }
        )
        {
            var request = Get(world, World.Slug(await world.Send(change), 0));
            (await Talk(request)).ShouldBe(("", request));
        }

        var passing = World.Slug(await world.Send(p => p["options"] = new JsonObject { ["passQuery"] = "link-wins" }), 0);
        (await Talk(Get(world, passing))).Left.ShouldBeNull();
        (await Talk(Get(world, passing + "?ref=a"))).Left.ShouldNotBeNull("what the visitor brings goes on to the destination");
        (await Talk(Get(world, World.Slug(await world.Send(), 0) + "?ref=a&b=%20"))).Left.ShouldBeNull("what goes nowhere doesn’t matter");
    }

    [Fact]
    public async Task Requests_that_come_at_once_are_answered_in_turn_and_one_that_comes_in_pieces_is_read_whole()
    {
        var world = await World.Make(app);
        var request = Get(world, World.Slug(await world.Send(), 0));
        (await Talk(string.Concat(Enumerable.Repeat(request, 30))))
            .Answer.Split("HTTP/1.1 302 Found")
            .Length.ShouldBe(31, "over more than one block of memory");
        for (var cut = 1; cut < request.Length; cut += 17)
        {
            var (answer, left) = await Talk(request[..cut], request[cut..]);
            (answer.StartsWith("HTTP/1.1 302", StringComparison.Ordinal) ? null : request).ShouldBe(left);
        }
    }

    [Fact]
    public async Task A_connection_over_which_nothing_comes_is_let_go_and_one_that_is_to_close_is_closed()
    {
        var impatient = new KestrelServerOptions();
        impatient.Limits.KeepAliveTimeout = TimeSpan.FromMilliseconds(1);
        var heartbeat = new Heartbeat();
        var (connection, _) = Connect();
        connection.Features.Set<IConnectionHeartbeatFeature>(heartbeat);
        var edge = ActivatorUtilities.CreateInstance<EdgeConnection>(
            app.Services,
            new Lazy<EdgeAnswer>(app.Services.GetRequiredService<EdgeAnswer>),
            Options.Create(impatient)
        );
        var serving = edge.Serve(connection, _ => throw new InvalidOperationException("handed over"));
        await Task.Delay(20, Cancel);
        heartbeat.Beat();
        await serving.WaitAsync(TimeSpan.FromSeconds(10), Cancel);

        using var closing = new CancellationTokenSource();
        (connection, _) = Connect();
        connection.Features.Set<IConnectionLifetimeNotificationFeature>(new Closing { ConnectionClosedRequested = closing.Token });
        serving = Edge.Serve(connection, _ => throw new InvalidOperationException("handed over"));
        serving.IsCompleted.ShouldBeFalse();
        await closing.CancelAsync();
        await serving.WaitAsync(TimeSpan.FromSeconds(10), Cancel);
    }

    [Fact]
    public async Task A_plain_visit_takes_no_memory()
    {
        var world = await World.Make(app);
        var request = Encoding.ASCII.GetBytes(
            Get(
                world,
                World.Slug(await world.Send(), 0),
                Browser + "Referer: http://perch.localhost:5081/feed?who=somebody\r\nAccept-Language: en-GB,en;q=0.9,de;q=0.8\r\n"
            )
        );
        var edge = app.Services.GetRequiredService<EdgeAnswer>();
        var (answered, before) = (0, 0L);
        for (var visit = -200; visit < 1000; visit++)
        {
            before = visit == 0 ? GC.GetAllocatedBytesForCurrentThread() : before;
            answered += IsAnswered() ? 1 : 0;
        }

        ((GC.GetAllocatedBytesForCurrentThread() - before) / 1000).ShouldBe(0);
        answered.ShouldBe(1200);

        bool IsAnswered()
        {
            Span<char> chars = stackalloc char[PlainRequest.MostBytes];
            return PlainRequest.TryRead(request, chars, out var plain, out var length)
                && length == request.Length
                && edge.TryLead(plain.Host, plain.Path, plain.Query, plain.Headers, null, out _);
        }
    }

    private static string Get(World world, string path, string headers = Visitor) => $"GET /{path} HTTP/1.1\r\nHost: {world.Domain}\r\n{headers}\r\n";

    /// <summary>Sends piece after piece over a connection of its own, and then nothing more.</summary>
    /// <returns>What was answered, and what was left to the web server; null where the connection was never handed over.</returns>
    private async Task<(string Answer, string? Left)> Talk(params string[] pieces)
    {
        var (connection, visitor) = Connect();
        string? left = null;
        var serving = Edge.Serve(connection, async handedOver =>
        {
            var rest = await handedOver.Transport.Input.ReadAtLeastAsync(int.MaxValue / 2, Cancel);
            left = Encoding.Latin1.GetString(rest.Buffer);
        });
        foreach (var piece in pieces)
        {
            await visitor.Output.WriteAsync(Encoding.Latin1.GetBytes(piece), Cancel);
            await Task.Delay(pieces.Length > 1 ? 5 : 0, Cancel);
        }

        await visitor.Output.CompleteAsync();
        await serving;
        await connection.Transport.Output.CompleteAsync();
        return (Encoding.Latin1.GetString((await visitor.Input.ReadAtLeastAsync(int.MaxValue / 2, Cancel)).Buffer), left);
    }

    /// <summary>Both ends of a connection.</summary>
    private static (DefaultConnectionContext Server, IDuplexPipe Visitor) Connect()
    {
        var (toServer, toVisitor) = (new Pipe(), new Pipe(new PipeOptions(pauseWriterThreshold: 0)));
        return (
            new DefaultConnectionContext("test", new Ends(toServer.Reader, toVisitor.Writer), null!),
            new Ends(toVisitor.Reader, toServer.Writer)
        );
    }

    private sealed record Ends(PipeReader Input, PipeWriter Output) : IDuplexPipe;

    private sealed class Heartbeat : IConnectionHeartbeatFeature
    {
        private Action beat = () => { };

        public void OnHeartbeat(Action<object> action, object state) => beat += () => action(state);

        public void Beat() => beat();
    }

    private sealed class Closing : IConnectionLifetimeNotificationFeature
    {
        public CancellationToken ConnectionClosedRequested { get; set; }

        public void RequestClose() { }
    }
}
