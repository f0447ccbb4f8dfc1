using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using NodaTime;

namespace Cursus.Web.Mail;

/// <summary>Takes e-mails to be sent by <see cref="MailSending"/>. They are saved with the change that they tell of, or not at all.</summary>
internal sealed class MailQueue(CursusDb db, MailSender sender, CursusOptions options, IClock clock)
{
    /// <summary>Whether e-mails with links can be sent: there is a mail server, and the application knows its own address. A request's
    /// <c>Host</c> header is no address to put into a link: anybody can set it.</summary>
    public bool IsSetUp => sender.IsSetUp && options.AppAddress is not null;

    /// <summary>Adds an e-mail to what is about to be saved; nothing where e-mails aren't set up.</summary>
    public void Add(MailKind kind, string to, Guid? about = null, string? detail = null)
    {
        if (IsSetUp)
        {
            var now = clock.GetCurrentInstant();
            db.Add(
                new OutgoingMail
                {
                    Kind = kind,
                    Recipient = to,
                    About = about,
                    Detail = detail,
                    CreatedAt = now,
                    NextTryAt = now,
                }
            );
        }
    }
}
