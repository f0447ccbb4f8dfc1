// The smallest program on Kestrel that leads on: what the edge is measured against. Nothing of ASP.NET Core's pipeline stands between it and the server.
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.AspNetCore.Server.Kestrel.Transport.Sockets;
using Microsoft.Extensions.Logging.Abstractions;
using Microsoft.Extensions.Options;

var transport = new SocketTransportFactory(Options.Create(new SocketTransportOptions()), NullLoggerFactory.Instance);
using var server = new KestrelServer(Options.Create(new KestrelServerOptions()), transport, NullLoggerFactory.Instance);
server.Features.Get<Microsoft.AspNetCore.Hosting.Server.Features.IServerAddressesFeature>()!.Addresses.Add($"http://127.0.0.1:{args[0]}");
await server.StartAsync(new Constant(), CancellationToken.None);
await Task.Delay(Timeout.Infinite);

internal sealed class Constant : IHttpApplication<IFeatureCollection>
{
    public IFeatureCollection CreateContext(IFeatureCollection contextFeatures) => contextFeatures;

    public Task ProcessRequestAsync(IFeatureCollection context)
    {
        var response = context.GetRequiredFeature<IHttpResponseFeature>();
        response.StatusCode = StatusCodes.Status302Found;
        response.Headers.Location = "https://www.northmoor.example/events/geminids-night?utm_source=perch&utm_medium=social&utm_campaign=winter-members";
        return Task.CompletedTask;
    }

    public void DisposeContext(IFeatureCollection context, Exception? exception)
    {
    }
}
