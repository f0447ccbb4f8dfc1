using System.Text;
using Cursus.Core.Clicks;
using Cursus.Data.Clicks.Journaling;
using Cursus.Edge.Handoff;
using Cursus.Edge.Routing;
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Edge;

/// <summary>The edge: everything that is not asked of the application's own host.</summary>
public static class EdgeSetup
{
    /// <summary>Key of the connections by which the edge follows changes.</summary>
    public const string Database = "edge";

    /// <summary>Adds the edge. Beside it there must be <see cref="EdgeOptions"/>, a clock, data protection, the connections of
    /// <see cref="Database"/>, <see cref="ForgetConnections"/> and <see cref="Cursus.Data.Schema.Prepared"/>.</summary>
    /// <param name="isServing">False where nothing is to be read or written, as when the API's document is made.</param>
    public static void AddEdge(this WebApplicationBuilder builder, bool isServing)
    {
        ArgumentNullException.ThrowIfNull(builder);
        var services = builder.Services;
        services.AddSingleton<DomainTable>();
        services.AddSingleton<LinkTable>();
        services.AddSingleton<RouteBook>();
        services.AddSingleton<AgentBook>();
        services.AddSingleton<FirstPeople>();
        services.AddHostedService(provider => provider.GetRequiredService<FirstPeople>());
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
            CountryFiles.Read(provider.GetRequiredService<EdgeOptions>().CountryFolder, provider.GetRequiredService<ILogger<CountryTable>>())
        );
        services.AddSingleton(provider =>
        {
            var options = provider.GetRequiredService<EdgeOptions>();
            return new ClickJournal(options.JournalFolder, new JournalOptions(options.Durability, MaxSize: options.JournalMegabytes * 1024L * 1024));
        });
        if (isServing)
        {
            services.AddHostedService(provider => provider.GetRequiredService<LinkFeed>());
            services.AddHostedService(provider => provider.GetRequiredService<VisitorSalts>());
            services.AddHostedService(provider => provider.GetRequiredService<SnapshotWriting>());
        }

        PutInFront(services);
    }

    /// <summary>Splits by host where the web server is another than the one the edge was put in front of, as in tests.</summary>
    public static void UseEdge(this WebApplication app)
    {
        ArgumentNullException.ThrowIfNull(app);
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

/// <summary>Closes all connections to the database that nobody uses: after it was away, each is a dead one.</summary>
public delegate void ForgetConnections();
