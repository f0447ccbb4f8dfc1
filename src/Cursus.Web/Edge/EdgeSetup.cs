using System.Text;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Data.Clicks.Sums;
using Cursus.Web.Clicks;
using Cursus.Web.Edge.Handoff;
using Cursus.Web.Hosting;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Http.Features;
using NodaTime;

namespace Cursus.Web.Edge;

/// <summary>The edge: everything that is not asked of the application's own host.</summary>
public static class EdgeSetup
{
    public static void AddEdge(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<DomainTable>();
        services.AddSingleton<LinkTable>();
        services.AddSingleton<PixelTable>();
        services.AddSingleton<PixelFeed>();
        services.AddSingleton<LinkFeed>();
        services.AddSingleton<SnapshotWriting>();
        services.AddSingleton<UnloadedLinks>();
        services.AddSingleton<TeamMark>();
        services.AddSingleton<ClientAddress>();
        services.AddSingleton<VisitReader>();
        services.AddSingleton<HandoffAnswer>();
        services.AddSingleton<HandoffReports>();
        services.AddSingleton<EdgeHosts>();
        services.AddSingleton<EdgeAnswer>();
        services.AddSingleton<DateLine>();
        services.AddSingleton(provider =>
            ActivatorUtilities.CreateInstance<EdgeConnection>(provider, new Lazy<EdgeAnswer>(provider.GetRequiredService<EdgeAnswer>))
        );

        // Some browsers write letters of their language into headers as they are. A visitor is led on all the same: every byte is some letter of
        // Latin-1.
        builder.WebHost.ConfigureKestrel(kestrel => kestrel.RequestHeaderEncodingSelector = _ => Encoding.Latin1);
        builder.WebHost.ConfigureKestrel(kestrel =>
            kestrel.ConfigureEndpointDefaults(listen =>
            {
                var connections = listen.ApplicationServices.GetRequiredService<EdgeConnection>();
                listen.Use(next => connection => connections.Serve(connection, next));
            })
        );
        services.AddSingleton<VisitorSalts>();
        services.AddSingleton(provider =>
            CountryFiles.Read(provider.GetRequiredService<CursusOptions>().CountryFolder, provider.GetRequiredService<ILogger<CountryTable>>())
        );
        services.AddSingleton(provider =>
        {
            var options = provider.GetRequiredService<CursusOptions>();
            return new ClickJournal(options.JournalFolder, new JournalOptions(options.Durability, MaxSize: options.JournalMegabytes * 1024L * 1024));
        });
        services.AddSingleton(provider => new ClickStore(
            provider.GetRequiredKeyedService<Npgsql.NpgsqlDataSource>(DatabasePools.Shipping),
            provider.GetRequiredService<IClock>()
        ));
        services.AddSingleton(provider => new RollUps(provider.GetRequiredKeyedService<Npgsql.NpgsqlDataSource>(DatabasePools.Shipping)));
        services.AddSingleton(provider => new ClickRetention(provider.GetRequiredKeyedService<Npgsql.NpgsqlDataSource>(DatabasePools.Shipping)));
        services.AddSingleton(provider => new UserAgentRetention(provider.GetRequiredKeyedService<Npgsql.NpgsqlDataSource>(DatabasePools.Shipping)));
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
            services.AddHostedService(provider => provider.GetRequiredService<LinkFeed>());
            services.AddHostedService(provider => provider.GetRequiredService<VisitorSalts>());
            services.AddHostedService(provider => provider.GetRequiredService<SnapshotWriting>());
            services.AddHostedService<ClickShipper>();
            services.AddHostedService<JournalWatch>();
        }

        PutInFront(services);
    }

    /// <summary>Splits by host where the web server is another than the one the edge was put in front of, as in tests.</summary>
    public static void UseEdge(this WebApplication app)
    {
        var services = app.Services;
        if (services.GetRequiredService<IServer>() is EdgeServer)
        {
            return;
        }

        var hosts = services.GetRequiredService<EdgeHosts>();
        var edge = new Lazy<EdgeAnswer>(services.GetRequiredService<EdgeAnswer>);
        app.Use(
            (HttpContext context, RequestDelegate next) =>
                hosts.IsOfApplication(context.Features.GetRequiredFeature<IHttpRequestFeature>())
                    ? next(context)
                    : edge.Value.Answer(context.Features)
        );
    }

    private static void PutInFront(IServiceCollection services)
    {
        var server = services.Last(s => s.ServiceType == typeof(IServer));
        services.Remove(server);
        services.AddSingleton<IServer>(provider => new EdgeServer(
            (IServer)ActivatorUtilities.CreateInstance(provider, server.ImplementationType!),
            provider.GetRequiredService<EdgeHosts>(),
            new Lazy<EdgeAnswer>(provider.GetRequiredService<EdgeAnswer>)
        ));
    }
}
