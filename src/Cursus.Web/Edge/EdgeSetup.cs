using Cursus.Data;
using Cursus.Data.Clicks;
using Cursus.Web.Clicks;
using Cursus.Web.Hosting;

namespace Cursus.Web.Edge;

/// <summary>The edge: everything that is not asked of the application's own host.</summary>
public static class EdgeSetup
{
    public static void AddEdge(this WebApplicationBuilder builder)
    {
        var services = builder.Services;
        services.AddSingleton<LinkTable>();
        services.AddSingleton<TeamMark>();
        services.AddSingleton<EdgeAnswer>();
        services.AddSingleton<VisitorSalts>();
        services.AddSingleton(provider => new ClickJournal(provider.GetRequiredService<CursusOptions>().JournalFolder));
        services.AddSingleton<ClickStore>();
        if (!DocumentBuild.IsRunning)
        {
            services.AddHostedService(provider => provider.GetRequiredService<VisitorSalts>());
            services.AddHostedService<ClickShipper>();
        }
    }

    /// <summary>Splits by host, before anything else runs: the application never answers on a short domain, nor the edge on the application's host.</summary>
    public static void UseEdge(this WebApplication app)
    {
        var appHosts = app.Services.GetRequiredService<CursusOptions>().AppHosts.ToHashSet(StringComparer.OrdinalIgnoreCase);
        var edge = new Lazy<EdgeAnswer>(app.Services.GetRequiredService<EdgeAnswer>);
        app.Use((HttpContext context, RequestDelegate next) => appHosts.Contains(context.Request.Host.Host) ? next(context) : edge.Value.Answer(context));
    }

    /// <summary>Fills the link table before the first request.</summary>
    public static async Task LoadLinks(this WebApplication app)
    {
        if (DocumentBuild.IsRunning)
        {
            return;
        }

        await using var scope = app.Services.CreateAsyncScope();
        await app.Services.GetRequiredService<LinkTable>().Load(scope.ServiceProvider.GetRequiredService<CursusDb>(), CancellationToken.None);
    }
}
