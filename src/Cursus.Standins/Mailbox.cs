using System.Buffers;
using System.Collections.Concurrent;
using MimeKit;
using SmtpServer;
using SmtpServer.Protocol;
using SmtpServer.Storage;

namespace Cursus.Standins;

/// <summary>A mail server that takes every e-mail and delivers it to a page, where all of them can be read.</summary>
internal sealed class Mailbox(int port) : BackgroundService
{
    public const string Host = "mailbox.localhost";

    private const int Most = 200;

    private readonly ConcurrentQueue<MimeMessage> letters = new();

    protected override Task ExecuteAsync(CancellationToken stoppingToken)
    {
        var services = new SmtpServer.ComponentModel.ServiceProvider();
        services.Add(new Store(Keep));
        var server = new SmtpServer.SmtpServer(
            new SmtpServerOptionsBuilder()
                .ServerName(Host)
                .Endpoint(e => e.Endpoint(new System.Net.IPEndPoint(System.Net.IPAddress.Loopback, port)))
                .Build(),
            services
        );
        return server.StartAsync(stoppingToken);
    }

    /// <summary>The list, newest first; below it the letter that was chosen.</summary>
    public Task Answer(HttpContext context)
    {
        var all = letters.Reverse().ToList();
        var chosen = all.FirstOrDefault(l => l.MessageId == context.Request.Query["letter"].ToString()) ?? all.FirstOrDefault();
        var rows = string.Concat(
            all.Select(l =>
                $"""
                    <tr><td>{Html.Text(l.To.ToString())}<td><a href="?letter={Uri.EscapeDataString(l.MessageId ?? "")}">{Html.Text(
                        l.Subject
                    )}</a><td>{Html.Text(l.Date.ToString("d MMM HH:mm", System.Globalization.CultureInfo.InvariantCulture))}
                    """
            )
        );

        // What a letter holds is shown and not run; its links lead on as they do in any mailbox.
        var letter = chosen is null
            ? ""
            : $"""
                <h2>{Html.Text(chosen.Subject)}</h2>
                <iframe sandbox="allow-top-navigation-by-user-activation" title="The e-mail" style="width:100%;height:560px;border:1px solid #ccc" srcdoc="{Html.Text(
                    "<base target=_top>" + (chosen.HtmlBody ?? chosen.TextBody ?? "")
                )}"></iframe>
                """;
        return Html.Write(
            context,
            StatusCodes.Status200OK,
            "Hillfoot Post, your e-mails",
            "#5a3d2b",
            $"""
            <header>Hillfoot Post, everybody's mailbox</header>
            <main><h1>E-mails</h1>
            {(
                all.Count == 0
                    ? "<p>No e-mails yet.</p>"
                    : $"<div style=\"max-height:260px;overflow:auto\"><table><tr><th>To<th>Subject<th>Came</tr>{rows}</table></div>"
            )}
            {letter}</main>
            """
        );
    }

    private void Keep(MimeMessage letter)
    {
        letters.Enqueue(letter);
        while (letters.Count > Most && letters.TryDequeue(out _)) { }
    }

    private sealed class Store(Action<MimeMessage> keep) : MessageStore
    {
        public override async Task<SmtpResponse> SaveAsync(
            ISessionContext context,
            IMessageTransaction transaction,
            ReadOnlySequence<byte> buffer,
            CancellationToken cancellationToken
        )
        {
            using var bytes = new MemoryStream(buffer.ToArray());
            keep(await MimeMessage.LoadAsync(bytes, cancellationToken));
            return SmtpResponse.Ok;
        }
    }
}
