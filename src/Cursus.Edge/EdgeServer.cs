using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Edge;

/// <summary>
/// Puts the edge between the web server and ASP.NET Core: a request on a short domain is answered before anything of the application's own pipeline
/// is made for it.
/// </summary>
/// <param name="edge">Made when the server starts, since it takes the click journal, which commands leave alone.</param>
internal sealed class EdgeServer(IServer inner, EdgeHosts hosts, Lazy<EdgeAnswer> edge) : IServer
{
    public IFeatureCollection Features => inner.Features;

    public Task StartAsync<TContext>(IHttpApplication<TContext> application, CancellationToken cancellationToken)
        where TContext : notnull => inner.StartAsync(new Split<TContext>(application, hosts, edge.Value), cancellationToken);

    public Task StopAsync(CancellationToken cancellationToken) => inner.StopAsync(cancellationToken);

    public void Dispose() => inner.Dispose();

    private readonly record struct Request<TContext>(IFeatureCollection Features, TContext? OfApplication, bool IsOfEdge);

    private sealed class Split<TContext>(IHttpApplication<TContext> application, EdgeHosts hosts, EdgeAnswer edge)
        : IHttpApplication<Request<TContext>>
        where TContext : notnull
    {
        public Request<TContext> CreateContext(IFeatureCollection contextFeatures) =>
            hosts.IsOfApplication(contextFeatures.GetRequiredFeature<IHttpRequestFeature>())
                ? new(contextFeatures, application.CreateContext(contextFeatures), IsOfEdge: false)
                : new(contextFeatures, default, IsOfEdge: true);

        public Task ProcessRequestAsync(Request<TContext> context) =>
            context.IsOfEdge ? edge.Answer(context.Features) : application.ProcessRequestAsync(context.OfApplication!);

        public void DisposeContext(Request<TContext> context, Exception? exception)
        {
            if (!context.IsOfEdge)
            {
                application.DisposeContext(context.OfApplication!, exception);
            }
        }
    }
}
