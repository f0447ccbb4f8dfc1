using System.Net.Sockets;
using MailKit;
using MailKit.Net.Smtp;
using MimeKit;

namespace Cursus.Web.Outgoing;

/// <summary>Hands e-mails to the mail server.</summary>
internal sealed class MailSender(MailOptions options)
{
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(20);

    /// <summary>Whether a mail server is named.</summary>
    public bool IsSetUp => options.Host is not null;

    /// <exception cref="MailException">The server can't be reached, or doesn't take it; the message says why.</exception>
    public async Task Send(MimeMessage message, CancellationToken cancel)
    {
        message.From.Add(new MailboxAddress("Cursus", options.From));
        using var client = new SmtpClient { Timeout = (int)Patience.TotalMilliseconds };
        try
        {
            await client.ConnectAsync(options.Host!, options.Port, options.Security, cancel);
            if (options.User is { } user)
            {
                await client.AuthenticateAsync(user, options.Password ?? "", cancel);
            }

            await client.SendAsync(message, cancel);
            await client.DisconnectAsync(quit: true, cancel);
        }
        catch (Exception e)
            when (e
                    is SocketException
                        or IOException
                        or TimeoutException
                        or ProtocolException
                        or CommandException
                        or MailKit.Security.AuthenticationException
                        or MailKit.Security.SslHandshakeException
            )
        {
            throw new MailException(e.Message, e);
        }
    }
}

/// <summary>An e-mail could not be handed over.</summary>
internal sealed class MailException(string reason, Exception inner) : Exception(reason, inner);
