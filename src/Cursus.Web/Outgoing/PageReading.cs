using System.Text;
using System.Text.RegularExpressions;
using AngleSharp.Html;
using AngleSharp.Html.Parser;
using AngleSharp.Html.Parser.Tokens;
using AngleSharp.Text;

namespace Cursus.Web.Outgoing;

/// <summary>
/// What a page says of itself and shows, read tag by tag (HTML Standard, section 13.2.5) in one pass. No tree of elements is built: a page of a
/// megabyte that nests a hundred thousand of them would keep a processor for minutes, and nobody could stop it.
/// </summary>
/// <param name="Title">As it stands between its tags; null where there is none.</param>
/// <param name="Metas">Names or properties in lower case, with their content, in their order.</param>
/// <param name="Headings">The first headings of the two upper ranks.</param>
/// <param name="Text">What visitors can read.</param>
internal sealed partial record PageReading(
    string? Title,
    IReadOnlyList<(string Name, string Content)> Metas,
    IReadOnlyList<string> Headings,
    string Text
)
{
    private const int MostHeadings = 3;
    private const int MostMetas = 200;

    /// <summary>No tag of an honest page has more; each further one would be compared with all before it.</summary>
    private const int MostAttributes = 50;

    /// <summary>Elements whose text nobody reads.</summary>
    private static readonly HashSet<string> Unseen = ["script", "style", "noscript", "template"];

    /// <summary>The first content of a meta element of this name or property.</summary>
    public string? Meta(string name) => Metas.FirstOrDefault(m => m.Name == name).Content;

    /// <summary>How far a page must have named its encoding (HTML Standard, section 13.2.3.2).</summary>
    private const int BytesToEncoding = 1024;

    static PageReading() => Encoding.RegisterProvider(CodePagesEncodingProvider.Instance);

    /// <summary>Reads a page in the encoding that it names, else in UTF-8.</summary>
    public static PageReading Of(byte[] body)
    {
        using var html = new MemoryStream(body);
        using var source = new TextSource(html, EncodingOf(body));
        using var tokens = new HtmlTokenizer(source, HtmlEntityProvider.Resolver)
        {
            ShouldEmitAttribute = (ref tag, _) => tag.Attributes.Count < MostAttributes,
        };
        return new Reader(tokens).Read();
    }

    private static Encoding EncodingOf(byte[] body) =>
        NamedEncoding().Match(Encoding.Latin1.GetString(body, 0, Math.Min(body.Length, BytesToEncoding))) is { Success: true } named
        && TextEncoding.IsSupported(named.Groups[1].Value)
            ? TextEncoding.Resolve(named.Groups[1].Value)
            : Encoding.UTF8;

    [GeneratedRegex("""<meta[^>]{1,200}charset\s{0,9}=\s{0,9}["']?([\w-]{1,40})""", RegexOptions.IgnoreCase | RegexOptions.CultureInvariant)]
    private static partial Regex NamedEncoding();

    private sealed class Reader(HtmlTokenizer tokens)
    {
        private readonly List<(string, string)> metas = [];
        private readonly List<string> headings = [];
        private readonly StringBuilder text = new();
        private StringBuilder? title;

        // What the next text belongs to: the title, an element that nobody reads, a heading.
        private string inside = "";
        private StringBuilder? heading;

        public PageReading Read()
        {
            for (var token = tokens.Get(); token.Type != HtmlTokenType.EndOfFile; token = tokens.Get())
            {
                switch (token.Type)
                {
                    case HtmlTokenType.StartTag when inside.Length == 0:
                        Begin(token.AsTag());
                        break;
                    case HtmlTokenType.EndTag:
                        End(token.Name);
                        break;
                    case HtmlTokenType.Character:
                        Take(token.Data);
                        break;
                }
            }

            EndHeading();
            return new PageReading(title?.ToString(), metas, headings, text.ToString());
        }

        private void Begin(HtmlTagToken tag)
        {
            switch (tag.Name)
            {
                case "title" when title is null:
                    (inside, tokens.State, title) = (tag.Name, HtmlParseMode.RCData, new StringBuilder());
                    break;
                case "textarea":
                    tokens.State = HtmlParseMode.RCData;
                    break;
                case "script":
                    (inside, tokens.State) = (tag.Name, HtmlParseMode.Script);
                    break;
                case "style" or "noscript":
                    (inside, tokens.State) = (tag.Name, HtmlParseMode.Rawtext);
                    break;
                case "template" when !tag.IsSelfClosing:
                    inside = tag.Name;
                    break;
                case "xmp" or "iframe" or "noembed" or "noframes":
                    tokens.State = HtmlParseMode.Rawtext;
                    break;
                case "meta" when metas.Count < MostMetas:
                    TakeMeta(tag);
                    break;
                case "h1" or "h2":
                    EndHeading();
                    heading = headings.Count < MostHeadings ? new StringBuilder() : null;
                    break;
            }
        }

        private void End(string name)
        {
            if (name == inside)
            {
                inside = "";
            }
            else if (name is "h1" or "h2" && inside.Length == 0)
            {
                EndHeading();
            }
        }

        private void Take(string data)
        {
            if (inside == "title")
            {
                title!.Append(data);
            }
            else if (!Unseen.Contains(inside))
            {
                text.Append(data);
                heading?.Append(data);
            }
        }

        private void TakeMeta(HtmlTagToken tag)
        {
            foreach (var attribute in new[] { "property", "name" })
            {
                if (tag.GetAttribute(attribute) is { Length: > 0 } name && tag.GetAttribute("content") is { } content)
                {
                    metas.Add((name.ToLowerInvariant(), content));
                }
            }
        }

        private void EndHeading()
        {
            if (heading is not null)
            {
                headings.Add(heading.ToString());
                heading = null;
            }
        }
    }
}
