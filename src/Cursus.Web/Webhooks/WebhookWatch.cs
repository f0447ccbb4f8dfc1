using Cursus.Core.Webhooks;
using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Web.Hosting;
using Cursus.Web.Reports.Digests;
using Microsoft.EntityFrameworkCore;
using NodaTime;
using NodaTime.Text;

namespace Cursus.Web.Webhooks;

/// <summary>Finds what no change in the database tells of: milestones that links have reached, and digests whose week is over.</summary>
internal sealed class WebhookWatch(CursusDb db, IClock clock) : IRegularWork
{
    public async Task Run(CancellationToken cancel)
    {
        await TellMilestones(cancel);
        await TellDigests(cancel);
    }

    /// <summary>Takes what a workspace's links have reached so far as told, before a webhook asks for what comes.</summary>
    public static Task Begin(CursusDb db, Guid workspace, CancellationToken cancel)
    {
        var milestones = Milestones.All.ToArray();
        return db.Database.ExecuteSqlAsync(
            $"""
            insert into webhook_milestones (link_id, clicks)
            select t.link_id, (select max(m) from unnest({milestones}) m where m <= t.clicks)
            from link_totals t join links l on l.id = t.link_id where l.workspace_id = {workspace} and t.clicks >= {milestones[0]}
            on conflict (link_id) do update set clicks = greatest(excluded.clicks, webhook_milestones.clicks)
            """,
            cancel
        );
    }

    /// <summary>The week whose digest is ready at this moment; null where it is not Monday morning yet.</summary>
    public static LocalDate? ReadyWeek(Data.Workspaces.Workspace workspace, Instant now) =>
        DigestSending.DueMonday(now.InZone(DateTimeZoneProviders.Tzdb[workspace.TimeZone])) is { } monday
            ? DigestReport.LastWeek(monday, workspace)
            : null;

    private Task<int> TellMilestones(CancellationToken cancel)
    {
        var (milestones, kind) = (Milestones.All.ToArray(), (short)WebhookEventKind.MilestoneReached);
        return db.Database.ExecuteSqlAsync(
            $"""
            with reached as (
                insert into webhook_milestones (link_id, clicks)
                select t.link_id, (select max(m) from unnest({milestones}) m where m <= t.clicks)
                from link_totals t join links l on l.id = t.link_id
                where t.clicks >= {milestones[
                0
            ]} and exists (select 1 from webhooks w where w.workspace_id = l.workspace_id and {kind} = any (w.events))
                on conflict (link_id) do update set clicks = excluded.clicks where webhook_milestones.clicks < excluded.clicks
                returning link_id, clicks
            )
            insert into webhook_events (workspace_id, kind, thing, detail, at)
            select l.workspace_id, {kind}, l.id, r.clicks::text, {clock.GetCurrentInstant()} from reached r join links l on l.id = r.link_id
            """,
            cancel
        );
    }

    private async Task TellDigests(CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        var asking = await db
            .Workspaces.Where(w => db.Webhooks.Any(h => h.WorkspaceId == w.Id && h.Events.Contains(WebhookEventKind.DigestReady)))
            .ToListAsync(cancel);
        foreach (var workspace in asking)
        {
            if (ReadyWeek(workspace, now) is not { } week || week <= workspace.DigestToldFor)
            {
                continue;
            }

            workspace.DigestToldFor = week;
            db.Add(
                new WebhookEvent
                {
                    WorkspaceId = workspace.Id,
                    Kind = WebhookEventKind.DigestReady,
                    Detail = LocalDatePattern.Iso.Format(week),
                    At = now,
                }
            );
        }

        await db.SaveChangesAsync(cancel);
    }
}
