using System.Text;
using System.Text.Encodings.Web;
using System.Text.Unicode;

namespace Cursus.Core.Retargeting;

/// <summary>The question that is asked before pixels fire.</summary>
/// <param name="Who">Who asks.</param>
/// <param name="PrivacyPage">Address of the page that says more; null for none.</param>
public sealed record HandoffQuestion(string Language, ConsentWords Words, string Who, string? PrivacyPage);

/// <summary>How the handoff page looks; blank where it says nothing.</summary>
/// <param name="Line">One line of text.</param>
/// <param name="Logo">A picture as a data address; null for none.</param>
/// <param name="Paper">Colour behind, as <c>#rrggbb</c>.</param>
/// <param name="Ink">Colour of the text.</param>
public sealed record HandoffLook(string? Line, string? Logo, string Paper, string Ink)
{
    private static readonly HtmlEncoder Encoder = HtmlEncoder.Create(UnicodeRanges.All);

    public static HandoffLook Blank { get; } = new(null, null, "#fffdf9", "#231b22");

    /// <summary>Style sheet of the page, no more than what is on it needs. Both answers look the same, so that neither is pushed.</summary>
    internal string Style(HandoffQuestion? question)
    {
        var colors = $"body{{margin:0;background:{Color(Paper, Blank.Paper)};color:{Color(Ink, Blank.Ink)};";
        return question is null && Line is null && Logo is null
            ? colors + "}"
            : colors
                + "min-height:100vh;display:grid;place-items:center;font:17px/1.5 system-ui,sans-serif}main{max-width:30rem;padding:24px;text-align:center}"
                + (Logo is null ? "" : ".logo{max-width:160px;max-height:64px}")
                + (
                    question is null
                        ? ""
                        : "h1{font:inherit}form div{display:flex;flex-wrap:wrap;gap:12px;margin:16px 0}button{flex:1 1 12rem;min-height:48px;font:inherit;font-weight:600;color:inherit;background:none;border:2px solid;border-radius:8px}a{color:inherit}"
                );
    }

    /// <summary>The page as it looks, with nothing that fires or goes on, for whoever sets it up.</summary>
    /// <param name="networks">Names of the networks that the question names.</param>
    public string Sample(HandoffQuestion? question, IReadOnlyList<string> networks)
    {
        var html = new StringBuilder();
        WriteHead(html, question);
        WriteMain(html, question, networks, page: null);
        return html.Append("</html>").ToString();
    }

    internal void WriteHead(StringBuilder html, HandoffQuestion? question) =>
        html.Append("<!doctype html><html lang=\"")
            .Append(question?.Language ?? "en")
            .Append(
                "\"><meta charset=\"utf-8\"><meta name=\"viewport\" content=\"width=device-width\"><meta name=\"robots\" content=\"noindex\"><title>"
            )
            .Append(Encoded(Line ?? "Leading on"))
            .Append("</title><style>")
            .Append(Style(question))
            .Append("</style>");

    /// <summary>What people see. The question is a form, so that it can be answered without scripts too.</summary>
    /// <param name="page">What the form sends back; null for a sample, which sends nothing.</param>
    internal void WriteMain(StringBuilder html, HandoffQuestion? question, IReadOnlyList<string> networks, HandoffPage? page)
    {
        html.Append("<main>");
        if (Logo is { } logo)
        {
            html.Append("<img class=\"logo\" alt=\"\" src=\"").Append(Encoded(logo)).Append("\">");
        }

        if (Line is { } line)
        {
            html.Append("<p>").Append(Encoded(line)).Append("</p>");
        }

        if (question is not null)
        {
            WriteQuestion(html, question, networks, page);
        }

        html.Append("</main>");
    }

    internal static string Encoded(string text) => Encoder.Encode(text);

    private static void WriteQuestion(StringBuilder html, HandoffQuestion question, IReadOnlyList<string> networks, HandoffPage? page)
    {
        var text = question.Words.Ask([.. networks.Distinct()], question.Who);
        html.Append("<form method=\"post\" action=\"/")
            .Append(HandoffPage.ReportPath)
            .Append("\" aria-labelledby=\"q\"><h1 id=\"q\">")
            .Append(Encoded(text))
            .Append("</h1>");
        WriteHidden(html, "slug", page?.Slug);
        WriteHidden(html, "ticket", page?.Ticket.ToString());
        WriteHidden(html, "query", page?.Query);
        html.Append("<div><button name=\"answer\" value=\"yes\">")
            .Append(Encoded(question.Words.Yes))
            .Append("</button><button name=\"answer\" value=\"no\">")
            .Append(Encoded(question.Words.No))
            .Append("</button></div></form>");
        if (question.PrivacyPage is { } privacy)
        {
            html.Append("<a href=\"").Append(Encoded(privacy)).Append("\">").Append(Encoded(question.Words.Privacy)).Append("</a>");
        }
    }

    private static void WriteHidden(StringBuilder html, string name, string? value) =>
        html.Append("<input type=\"hidden\" name=\"").Append(name).Append("\" value=\"").Append(Encoded(value ?? "")).Append("\">");

    /// <summary>Colours go into a style sheet, where no quote would hold them back: what is no colour is not written.</summary>
    private static string Color(string color, string otherwise) => ColorContrast.TryParse(color, out _) ? color : otherwise;
}
