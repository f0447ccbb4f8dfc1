using System.Collections.Concurrent;
using System.Globalization;

namespace Cursus.Standins;

/// <summary>
/// The invented ad networks. Each knows a browser by a cookie of its own, hears of visits by its pixel (a picture, or a script in one of two styles),
/// gathers audiences by "address contains" within a window of days, and shows an advert to browsers that are in one.
/// </summary>
internal sealed class AdNetworks(TimeProvider time)
{
    private const int MostVisits = 100_000;
    private const string CookieName = "known-by";

    // The smallest GIF there is.
    private static readonly byte[] Picture = Convert.FromBase64String("R0lGODlhAQABAIAAAAAAAP///yH5BAEAAAAALAAAAAABAAEAAAIBRAA7");

    private static readonly Dictionary<string, Network> Networks = new(StringComparer.OrdinalIgnoreCase)
    {
        ["fairlead.localhost"] = new("Fairlead", "#7a4b1e", "FL-204417", ScriptOf: null),
        ["beaconry.localhost"] = new("Beaconry", "#245c63", "9f2c41d07ab3", CallStyle),
        ["guildhall-ads.localhost"] = new("Guildhall Ads", "#6e2a5b", "GH20441733", ListStyle),
    };

    /// <summary>Whose advert each feed shows.</summary>
    private static readonly Dictionary<string, string> OnFeeds = new(StringComparer.OrdinalIgnoreCase)
    {
        ["guildhall.localhost"] = "guildhall-ads.localhost",
        ["aperta.localhost"] = "beaconry.localhost",
        ["longreel.localhost"] = "beaconry.localhost",
    };

    private readonly ConcurrentDictionary<string, Book> books = new(StringComparer.OrdinalIgnoreCase);

    /// <param name="Id">A pixel's id, as its page shows it.</param>
    private sealed record Network(string Name, string Color, string Id, Func<string, string>? ScriptOf);

    private sealed record Visit(DateTimeOffset At, string Browser, string Pixel, string Address);

    private sealed record Audience(string Name, string Contains, int Days);

    private sealed class Book
    {
        public ConcurrentQueue<Visit> Visits { get; } = new();

        public ConcurrentQueue<Audience> Audiences { get; } = new();
    }

    public static IEnumerable<string> Hosts => Networks.Keys;

    public static bool Has(string host) => Networks.ContainsKey(host);

    /// <summary>The frame with an advert that a feed shows.</summary>
    public static string Sponsored(HttpRequest feed) =>
        $"""
            <aside aria-label="Sponsored"><small>Sponsored</small>
            <iframe title="Advert" src="http://{OnFeeds.GetValueOrDefault(feed.Host.Host, "fairlead.localhost")}{Port(
                feed
            )}/advert" style="width:100%;height:92px;border:1px solid #ddd;border-radius:8px"></iframe></aside>
            """;

    public async Task Answer(HttpContext context)
    {
        var (request, host) = (context.Request, context.Request.Host.Host);
        var (network, book) = (Networks[host], books.GetOrAdd(host, _ => new()));
        switch (request.Path.Value)
        {
            case "/px.gif":
            case "/told":
                Hear(context, book);
                await Send(context, "image/gif", Picture);
                break;
            case "/slow.gif":
                // A network that hangs.
                await Task.Delay(TimeSpan.FromSeconds(10), time, context.RequestAborted).ContinueWith(_ => { }, TaskScheduler.Default);
                await Send(context, "image/gif", Picture);
                break;
            case "/pixel.js" when network.ScriptOf is { } script:
                await Send(
                    context,
                    "text/javascript; charset=utf-8",
                    System.Text.Encoding.UTF8.GetBytes(script($"http://{host}{Port(request)}/told"))
                );
                break;
            case "/advert":
                await ShowAdvert(context, network, book);
                break;
            case "/visits.json":
                await context.Response.WriteAsJsonAsync(book.Visits.ToArray());
                break;
            case "/" when HttpMethods.IsPost(request.Method):
                await AddAudience(context, book);
                break;
            default:
                await ShowAudiences(context, network, book);
                break;
        }
    }

    private static string Port(HttpRequest request) => request.Host.Port is { } port ? $":{port}" : "";

    /// <summary>The script of a network that is told what to do by calling one function.</summary>
    private static string CallStyle(string told) =>
        $$"""
            (() => {
              const waiting = (window.beaconry && window.beaconry.waiting) || [];
              let pixel = '';
              const run = (what, value, more) => {
                if (what === 'begin') pixel = value;
                if (what === 'saw') new Image().src = '{{told}}?p=' + encodeURIComponent(pixel) + '&on=' + encodeURIComponent(location.href) + '&e=' + encodeURIComponent(value);
              };
              window.beaconry = run;
              waiting.forEach((one) => run(...one));
            })();
            """;

    /// <summary>The script of a network that reads what to do from a list.</summary>
    private static string ListStyle(string told) =>
        $$"""
            (() => {
              const list = window.guildhallAds || [];
              const tell = (entry) => navigator.sendBeacon('{{told}}?p=' + encodeURIComponent(entry.pixel) + '&on=' + encodeURIComponent(entry.address) + '&e=' + encodeURIComponent(entry.event));
              list.forEach(tell);
              window.guildhallAds = { push: tell };
            })();
            """;

