using System.Collections.Concurrent;
using System.Text.RegularExpressions;

namespace Cursus.Standins;

/// <summary>The invented networks: each is a feed to which anybody may post. Links in posts send a real referrer, as browsers do.</summary>
internal sealed partial class SocialNetworks(TimeProvider time)
{
    private const int Kept = 200;

    private static readonly Dictionary<string, (string Name, string Color)> Networks = new(StringComparer.OrdinalIgnoreCase)
    {
        ["guildhall.localhost"] = ("Guildhall", "#6e2a5b"),
        ["perch.localhost"] = ("Perch", "#2f7f86"),
        ["hearthside.localhost"] = ("Hearthside", "#b4552d"),
        ["aperta.localhost"] = ("Aperta", "#7a6c10"),
        ["longreel.localhost"] = ("Longreel", "#43599a"),
        ["partner-blog.localhost"] = ("The partner's blog", "#4a6a6a"),
    };

    private readonly ConcurrentDictionary<string, ConcurrentQueue<(DateTimeOffset At, string Text)>> feeds = new(StringComparer.OrdinalIgnoreCase);

    public static IEnumerable<string> Hosts => Networks.Keys;

    public static bool Has(string host) => Networks.ContainsKey(host);

    public async Task Answer(HttpContext context)
    {
        var host = context.Request.Host.Host;
        var feed = feeds.GetOrAdd(host, _ => new());
        if (HttpMethods.IsPost(context.Request.Method))
        {
            var text = (await context.Request.ReadFormAsync(context.RequestAborted))["text"].ToString().Trim();
            if (text.Length is > 0 and <= 5000)
            {
                feed.Enqueue((time.GetUtcNow(), text));
                while (feed.Count > Kept && feed.TryDequeue(out _)) { }
            }

            context.Response.StatusCode = StatusCodes.Status303SeeOther;
            context.Response.Headers.Location = "/";
            return;
        }

        var (name, color) = Networks[host];
        var posts = string.Concat(feed.Reverse().Select(p => $"<article>{Linked(p.Text)}<br><small>{p.At:HH:mm} UTC</small></article>"));
        await Html.Write(
            context,
            StatusCodes.Status200OK,
            name,
            color,
            $"""
            <header>{Html.Text(name)}</header>
            <main><h1>Your feed</h1>
            <form method="post"><label for="text">Say something</label><textarea id="text" name="text" rows="3" required></textarea><button>Post</button></form>
            {AdNetworks.Sponsored(context.Request)}
            {(posts.Length > 0 ? posts : "<p>Nothing has been posted yet.</p>")}</main>
            """
        );
    }

    private static string Linked(string text)
    {
        var html = new System.Text.StringBuilder();
        var done = 0;
        foreach (var match in Address().EnumerateMatches(text))
        {
            var address = Html.Text(text.Substring(match.Index, match.Length));
            html.Append(Html.Text(text[done..match.Index])).Append("<a href=\"").Append(address).Append("\">").Append(address).Append("</a>");
            done = match.Index + match.Length;
        }

        return html.Append(Html.Text(text[done..])).ToString();
    }

    [GeneratedRegex(@"https?://[^\s<>""']+[^\s<>""'.,;:!?)]")]
    private static partial Regex Address();
}
