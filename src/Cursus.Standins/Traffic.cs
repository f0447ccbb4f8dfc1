using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;
using System.Text.Json;

namespace Cursus.Standins;

/// <summary>
/// Visitors for a while: real requests to short links, from people on phones and computers with the referrers of the links' networks, from crawlers,
/// preview fetchers, browsers that fetch ahead, link checkers, programs that pose as browsers, mail scanners that open one link after the other, and
/// from people who click twice.
/// </summary>
internal sealed class Traffic(IReadOnlyList<Traffic.Target> targets, Traffic.AgentsFile agents, IPEndPoint server, int seed)
{
    private const int MostAtOnce = 256;

    // Of a hundred visits so many are of each sort; the rest are people's.
    private static readonly (string Name, int Share)[] Others =
    [
        ("machine", 9),
        ("preview", 4),
        ("prefetch", 2),
        ("header request", 2),
        ("impostor", 3),
        ("scanner", 1),
        ("repeat", 4),
    ];

    private const int LinksOfMessage = 5;
    private const string Pages = "text/html,application/xhtml+xml,application/xml;q=0.9,*/*;q=0.8";

    private readonly Random random = new(seed);
    private readonly ConcurrentDictionary<string, int> answered = new();

    /// <param name="Url">A short address.</param>
    /// <param name="Channel">Key of its channel, which names the network that people come from; nothing where it has none.</param>
    internal sealed record Target(Uri Url, string Channel);

    internal sealed record AgentsFile(string[] Phones, string[] Desktops, string[] Machines, string[] Previews, string[] Languages);

    private sealed record Visit(string Sort, Target Target, string Agent, IPAddress Address, string Language, string? Referrer);

    /// <summary>Runs <c>traffic --links FILE --agents FILE --port N --rate N --for SECONDS</c>. Lines of links are a short address, a tab, and the
    /// channel's key.</summary>
    public static async Task<int> Run(IConfiguration options)
    {
        var targets = File.ReadLines(options["links"]!)
            .Select(line => line.Split('\t'))
            .Select(parts => new Target(new Uri(parts[0]), parts.ElementAtOrDefault(1) ?? ""))
            .ToList();
        if (targets.Count == 0)
        {
            await Console.Error.WriteLineAsync("There are no links to follow yet. Create a post first.");
            return 1;
        }

        var agents = JsonSerializer.Deserialize<AgentsFile>(await File.ReadAllTextAsync(options["agents"]!), JsonSerializerOptions.Web)!;
        var traffic = new Traffic(targets, agents, new IPEndPoint(IPAddress.Loopback, options.GetValue<int>("port")), Environment.TickCount);
        var failed = await traffic.Send(options.GetValue<double>("rate"), TimeSpan.FromSeconds(options.GetValue<double>("for")));
        return failed == 0 ? 0 : 1;
    }

    /// <summary>Sends visits at random moments, so many a second on average. Returns how many were not answered.</summary>
    private async Task<int> Send(double rate, TimeSpan during)
    {
        // Names below .localhost are this machine (RFC 6761, section 6.3), whatever the system's resolver says.
        using var client = new HttpClient(
            new SocketsHttpHandler
            {
                AllowAutoRedirect = false,
                UseCookies = false,
                ConnectCallback = async (_, cancel) =>
                {
                    var socket = new Socket(SocketType.Stream, ProtocolType.Tcp) { NoDelay = true };
                    await socket.ConnectAsync(server, cancel);
                    return new NetworkStream(socket, ownsSocket: true);
                },
            }
        );
        using var room = new SemaphoreSlim(MostAtOnce);
        var (began, due) = (TimeProvider.System.GetTimestamp(), TimeSpan.Zero);
        var (running, previous) = (new List<Task>(), (Visit?)null);
        while ((due -= TimeSpan.FromSeconds(Math.Log(1 - random.NextDouble()) / rate)) < during)
        {
            if (due - TimeProvider.System.GetElapsedTime(began) is { Ticks: > 0 } early)
            {
                await Task.Delay(early);
            }

            var visit = Next(previous);
            previous = visit.Sort == "person" ? visit : previous;
            await room.WaitAsync();
            running.Add(
                (visit.Sort == "scanner" ? Scan(client, visit) : Follow(client, visit)).ContinueWith(_ => room.Release(), TaskScheduler.Default)
            );
            running.RemoveAll(t => t.IsCompleted);
        }

        await Task.WhenAll(running);
        foreach (var (what, count) in answered.OrderByDescending(a => a.Value))
        {
            Console.WriteLine($"  {count, 6} {what}");
        }

        return answered.GetValueOrDefault("not answered");
    }

