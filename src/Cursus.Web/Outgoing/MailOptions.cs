using MailKit.Security;

namespace Cursus.Web.Outgoing;

/// <summary>The mail server that takes Cursus's e-mails. Section <c>Cursus:Mail</c> of the configuration.</summary>
public sealed class MailOptions
{
    /// <summary>Null where e-mails are not sent.</summary>
    public string? Host { get; init; }

    public int Port { get; init; } = 587;

    /// <summary><c>StartTls</c> (as a rule), <c>SslOnConnect</c>, or <c>None</c> for a server on the same machine.</summary>
    public SecureSocketOptions Security { get; init; } = SecureSocketOptions.StartTls;

    /// <summary>Null where the server asks for none.</summary>
    public string? User { get; init; }

    public string? Password { get; init; }

    /// <summary>The address that e-mails come from.</summary>
    public string From { get; init; } = "cursus@localhost";
}
