using System.Text;
using System.Text.Encodings.Web;

namespace Cursus.Core.Links;

/// <summary>One short address and where it leads.</summary>
/// <param name="Slug">As shown; compared without case.</param>
/// <param name="To">The finished address.</param>
/// <param name="Codes">Numbers of its QR codes, which stand behind the slug on what was printed; each link has number 1.</param>
/// <param name="Rules">Its rules in words, which other servers can't follow; null for a link that has none.</param>
public sealed record KeptRedirect(string Slug, string To, IReadOnlyList<int> Codes, string? Rules = null)
{
    /// <summary>What is lost, for a comment of one line; null where nothing is.</summary>
    internal string? Lost =>
        Rules is null
            ? null
            : $"/{Slug} leads everybody to one page here. Its rules were: {string.Concat(Rules.Select(c => char.IsControl(c) || c is '\u2028' or '\u2029' ? ' ' : c))}";
}

/// <summary>The redirects of a short domain in forms that other servers follow by themselves, so that printed links outlive Cursus. Clicks are
/// counted no more, pixels don't fire.</summary>
public static class RedirectList
{
    /// <summary>For nginx: a <c>map</c> (ngx_http_map_module, whose strings are compared without case), with what to write beside it.
    /// A dollar sign would begin a variable there, and nothing escapes it, so that one stands for itself through a variable.</summary>
    public static string Nginx(string domain, IReadOnlyList<KeptRedirect> redirects)
    {
        ArgumentNullException.ThrowIfNull(redirects);
        var text = new StringBuilder(
            $$"""
            # {{redirects.Count}} redirects of {{domain}}. Include this file inside http { }, and write for the domain:
            #   server {
            #     server_name {{domain}};
            #     rewrite ^(/[^/]+)/[0-9]+$ $1;
            #     if ($cursus_to) { return 302 $cursus_to; }
            #     return 404;
            #   }
            # Many links need more room: map_hash_max_size {{Math.Max(2048, redirects.Count * 2)}}; map_hash_bucket_size 128;
            geo $cursus_dollar { default "$"; }
            map $uri $cursus_to {
              default "";

            """.ReplaceLineEndings("\n")
        );
        foreach (var redirect in redirects)
        {
            var to = redirect
                .To.Replace("\\", "\\\\", StringComparison.Ordinal)
                .Replace("\"", "\\\"", StringComparison.Ordinal)
                .Replace("$", "${cursus_dollar}", StringComparison.Ordinal);
            AppendLost(text, redirect, "  # ");
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"  /{redirect.Slug.ToLowerInvariant()} \"{to}\";\n");
        }

        return text.Append("}\n").ToString();
    }

    /// <summary>For Apache: a text file for <c>RewriteMap</c> (mod_rewrite, "txt: Plain text maps": a key, white space, a value; keys are compared
    /// with case, so they are in lower case). The query is taken apart from the rest, since Apache since 2.4.60 refuses a question mark that comes
    /// out of a map (AH10508).</summary>
    public static string Apache(string domain, IReadOnlyList<KeptRedirect> redirects)
    {
        ArgumentNullException.ThrowIfNull(redirects);
        var text = new StringBuilder(
            $$$$"""
            # {{{{redirects.Count}}}} redirects of {{{{domain}}}}. Write for its virtual host, with the path of this file:
            #   RewriteEngine on
            #   RewriteMap lower int:tolower
            #   RewriteMap cursus txt:/path/to/{{{{domain}}}}.map
            #   RewriteCond ${cursus:${lower:%{REQUEST_URI}}} ^([^?]*)\?(.*)$
            #   RewriteRule ^ %1?%2 [R=302,NE,L]
            #   RewriteCond ${cursus:${lower:%{REQUEST_URI}}} ^(.+)$
            #   RewriteRule ^ %1 [R=302,NE,L]
            #   RewriteRule ^(/[^/]+)/[0-9]+$ $1 [R=302,L]

            """.ReplaceLineEndings("\n")
        );
        foreach (var redirect in redirects)
        {
            AppendLost(text, redirect, "# ");
            text.Append(System.Globalization.CultureInfo.InvariantCulture, $"/{redirect.Slug.ToLowerInvariant()} {redirect.To}\n");
        }

        return text.ToString();
    }

    /// <summary>For a place that only keeps files: a page that leads on at once, as browsers follow it (HTML Standard, "Refresh state" of
    /// <c>meta</c>).</summary>
    public static string Page(KeptRedirect redirect)
    {
        ArgumentNullException.ThrowIfNull(redirect);
        var to = HtmlEncoder.Default.Encode(redirect.To);

        // A comment ends with the first two hyphens before a greater-than sign, which is encoded.
        var lost = redirect.Lost is { } words ? $"\n<!-- {HtmlEncoder.Default.Encode(words)} -->" : "";
        return $"""
            <!doctype html>
            <html lang="en">
            <meta charset="utf-8">
            <meta name="robots" content="noindex">
            <title>Onward</title>{lost}
            <meta http-equiv="refresh" content="0; url={to}">
            <p><a href="{to}">Go on to the page</a></p>
            </html>

            """.ReplaceLineEndings("\n");
    }

    private static void AppendLost(StringBuilder text, KeptRedirect redirect, string before)
    {
        if (redirect.Lost is { } words)
        {
            text.Append(before).Append(words).Append('\n');
        }
    }

    /// <summary>Where the page of a redirect must lie to be found: as it is shown, in lower case, in capitals as QR codes have it, and behind each
    /// the numbers of its codes. Files have case.</summary>
    public static IReadOnlyList<string> Paths(KeptRedirect redirect)
    {
        ArgumentNullException.ThrowIfNull(redirect);
        string[] slugs = [redirect.Slug, redirect.Slug.ToLowerInvariant(), redirect.Slug.ToUpperInvariant()];
        return
        [
            .. slugs
                .Distinct(StringComparer.Ordinal)
                .SelectMany(slug => redirect.Codes.Select(code => $"{slug}/{code}/index.html").Prepend($"{slug}/index.html")),
        ];
    }
}
