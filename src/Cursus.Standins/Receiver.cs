using System.Collections.Concurrent;
using System.Globalization;
using System.Security.Cryptography;
using System.Text;

namespace Cursus.Standins;

/// <summary>A program that webhooks tell things. Its page shows what has come, checks signatures, and lets it be out of order.</summary>
internal sealed class Receiver
{
    public const string Host = "receiver.localhost";

    private const int Most = 100;

    private readonly ConcurrentQueue<Message> messages = new();
    private int status = StatusCodes.Status204NoContent;
    private string secret = "";

    public async Task Answer(HttpContext context)
    {
        var isPost = HttpMethods.IsPost(context.Request.Method);
        if (isPost && context.Request.Path == "/settings")
        {
            var form = await context.Request.ReadFormAsync(context.RequestAborted);
            secret = form["secret"].ToString().Trim();
            status = int.TryParse(form["status"], CultureInfo.InvariantCulture, out var chosen) ? chosen : StatusCodes.Status204NoContent;
            context.Response.StatusCode = StatusCodes.Status303SeeOther;
            context.Response.Headers.Location = "/";
        }
        else if (isPost)
        {
            await Take(context);
        }
        else
        {
            await Show(context);
        }
    }

    private async Task Take(HttpContext context)
    {
        using var reader = new StreamReader(context.Request.Body, Encoding.UTF8);
        var headers = context.Request.Headers;
        messages.Enqueue(
            new(
                headers["Cursus-Event"].ToString(),
                headers["Cursus-Time"].ToString(),
                headers["Cursus-Signature"].ToString(),
                await reader.ReadToEndAsync()
            )
        );
        while (messages.Count > Most && messages.TryDequeue(out _)) { }

        context.Response.StatusCode = status;
    }

    private Task Show(HttpContext context)
    {
        var rows = string.Concat(messages.Reverse().Select(m => $"<tr><td>{Html.Text(m.Event)}<td>{Check(m)}<td><code>{Html.Text(m.Body)}</code>"));
        static string Choice(int value, string words, int chosen) =>
            $"<option value=\"{value}\"{(value == chosen ? " selected" : "")}>{words}</option>";
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            "A program of your own",
            "#2f4a3c",
            $"""
            <header>A program of your own</header>
            <main><h1>Messages</h1>
            <p>Give a webhook this page's address. What it is told appears here.</p>
            <form method="post" action="/settings">
            <p><label>Secret, to check signatures <input name="secret" value="{Html.Text(secret)}" size="40"></label></p>
            <p><label>Answers <select name="status">{Choice(204, "as it should", status)}{Choice(503, "503, out of order", status)}{Choice(
                410,
                "410, gone for good",
                status
            )}</select></label> <button>Save</button></p></form>
            {(messages.IsEmpty ? "<p>No messages yet.</p>" : $"<table><tr><th>Event<th>Signature<th>Message</tr>{rows}</table>")}
            </main>
            """
        );
    }

    private string Check(Message message)
    {
        if (secret.Length == 0)
        {
            return "not checked";
        }

        var signed = Encoding.UTF8.GetBytes($"{message.Time}.{message.Body}");
        var expected = Convert.ToHexStringLower(HMACSHA256.HashData(Encoding.UTF8.GetBytes(secret), signed));
        return expected == message.Signature ? "right" : "wrong";
    }

    private sealed record Message(string Event, string Time, string Signature, string Body);
}
