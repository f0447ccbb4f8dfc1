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

    /// <summary>Pages that have been taken off their site for good.</summary>
    private static readonly HashSet<string> Gone = ["lensworks.localhost/products/starter-kit-70"];

    public static IEnumerable<string> Hosts => Sites.Keys;

    public static bool Has(string host) => Sites.ContainsKey(host);

    public static Task Answer(HttpContext context)
    {
        var request = context.Request;
        var (name, color) = Sites[request.Host.Host];
        if (Gone.Contains(request.Host.Host + request.Path))
        {
            return Html.Write(context, StatusCodes.Status410Gone, $"Gone · {name}", color,
                $"<header>{Html.Text(name)}</header><main><h1>No longer here</h1><p>This page was taken down. There is no successor.</p></main>");
        }

        var title = TitleOf(request.Path, name);
        var parameters = string.Concat(request.Query.SelectMany(q => q.Value.Select(v => $"<tr><th>{Html.Text(q.Key)}<td>{Html.Text(v)}")));
        return Html.Write(context, StatusCodes.Status200OK, $"{title} · {name}", color, $"""
            <header>{Html.Text(name)}</header>
            <main><h1>{Html.Text(title)}</h1>
            <p>A page of the demo's world. This is how you came here:</p>
            <table id="arrival"><tr><th>Address<td>{Html.Text(request.Host + request.Path)}<tr><th>Query<td id="query">{Html.Text(request.QueryString.Value)}
            <tr><th>Referrer<td id="referrer">{Html.Text(request.Headers.Referer)}{parameters}</table></main>
            """, $"""
            <meta property="og:title" content="{Html.Text(title)}"><meta property="og:site_name" content="{Html.Text(name)}">
            <meta property="og:description" content="A page of {Html.Text(name)}.">
            """);
    }

    private static string TitleOf(PathString path, string name)
    {
        var last = path.Value?.Trim('/').Split('/')[^1].Replace('-', ' ') ?? "";
        return last.Length == 0 ? name : char.ToUpperInvariant(last[0]) + last[1..];
    }
}
