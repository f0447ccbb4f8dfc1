using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Sums;
using Cursus.Web.Hosting;
using NodaTime;
using Npgsql;

namespace Cursus.Web.Clicks;

/// <summary>The way of clicks from the journal into the database, and what becomes of them there.</summary>
internal static class ShippingSetup
{
    public static void AddShipping(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton(provider => new ClickStore(
            provider.GetRequiredKeyedService<NpgsqlDataSource>(DatabasePools.Shipping),
            provider.GetRequiredService<IClock>()
        ));
        services.AddSingleton(provider => new RollUps(provider.GetRequiredKeyedService<NpgsqlDataSource>(DatabasePools.Shipping)));
        services.AddSingleton(provider => new ClickRetention(provider.GetRequiredKeyedService<NpgsqlDataSource>(DatabasePools.Shipping)));
        services.AddSingleton(provider => new UserAgentRetention(provider.GetRequiredKeyedService<NpgsqlDataSource>(DatabasePools.Shipping)));
        services.AddSingleton<ShippingState>();
        services.AddSingleton<LiveClicks>();
        services.AddRegularWork<DaySealing>(
            "sealing",
            "Monthly totals",
            "Puts days that are over everywhere into the totals of their month.",
            TimeSpan.FromMinutes(10)
        );
        services.AddRegularWork<Retention>(
            "retention",
            "Deletion of old clicks",
            "Deletes individual clicks and browser texts that are not kept any longer.",
            TimeSpan.FromHours(1)
        );
        if (!DocumentBuild.IsRunning)
        {
            services.AddHostedService<ClickShipper>();
            services.AddHostedService<JournalWatch>();
        }
    }
}
