using System.Globalization;
using System.Text;
using Cursus.Core;
using Cursus.Core.Addresses.Urls;
using Cursus.Core.Webhooks;
using Cursus.Data;
using Cursus.Data.Webhooks;
using Cursus.Web.Hosting;
using Cursus.Web.Outgoing;
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

/// <summary>Sends one webhook what is due, in order, until something doesn't arrive.</summary>
internal sealed class WebhookReceiver(CursusDb db, OutgoingClient client, WebhookSecret secrets, IClock clock)
{
    private const int AtOnce = 100;
    private static readonly TimeSpan Patience = TimeSpan.FromSeconds(10);

    public async Task SendDue(Guid id, CancellationToken cancel)
    {
        var webhook = await db.Webhooks.SingleOrDefaultAsync(w => w.Id == id && w.PausedAt == null, cancel);
        var now = clock.GetCurrentInstant();
        var due = await db
            .WebhookDeliveries.Where(d => d.WebhookId == id && d.NextTryAt <= now)
            .OrderBy(d => d.CreatedAt)
            .Take(AtOnce)
            .ToListAsync(cancel);
        try
        {
            foreach (var delivery in due)
            {
                if (webhook is null || !await Send(webhook, delivery, cancel))
                {
                    return;
                }
            }
        }
        catch (DbUpdateConcurrencyException)
        {
            // Somebody has deleted the webhook while it was being told.
        }
    }

    /// <summary>Sends one message, and saves what came of it; false where it didn't arrive.</summary>
    private async Task<bool> Send(Webhook webhook, WebhookDelivery delivery, CancellationToken cancel)
    {
        var now = clock.GetCurrentInstant();
        delivery.Tries++;
        (delivery.Status, delivery.Failure) = await Post(webhook, delivery, now, cancel);
        if (delivery.Failure is null)
        {
            (delivery.DeliveredAt, delivery.NextTryAt) = (now, null);
            webhook.FailingSince = null;
        }
        else
        {
            var pause = WebhookPatience.Next(delivery.Tries, (now - delivery.CreatedAt).ToTimeSpan());
            delivery.NextTryAt = pause is { } wait ? now + Duration.FromTimeSpan(wait) : null;
            webhook.FailingSince ??= now;
            PauseIfDead(webhook, delivery, now);
        }

        await db.SaveChangesAsync(cancel);
        return delivery.Failure is null;
    }

    private static void PauseIfDead(Webhook webhook, WebhookDelivery delivery, Instant now)
    {
        var why =
            delivery.Status == StatusCodes.Status410Gone ? "The receiver answered 410: it is gone for good."
            : now - webhook.FailingSince >= Duration.FromTimeSpan(WebhookPatience.Longest) ? "Nothing has arrived for three days."
            : null;
        if (why is not null)
        {
            (webhook.PausedAt, webhook.PausedWhy) = (now, why);
        }
    }

    /// <summary>What the receiver answered, and why that isn't well; no reason where it is.</summary>
    private async Task<(int? Status, string? Failure)> Post(Webhook webhook, WebhookDelivery delivery, Instant now, CancellationToken cancel)
    {
        var time = now.ToUnixTimeSeconds();
        using var content = new StringContent(delivery.Body, Encoding.UTF8, "application/json");
        content.Headers.Add("Cursus-Event", WebhookEventNames.Of(delivery.Kind));
        content.Headers.Add("Cursus-Delivery", delivery.Id.ToString());
        content.Headers.Add("Cursus-Time", time.ToString(CultureInfo.InvariantCulture));
        content.Headers.Add("Cursus-Signature", WebhookSignature.Of(secrets.Open(webhook), time, delivery.Body));
        try
        {
            var address = WebAddress.Parse(webhook.Address, null, out var error) ?? throw new PageNotFetchedException(error!);
            var status = await client.Post(address, content, "Cursus/1.0 (webhook)", Patience, cancel);
            return (status, status is >= 200 and < 300 ? null : $"It answered {status}; an answer between 200 and 299 is expected.");
        }
        catch (PageNotFetchedException e)
        {
            return (null, Words(e.Error));
        }
    }

    /// <summary>As it concerns a program: nobody waits, and there is nothing to look at in a browser.</summary>
    private static string Words(ValidationError error) =>
        error.Code switch
        {
            "page-too-slow" => $"It didn’t answer within {Patience.TotalSeconds} seconds.",
            "page-silent" => "It didn’t answer.",
            "page-insecure" => "A secure connection fails: its certificate may have expired, or be for another name.",
            _ => error.Text,
        };
}
