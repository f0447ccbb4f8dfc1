using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Mail;

/// <summary>Sends what <see cref="MailQueue"/> took; where the mail server doesn't take it, again after growing pauses for a day.</summary>
internal sealed class MailSending(CursusDb db, MailSender sender, MailWriting writing, IClock clock) : IRegularWork
{
    private const int AtOnce = 50;
    private static readonly Duration FirstPause = Duration.FromSeconds(30);
    private static readonly Duration LongestPause = Duration.FromHours(1);

    public async Task Run(CancellationToken cancel)
    {
        for (var i = 0; i < AtOnce && await SendNext(cancel); i++) { }

        var old = clock.GetCurrentInstant() - OutgoingMail.Life;
        await db.OutgoingMails.Where(m => m.CreatedAt < old).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Sends the first that is due, if any is. Its row is held meanwhile, so that of several processes one sends it.</summary>
    private async Task<bool> SendNext(CancellationToken cancel)
    {
        db.ChangeTracker.Clear();
        await using var transaction = await db.Database.BeginTransactionAsync(cancel);
        var now = clock.GetCurrentInstant();
        var mail = await db
            .OutgoingMails.FromSql(
                $"select * from outgoing_mails where sent_at is null and next_try_at <= {now} order by next_try_at limit 1 for update skip locked"
            )
            .SingleOrDefaultAsync(cancel);
        if (mail is null)
        {
            return false;
        }

        if (await writing.Write(mail, cancel) is not { } message)
        {
            // There is nothing to send; but it stays as long as others do, so that asking again means the same work whoever was asked for.
            mail.SentAt = now;
        }
        else
        {
            try
            {
                await sender.Send(message, cancel);
                (mail.SentAt, mail.Failure) = (now, null);
            }
            catch (MailException e)
            {
                var pause = Duration.Min(LongestPause, FirstPause * Math.Pow(2, mail.Tries));
                (mail.Tries, mail.NextTryAt, mail.Failure) = ((short)(mail.Tries + 1), now + pause, e.Message);
            }
        }

        await db.SaveChangesAsync(cancel);
        await transaction.CommitAsync(cancel);
        return true;
    }
}