    private Visit Next(Visit? previous)
    {
        var draw = random.Next(100);
        var sort = Others.FirstOrDefault(o => (draw -= o.Share) < 0).Name ?? "person";
        if (sort == "repeat" && previous is not null)
        {
            return previous with { Sort = sort };
        }

        var target = Any(targets);
        return sort switch
        {
            "machine" or "header request" => new Visit(sort, target, Any(agents.Machines), Anywhere(), "", null),
            "preview" => new Visit(sort, target, Any(agents.Previews), Anywhere(), "", null),
            "impostor" or "scanner" => new Visit(sort, target, Any(agents.Desktops), Anywhere(), "en-GB", null),
            "prefetch" => new Visit(sort, target, Any(agents.Desktops), Anywhere(), Any(agents.Languages), null),
            _ => new Visit(
                "person",
                target,
                random.Next(100) < 65 ? Any(agents.Phones) : Any(agents.Desktops),
                Anywhere(),
                Any(agents.Languages),
                From(target)
            ),
        };
    }

    /// <summary>A message's links, one after the other.</summary>
    private async Task Scan(HttpClient client, Visit visit)
    {
        foreach (var target in targets.Take(LinksOfMessage))
        {
            await Follow(client, visit with { Target = target });
        }
    }

    /// <summary>Mostly the link's own network, now and then another one, often nothing.</summary>
    private string? From(Target target) =>
        random.Next(100) switch
        {
            < 45 => null,
            < 90 when SocialNetworks.Has($"{target.Channel}.localhost") => $"http://{target.Channel}.localhost/",
            < 96 => $"http://{Any([.. SocialNetworks.Hosts])}/",
            _ => null,
        };

    private async Task Follow(HttpClient client, Visit visit)
    {
        using var request = new HttpRequestMessage(visit.Sort == "header request" ? HttpMethod.Head : HttpMethod.Get, visit.Target.Url);
        var headers = request.Headers;
        headers.TryAddWithoutValidation("User-Agent", visit.Agent);
        headers.TryAddWithoutValidation("X-Forwarded-For", visit.Address.ToString());
        headers.TryAddWithoutValidation("Accept", visit.Sort is "person" or "repeat" or "prefetch" or "scanner" ? Pages : "*/*");
        headers.TryAddWithoutValidation("Accept-Language", visit.Language);
        headers.TryAddWithoutValidation("Referer", visit.Referrer);
        if (visit.Sort == "prefetch")
        {
            headers.TryAddWithoutValidation("Sec-Purpose", "prefetch");
        }

        try
        {
            using var response = await client.SendAsync(request);
            answered.AddOrUpdate($"{visit.Sort}, answered {(int)response.StatusCode}", 1, (_, n) => n + 1);
        }
        catch (HttpRequestException)
        {
            answered.AddOrUpdate("not answered", 1, (_, n) => n + 1);
        }
    }

    private IPAddress Anywhere() => new([(byte)random.Next(1, 224), (byte)random.Next(256), (byte)random.Next(256), (byte)random.Next(1, 255)]);

    private T Any<T>(IReadOnlyList<T> choices) => choices[random.Next(choices.Count)];
}
