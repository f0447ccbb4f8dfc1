using System.Net;
using System.Net.Sockets;
using System.Text;
using System.Text.Json;
using Cursus.Edge;
using Microsoft.AspNetCore.Builder;
using Microsoft.AspNetCore.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.Extensions.DependencyInjection;
using Microsoft.Extensions.Logging;

namespace Cursus.Web.Tests.Edge;

/// <summary>The edge's own reader takes a request only as the web server, which follows RFC 9112, reads the same bytes: else a proxy in front of both
/// could be talked into mixing up two visitors' requests.</summary>
public class PlainRequestFuzzTests
{
    private const string Domain = "nmoor.localhost";
    private const int Made = 250_000;
    private const int Compared = 1_500;

    private static readonly string[] Names =
    [
        "User-Agent",
        "Referer",
        "Accept",
        "Accept-Language",
        "X-Forwarded-For",
        "Sec-Purpose",
        "Purpose",
        "X-Purpose",
        "X-Moz",
        "Sec-CH-UA-Platform",
        "Sec-CH-UA-Mobile",
        "Sec-CH-UA-Form-Factors",
        "Sec-Fetch-Mode",
        "Sec-CH-UA",
        "X-Forwarded-Proto",
    ];

    private static readonly string[] Lines =
    [
        "User-Agent: Mozilla/5.0 (X11; Linux x86_64; rv:143.0) Gecko/20100101 Firefox/143.0",
        "Referer: https://www.perch.localhost/feed",
        "accept:*/*",
        "ACCEPT-LANGUAGE:\tfr ",
        "X-Forwarded-For: 203.0.113.7, 10.0.0.1",
        "Connection: keep-alive",
        "Connection: close",
        "connection: Keep-Alive, TE",
        "Content-Length: 0",
        "Content-Length: 5",
        "Transfer-Encoding: chunked",
        "Expect: 100-continue",
        "Upgrade: h2c",
        "Cookie: a=b",
        "Sec-Purpose: prefetch",
        "X-Moz: prefetch",
        "Host: other.localhost",
        "Host: nmoor.localhost",
        " folded: line",
        "\tfolded",
        "No colon",
        ": no name",
        "Space : before",
        "Empty:",
        "Sec-CH-UA-Mobile: ?1",
        "X-Forwarded-Proto: https",
        "Very-Long: " + new string('x', 600),
        "Transfer-Encoding : chunked",
        "Content-Length:\t+7",
        "Content_Length: 7",
        "Sec-Fetch-Mode:navigate",
        "Keep-Alive: timeout=5",
        "TE: trailers",
        "Accept: a\u0000b",
        "Accept: \u00fc",
    ];

    private static readonly string[] Targets =
    [
        "/spring",
        "/spring?a=b",
        "/spring/7",
        "/a/../b",
        "/%73pring",
        "//spring",
        "/spring#x",
        "*",
        "http://nmoor.localhost/spring",
        "/spring?a=%zz",
        "/spring;x=1",
        "/spring?\"",
        "/s pring",
        "/.well-known/x",
        "/spring?a?b",
        "/",
    ];

    private static readonly string[] Beginnings =
    [
        "GET {0} HTTP/1.1",
        "GET {0} HTTP/1.1",
        "GET {0} HTTP/1.1",
        "GET {0} HTTP/1.1",
        "HEAD {0} HTTP/1.1",
        "get {0} HTTP/1.1",
        "GET {0} HTTP/1.0",
        "GET  {0} HTTP/1.1",
        "GET {0}  HTTP/1.1",
        " GET {0} HTTP/1.1",
        "GET {0} http/1.1",
        "GET {0}",
    ];

    private static readonly string[] Hosts =
    [
        "Host: nmoor.localhost",
        "host:nmoor.localhost:80",
        "Host: NMOOR.localhost",
        "Host: nmoor.localhost:",
        "Host: nmoor.localhost:x",
        "Host: nmoor.localhost:99999999",
        "Host: nmoor.localhost.",
        "Host: nmoor.localhost:80:80",
        "Host:  nmoor.localhost ",
        "Hos\u0074: nmoor.localhost",
    ];

    private static CancellationToken Cancel => TestContext.Current.CancellationToken;

    private sealed record Read(string Method, string Path, string Query, string Host, Dictionary<string, string> Headers);

    [Fact]
    public async Task Whatever_the_edge_reads_itself_the_web_server_reads_the_same()
    {
        var taken = Requests(seed: 23).Where(IsTaken).DistinctBy(Encoding.Latin1.GetString).Take(Compared).ToList();
        taken.Count.ShouldBe(Compared, "else little was compared");
        await using var server = await Start();
        var port = new Uri(
            server.Services.GetRequiredService<IServer>().Features.GetRequiredFeature<IServerAddressesFeature>().Addresses.Single()
        ).Port;
        foreach (var request in taken)
        {
            var expected = ByEdge(request);
            var answers = await Talk(port, [.. request, .. "GET /second HTTP/1.1\r\nHost: nmoor.localhost\r\nConnection: close\r\n\r\n"u8]);

            var shown = Encoding.Latin1.GetString(request).Replace("\r", "\\r").Replace("\n", "\\n");
            answers.Count.ShouldBe(2, shown);
            answers[1].Path.ShouldBe("/second", shown);
            (answers[0].Method, answers[0].Path, answers[0].Query, answers[0].Host).ShouldBe(
                ("GET", expected.Path, expected.Query, expected.Host),
                shown
            );
            answers[0].Headers.ShouldBe(expected.Headers, ignoreOrder: true, shown);
        }
    }

