using Cursus.Web.Hosting;

namespace Cursus.Web.Webhooks;

/// <summary>Registers what tells webhooks.</summary>
internal static class WebhookSetup
{
    public static void AddWebhooks(this IServiceCollection services)
    {
        services.AddSingleton<WebhookSecret>();
        services.AddScoped<WebhookBody>();
        services.AddScoped<WebhookReceiver>();
        services.AddRegularWork<WebhookSending>(
            "webhooks",
            "Webhooks",
            "Sends webhooks what happened, and again what didn’t arrive.",
            TimeSpan.FromSeconds(3)
        );
        services.AddRegularWork<WebhookWatch>(
            "webhook-watch",
            "Milestones",
            "Looks for links that have reached a milestone and for digests that are ready, where webhooks ask for them.",
            TimeSpan.FromMinutes(1)
        );
    }
}
