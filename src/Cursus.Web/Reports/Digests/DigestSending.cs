using Cursus.Core;
using Cursus.Data;
using Cursus.Data.Workspaces;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
using Cursus.Web.Reports.Counts;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Reports.Digests;

/// <summary>Sends the digest of last week to members who want it, on Monday morning by the workspace's clock; until Wednesday where the server was
/// away or the mail server didn't answer.</summary>
internal sealed class DigestSending(CursusDb db, Counting counting, MailSender mail, DigestMail letters, IClock clock) : IRegularWork
{
    private const int MorningHour = 7;

    /// <summary>The Monday on which the week before is due to be told of at this moment; null at other times of the week.</summary>
    public static LocalDate? DueMonday(ZonedDateTime now) =>
        now.DayOfWeek > IsoDayOfWeek.Wednesday || (now.DayOfWeek == IsoDayOfWeek.Monday && now.Hour < MorningHour)
            ? null
            : now.Date.With(DateAdjusters.PreviousOrSame(IsoDayOfWeek.Monday));

    /// <summary>Sends what is due, each to each member once, and returns how many went out.</summary>
    public async Task<int> SendDue(CancellationToken cancel)
    {
        var sent = 0;
        foreach (var workspace in await db.Workspaces.AsNoTracking().Where(w => w.ArchivedAt == null).ToListAsync(cancel))
        {
            NumberLanguage.Use(workspace.NumberLanguage);
            var zone = DateTimeZoneProviders.Tzdb[workspace.TimeZone];
            var now = clock.GetCurrentInstant();
            if (DueMonday(now.InZone(zone)) is { } monday)
            {
                sent += await SendDue(workspace, zone, monday, now, cancel);
            }
        }

        return sent;
    }

    public Task Run(CancellationToken cancel) => SendDue(cancel);

    private async Task<int> SendDue(Workspace workspace, DateTimeZone zone, LocalDate monday, Instant now, CancellationToken cancel)
    {
        var week = DigestReport.LastWeek(monday, workspace);
        var begun = zone.AtStartOfDay(monday).ToInstant();
        var due = await db
            .Members.Where(m =>
                m.WorkspaceId == workspace.Id && m.WantsDigest && m.CreatedAt < begun && (m.DigestSentFor == null || m.DigestSentFor < week)
            )
            .Select(m => m.Id)
            .ToListAsync(cancel);
        if (due.Count == 0)
        {
            return 0;
        }

        var digest = await DigestReport.Of(workspace, week, now, counting, db, cancel);
        var sent = 0;
        foreach (var id in due)
        {
            // The member's row is held while the letter goes out, so that of several servers one sends it; it is marked only when the mail server has
            // taken it.
            await using var transaction = await db.Database.BeginTransactionAsync(cancel);
            var member = await db
                .Members.FromSql(
                    $"select * from members where id = {id} and (digest_sent_for is null or digest_sent_for < {week}) for update skip locked"
                )
                .Include(m => m.Account)
                .SingleOrDefaultAsync(cancel);
            if (member is null)
            {
                continue;
            }

            await mail.Send(letters.Write(digest, week, workspace, member.Account!), cancel);
            member.DigestSentFor = week;
            await db.SaveChangesAsync(cancel);
            await transaction.CommitAsync(cancel);
            sent++;
        }

        return sent;
    }
}