    /// <summary>Whether the edge would answer it: it reads the request, and the host is a short domain.</summary>
    private static bool IsTaken(byte[] bytes) =>
        PlainRequest.TryRead(bytes, new char[PlainRequest.MostBytes], out var request, out var length)
        && length == bytes.Length
        && EdgeHosts.Name(request.Host).Equals(Domain, StringComparison.OrdinalIgnoreCase);

    private static Read ByEdge(byte[] bytes)
    {
        PlainRequest.TryRead(bytes, new char[PlainRequest.MostBytes], out var request, out _).ShouldBeTrue();
        var headers = request.Headers;
        string[] values =
        [
            $"{headers.UserAgent}",
            $"{headers.Referer}",
            $"{headers.Accept}",
            $"{headers.AcceptLanguage}",
            $"{headers.ForwardedFor}",
            $"{headers.SecPurpose}",
            $"{headers.Purpose}",
            $"{headers.XPurpose}",
            $"{headers.XMoz}",
            $"{headers.Platform}",
            $"{headers.Mobile}",
            $"{headers.FormFactors}",
            $"{headers.SecFetchMode}",
            $"{headers.SecChUa}",
            headers.IsSecure ? "secure" : "",
        ];
        return new("GET", $"{request.Path}", $"{request.Query}", $"{request.Host}", Names.Zip(values).ToDictionary(n => n.First, n => n.Second));
    }

    private static IEnumerable<byte[]> Requests(int seed)
    {
        var random = new Random(seed);
        T One<T>(T[] of) => of[random.Next(of.Length)];
        for (var made = 0; made < Made; made++)
        {
            var lines = Enumerable.Range(0, random.Next(6)).Select(_ => One(Lines)).ToList();
            lines.Insert(random.Next(lines.Count + 1), random.Next(3) > 0 ? Hosts[0] : One(Hosts));
            var end = random.Next(12) == 0 ? "\n" : "\r\n";
            var bytes = Encoding.Latin1.GetBytes(
                string.Join(end, [string.Format(null, One(Beginnings), random.Next(2) == 0 ? Targets[0] : One(Targets)), .. lines]) + end + end
            );

            // Two thirds have some bytes changed, taken out or put in as well.
            var changed = bytes.ToList();
            for (var change = random.Next(3); change > 0; change--)
            {
                var at = random.Next(changed.Count);
                switch (random.Next(3))
                {
                    case 0:
                        changed[at] = (byte)random.Next(256);
                        break;
                    case 1:
                        changed.RemoveAt(at);
                        break;
                    default:
                        changed.Insert(at, One(" \t\r\n:/?%\0\"-"u8.ToArray()));
                        break;
                }
            }

            yield return [.. changed];
        }
    }

    private static async Task<WebApplication> Start()
    {
        var builder = WebApplication.CreateSlimBuilder();
        builder.Logging.ClearProviders();
        builder.WebHost.UseKestrel(kestrel => kestrel.AddServerHeader = false).UseUrls("http://127.0.0.1:0");
        var server = builder.Build();
        server.Run(context =>
            context.Response.WriteAsync(
                JsonSerializer.Serialize(
                    new Read(
                        context.Request.Method,
                        context.Features.GetRequiredFeature<IHttpRequestFeature>().Path,
                        $"{context.Request.QueryString}",
                        $"{context.Request.Headers.Host}",
                        Names.ToDictionary(
                            n => n,
                            n =>
                                n == "X-Forwarded-Proto"
                                    ? VisitorHeaders.SaysSecure($"{context.Request.Headers[n]}")
                                        ? "secure"
                                        : ""
                                    : $"{context.Request.Headers[n]}"
                        )
                    )
                ),
                Cancel
            )
        );
        await server.StartAsync(Cancel);
        return server;
    }

    /// <summary>What the web server read, request by request, until it closed the connection.</summary>
    private static async Task<List<Read>> Talk(int port, byte[] bytes)
    {
        using var socket = new TcpClient();
        await socket.ConnectAsync(IPAddress.Loopback, port, Cancel);
        var stream = socket.GetStream();
        await stream.WriteAsync(bytes, Cancel);
        using var reader = new StreamReader(stream, Encoding.UTF8);
        return
        [
            .. (await reader.ReadToEndAsync(Cancel))
                .Split('\n')
                .Where(l => l.StartsWith('{'))
                .Select(l => JsonSerializer.Deserialize<Read>(l[..(l.LastIndexOf('}') + 1)])!),
        ];
    }
}
