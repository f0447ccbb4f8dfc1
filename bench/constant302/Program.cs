// What the edge is measured against. "PORT": the smallest program on Kestrel that leads on. "PORT insert": the same with an insert for each click
// before the answer. Nothing of ASP.NET Core's pipeline stands between them and the server.
using Microsoft.AspNetCore.Hosting.Server;
using Microsoft.AspNetCore.Hosting.Server.Features;
using Microsoft.AspNetCore.Http.Features;
using Microsoft.AspNetCore.Server.Kestrel.Core;
using Microsoft.AspNetCore.Server.Kestrel.Transport.Sockets;
using Microsoft.Extensions.Logging.Abstractions;
using Microsoft.Extensions.Options;
using Npgsql;

var transport = new SocketTransportFactory(Options.Create(new SocketTransportOptions()), NullLoggerFactory.Instance);
using var server = new KestrelServer(Options.Create(new KestrelServerOptions()), transport, NullLoggerFactory.Instance);
server.Features.Get<IServerAddressesFeature>()!.Addresses.Add($"http://127.0.0.1:{args[0]}");
NpgsqlDataSource? database =
    args.Length > 1 ? NpgsqlDataSource.Create(Environment.GetEnvironmentVariable("ConnectionStrings__Cursus") + ";Maximum Pool Size=40") : null;
await server.StartAsync(new Constant(database), CancellationToken.None);
await Task.Delay(Timeout.Infinite);

internal sealed class Constant(NpgsqlDataSource? database) : IHttpApplication<IFeatureCollection>
{
    private static readonly Guid Link = Guid.CreateVersion7();
    private long clicks;

    public IFeatureCollection CreateContext(IFeatureCollection contextFeatures) => contextFeatures;

    public Task ProcessRequestAsync(IFeatureCollection context)
    {
        if (database is not null)
        {
            return Insert(context, database);
        }

        Lead(context);
        return Task.CompletedTask;
    }

    public void DisposeContext(IFeatureCollection context, Exception? exception) { }

    private static void Lead(IFeatureCollection context)
    {
        var response = context.GetRequiredFeature<IHttpResponseFeature>();
        response.StatusCode = StatusCodes.Status302Found;
        response.Headers.Location =
            "https://www.northmoor.example/events/geminids-night?utm_source=perch&utm_medium=social&utm_campaign=winter-members";
    }

    private async Task Insert(IFeatureCollection context, NpgsqlDataSource into)
    {
        await using var command = into.CreateCommand(
            "insert into clicks (id, at, link_id, visitor, user_agent_id, kind, country, language, referrer_host) values ($1, now(), $2, $3, 0, 0, 'GB', 'en', 'perch.localhost')"
        );
        var id = Interlocked.Increment(ref clicks);
        command.Parameters.Add(new() { Value = id });
        command.Parameters.Add(new() { Value = Link });
        command.Parameters.Add(new() { Value = id });
        await command.ExecuteNonQueryAsync();
        Lead(context);
    }
}
