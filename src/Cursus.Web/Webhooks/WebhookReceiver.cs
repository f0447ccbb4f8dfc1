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
        content.Headers.Add("Cursus-Event", ApiNames.Of(delivery.Kind));
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
