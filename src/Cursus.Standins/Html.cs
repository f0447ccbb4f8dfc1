using System.Net;

namespace Cursus.Standins;

/// <summary>Pages of the simulated world. Everything that comes from outside goes through <see cref="Text"/>.</summary>
internal static class Html
{
    public static string Text(string? text) => WebUtility.HtmlEncode(text ?? "");

    public static Task Write(HttpContext context, int status, string title, string color, string body, string head = "")
    {
        context.Response.StatusCode = status;
        context.Response.ContentType = "text/html; charset=utf-8";
        return context.Response.WriteAsync(
            $$"""
            <!doctype html>
            <html lang="en">
            <meta charset="utf-8">
            <meta name="viewport" content="width=device-width">
            <title>{{Text(title)}}</title>
            <link rel="icon" href="data:,">
            {{head}}
            <style>
            body { margin: 0; font: 17px/1.55 Georgia, serif; color: #222; background: #fbfaf7 }
            header { background: {{color}}; color: #fff; padding: 14px 24px; font: 600 19px system-ui, sans-serif }
            main { max-width: 42rem; margin: 2rem auto; padding: 0 24px }
            table { border-collapse: collapse; font: 14px system-ui, sans-serif } td, th { text-align: left; padding: 4px 16px 4px 0; border-bottom: 1px solid #ddd; overflow-wrap: anywhere }
            article { background: #fff; border: 1px solid #ddd; border-radius: 8px; padding: 12px 16px; margin: 12px 0; white-space: pre-wrap; overflow-wrap: anywhere }
            textarea { width: 100%; box-sizing: border-box; font: inherit; padding: 10px } button { font: 600 15px system-ui; padding: 8px 18px; margin-top: 6px }
            small { color: #666; font-family: system-ui, sans-serif } a { color: #1d4f6e }
            </style>
            {{body}}
            </html>
            """
        );
    }
}
