using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Web.Hosting;
using Microsoft.EntityFrameworkCore;
using NodaTime;

namespace Cursus.Web.Webhooks;

/// <summary>Tells webhooks what happened: writes a message for each that asks for it, and sends those that are due.</summary>
internal sealed class WebhookSending(CursusDb db, WebhookBody bodies, IServiceScopeFactory scopes, IClock clock) : IRegularWork
{
    private const int AtOnce = 200;
    private const int Receivers = 8;

    public async Task Run(CancellationToken cancel)
    {
        while (await WriteSome(cancel) == AtOnce) { }

        var now = clock.GetCurrentInstant();
        var due = await db
            .WebhookDeliveries.Where(d => d.NextTryAt <= now && d.Webhook!.PausedAt == null)
            .Select(d => d.WebhookId)
            .Distinct()
            .ToListAsync(cancel);
        // One receiver that is slow to answer keeps no other waiting.
        await Parallel.ForEachAsync(
            due,
            new ParallelOptions { MaxDegreeOfParallelism = Receivers, CancellationToken = cancel },
            async (webhook, stop) =>
            {
                await using var scope = scopes.CreateAsyncScope();
                await scope.ServiceProvider.GetRequiredService<WebhookReceiver>().SendDue(webhook, stop);
            }
        );
        await db.WebhookDeliveries.Where(d => d.CreatedAt < now - WebhookDelivery.Life).ExecuteDeleteAsync(cancel);
    }

    /// <summary>Makes messages of the oldest events, all or none, and returns how many events there were.</summary>
    private async Task<int> WriteSome(CancellationToken cancel)
    {
        db.ChangeTracker.Clear();
        var events = await db.WebhookEvents.OrderBy(e => e.Id).Take(AtOnce).ToListAsync(cancel);
        foreach (var ofWorkspace in events.GroupBy(e => e.WorkspaceId))
        {
            var workspace = await db.Workspaces.SingleAsync(w => w.Id == ofWorkspace.Key, cancel);
            var webhooks = await db.Webhooks.Where(w => w.WorkspaceId == workspace.Id && w.PausedAt == null).ToListAsync(cancel);
            foreach (var happened in ofWorkspace)
            {
                var told = webhooks.Where(w => w.Events.Contains(happened.Kind)).ToList();
                var id = Guid.CreateVersion7().ToString();
                if (told.Count > 0 && await bodies.Write(id, happened, workspace, cancel) is { } body)
                {
                    db.AddRange(told.Select(w => Delivery(w, happened.Kind, body, happened.At)));
                }
            }
        }

        db.RemoveRange(events);
        await db.SaveChangesAsync(cancel);
        return events.Count;
    }

    /// <summary>A message that is to be sent at once.</summary>
    public static WebhookDelivery Delivery(Webhook webhook, WebhookEventKind kind, string body, Instant at) =>
        new()
        {
            WebhookId = webhook.Id,
            Kind = kind,
            Body = body,
            CreatedAt = at,
            NextTryAt = at,
        };
}