    /// <summary>Writes a visit down under the browser's cookie, which is set anew where there is none.</summary>
    private void Hear(HttpContext context, Book book)
    {
        var query = context.Request.Query;
        var browser = context.Request.Cookies[CookieName];
        if (string.IsNullOrEmpty(browser))
        {
            browser = Guid.NewGuid().ToString("N");
            context.Response.Cookies.Append(
                CookieName,
                browser,
                new CookieOptions
                {
                    HttpOnly = true,
                    Secure = true,
                    SameSite = SameSiteMode.None,
                    MaxAge = TimeSpan.FromDays(180),
                }
            );
        }

        book.Visits.Enqueue(
            new Visit(
                time.GetUtcNow(),
                browser,
                query["p"].ToString(),
                query["on"] is [{ Length: > 0 } on] ? on : context.Request.Headers.Referer.ToString()
            )
        );
        while (book.Visits.Count > MostVisits && book.Visits.TryDequeue(out _)) { }
    }

    private IEnumerable<Visit> In(Audience audience, Book book) =>
        book.Visits.Where(v =>
            v.At > time.GetUtcNow().AddDays(-audience.Days) && v.Address.Contains(audience.Contains, StringComparison.OrdinalIgnoreCase)
        );

    private Task ShowAdvert(HttpContext context, Network network, Book book)
    {
        var browser = context.Request.Cookies[CookieName];
        var audience = string.IsNullOrEmpty(browser) ? null : book.Audiences.LastOrDefault(a => In(a, book).Any(v => v.Browser == browser));
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            "Advert",
            network.Color,
            audience is null
                ? $"<p style=\"margin:14px 18px\">Nothing in particular, by {Html.Text(network.Name)}.</p>"
                : $"<p style=\"margin:14px 18px\" id=\"advert\"><b>Northmoor Observatory</b><br>Come back to “{Html.Text(audience.Name)}”: the sky is still there.</p>"
        );
    }

    private static async Task AddAudience(HttpContext context, Book book)
    {
        var form = await context.Request.ReadFormAsync(context.RequestAborted);
        var (name, contains) = (form["name"].ToString().Trim(), form["contains"].ToString().Trim());
        if (
            name.Length is > 0 and <= 100
            && contains.Length is > 0 and <= 500
            && int.TryParse(form["days"], CultureInfo.InvariantCulture, out var days)
            && days is > 0 and <= 180
        )
        {
            book.Audiences.Enqueue(new Audience(name, contains, days));
        }

        context.Response.StatusCode = StatusCodes.Status303SeeOther;
        context.Response.Headers.Location = "/";
    }

    private Task ShowAudiences(HttpContext context, Network network, Book book)
    {
        var rows = string.Concat(
            book.Audiences.Reverse()
                .Select(a =>
                    $"<tr><td>{Html.Text(a.Name)}<td>{Html.Text(a.Contains)}<td>{a.Days} days<td>{In(a, book).Select(v => v.Browser).Distinct().Count()}"
                )
        );
        var seen = book.Visits.Select(v => v.Browser).Distinct().Count();
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            $"{network.Name}, audiences",
            network.Color,
            $"""
            <header>{Html.Text(network.Name)}, for advertisers</header>
            <main><h1>Your pixel</h1><p>Id <code>{Html.Text(network.Id)}</code>. Its code:</p>
            <textarea readonly rows="6" aria-label="The pixel's code">{Html.Text(Snippet(context.Request, network))}</textarea>
            <p>{book.Visits.Count} visits of {seen} browsers were heard of.</p>
            <h1>Audiences</h1>
            {(
                rows.Length > 0
                    ? $"<table><tr><th>Name<th>Address contains<th>Window<th>Browsers</tr>{rows}</table>"
                    : "<p>No audience has been defined.</p>"
            )}
            <h2>Define one</h2>
            <form method="post"><p><label>Name <input name="name" size="30" required></label>
            <label>Address contains <input name="contains" size="44" required></label>
            <label>Window in days <input name="days" value="28" size="4" required></label>
            <button>Define</button></p></form></main>
            """
        );
    }

    private static string Snippet(HttpRequest request, Network network)
    {
        var site = $"http://{request.Host.Host}{Port(request)}";
        return network.Name switch
        {
            "Fairlead" => $"<!-- Fairlead pixel -->\n<img src=\"{site}/px.gif?p={network.Id}\" width=\"1\" height=\"1\" alt=\"\">",
            "Beaconry" =>
                $"<!-- Beaconry -->\n<script async src=\"{site}/pixel.js\"></script>\n<script>\n  beaconry('begin', '{network.Id}');\n  beaconry('saw', 'page');\n</script>",
            _ =>
                $"<!-- Guildhall Ads -->\n<script>\n  window.guildhallAds = window.guildhallAds || [];\n  guildhallAds.push({{ pixel: '{network.Id}', event: 'visit', address: location.href }});\n</script>\n<script async src=\"{site}/pixel.js\"></script>",
        };
    }

    private static Task Send(HttpContext context, string type, byte[] body)
    {
        context.Response.ContentType = type;
        context.Response.Headers.CacheControl = "no-store";
        return context.Response.Body.WriteAsync(body).AsTask();
    }
}
