using Cursus.Data.Webhooks;

namespace Cursus.Web.Webhooks;

/// <summary>What events are called in messages and in the API.</summary>
internal static class WebhookEventNames
{
    public static string Of(WebhookEventKind kind) =>
        kind switch
        {
            WebhookEventKind.Test => "test",
            WebhookEventKind.LinkCreated => "link-created",
            WebhookEventKind.DestinationChanged => "destination-changed",
            WebhookEventKind.PageDied => "page-died",
            WebhookEventKind.PageBack => "page-back",
            WebhookEventKind.MilestoneReached => "milestone-reached",
            _ => "digest-ready",
        };
}
