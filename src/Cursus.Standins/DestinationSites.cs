namespace Cursus.Standins;

/// <summary>The sites that links lead to. Each page shows with which query string and referrer its visitor arrived.</summary>
internal static class DestinationSites
{
    private static readonly Dictionary<string, (string Name, string Color)> Sites = new(StringComparer.OrdinalIgnoreCase)
    {
        ["www.northmoor.localhost"] = ("Northmoor Observatory", "#1f2a44"),
        ["skycalendar.localhost"] = ("Sky Calendar, an almanac", "#3d5a3a"),
        ["lensworks.localhost"] = ("Lensworks, telescopes and repairs", "#5a4630"),
    };

    private const string Robots = "User-agent: *\nDisallow: /workshop/\n";

    public static IEnumerable<string> Hosts => Sites.Keys;

    public static bool Has(string host) => Sites.ContainsKey(host);

    public static async Task Answer(HttpContext context, Moods moods)
    {
        var request = context.Request;
        var (name, color) = Sites[request.Host.Host];
        if (request.Path == "/robots.txt")
        {
            context.Response.ContentType = "text/plain; charset=utf-8";
            await context.Response.WriteAsync(Robots);
            return;
        }

        Task Say(int status, string heading, string text) =>
            Html.Write(
                context,
                status,
                $"{heading} · {name}",
                color,
                $"<header>{Html.Text(name)}</header><main><h1>{Html.Text(heading)}</h1><p>{Html.Text(text)}</p></main>"
            );
        await (
            moods.Of(request.Host.Host + request.Path) switch
            {
                "gone" => Say(StatusCodes.Status410Gone, "No longer here", "This page was taken down. There is no successor."),
                "failing" => Say(StatusCodes.Status500InternalServerError, "Something broke", "Our server could not make this page."),
                "hanging" => Task.Delay(TimeSpan.FromMinutes(2), context.RequestAborted).ContinueWith(_ => { }, TaskScheduler.Default),
                "circling" => Lead(context, StatusCodes.Status302Found, request.Path + "?once=more"),
                "lying" => Say(StatusCodes.Status200OK, "Page not found", "What you are looking for is no longer available."),
                "renamed" => Say(StatusCodes.Status200OK, "Garden furniture in oak", "Benches, tables and a swing."),
                "moved" => Lead(context, StatusCodes.Status301MovedPermanently, request.Path + "/present"),
                "shut" => Say(StatusCodes.Status403Forbidden, "Not for you", "Sign in to read this page."),
                _ => Show(context, name, color),
            }
        );
    }

    private static Task Lead(HttpContext context, int status, string location)
    {
        context.Response.StatusCode = status;
        context.Response.Headers.Location = location;
        return Task.CompletedTask;
    }

    private static Task Show(HttpContext context, string name, string color)
    {
        var request = context.Request;
        var title = TitleOf(request.Path, name);
        var parameters = string.Concat(request.Query.SelectMany(q => q.Value.Select(v => $"<tr><th>{Html.Text(q.Key)}<td>{Html.Text(v)}")));
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            $"{title} · {name}",
            color,
            $"""
            <header>{Html.Text(name)}</header>
            <main><h1>{Html.Text(title)}</h1>
            <p>A page of the demo's world. This is how you came here:</p>
            <table id="arrival"><tr><th>Address<td>{Html.Text(request.Host + request.Path)}<tr><th>Query<td id="query">{Html.Text(
                request.QueryString.Value
            )}
            <tr><th>Referrer<td id="referrer">{Html.Text(request.Headers.Referer)}{parameters}</table></main>
            """,
            $"""
            <meta property="og:title" content="{Html.Text(title)}"><meta property="og:site_name" content="{Html.Text(name)}">
            <meta property="og:description" content="A page of {Html.Text(name)}.">
            """
        );
    }

    private static string TitleOf(PathString path, string name)
    {
        var last = path.Value?.Trim('/').Split('/')[^1].Replace('-', ' ') ?? "";
        return last.Length == 0 ? name : char.ToUpperInvariant(last[0]) + last[1..];
    }
}
