using System.Text.Encodings.Web;

namespace Cursus.Web.Mail;

/// <summary>How Cursus's e-mails look as HTML: one column, no pictures, nothing that is fetched from elsewhere.</summary>
internal static class MailLayout
{
    /// <param name="above">A small line above the heading.</param>
    /// <param name="content">HTML between the heading and the link.</param>
    /// <param name="onward">The link at the end: its text and where it leads.</param>
    public static string Html(string above, string heading, string content, (string Text, string Address)? onward) =>
        $"""
            <!doctype html><html lang="en"><body style="margin:0;background:#f7f4ee;color:#231b22;font:15px/1.5 sans-serif">
            <div style="max-width:600px;margin:0 auto;padding:28px 20px">
            <p style="margin:0;color:#655a62">{Safe(above)}</p>
            <h1 style="font-size:22px;margin:2px 0 0">{Safe(heading)}</h1>
            {content}{(
                onward is { } link ? $"""<p style="margin:26px 0 0"><a href="{Safe(link.Address)}" style="color:#6e2a5b">{Safe(link.Text)}</a></p>""" : ""
            )}
            </div></body></html>
            """;

    public static string Safe(string text) => HtmlEncoder.Default.Encode(text);
}
