using System.Collections.Concurrent;
using System.Net;
using System.Net.Sockets;

namespace Cursus.Web.Tests.Support;

/// <summary>A line to the database that can be cut: a relay on loopback which hangs up on everybody and takes no calls until it is mended.</summary>
public sealed class CuttableLine : IDisposable
{
    private readonly TcpListener listener = new(IPAddress.Loopback, 0);
    private readonly ConcurrentDictionary<TcpClient, bool> open = new();
    private readonly (string Host, int Port) target;
    private volatile bool isCut;

    public CuttableLine(string host, int port)
    {
        target = (host, port);
        listener.Start();
        Port = ((IPEndPoint)listener.LocalEndpoint).Port;
        _ = Relay();
    }

    public int Port { get; }

    public void Cut()
    {
        isCut = true;
        foreach (var call in open.Keys)
        {
            call.Dispose();
        }
    }

    public void Mend() => isCut = false;

    public void Dispose()
    {
        listener.Stop();
        Cut();
    }

    private async Task Relay()
    {
        while (true)
        {
            TcpClient caller;
            try
            {
                caller = await listener.AcceptTcpClientAsync();
            }
            catch (Exception e) when (e is SocketException or ObjectDisposedException)
            {
                return;
            }

            if (isCut)
            {
                caller.Dispose();
            }
            else
            {
                _ = Connect(caller);
            }
        }
    }

    private async Task Connect(TcpClient caller)
    {
        using var server = new TcpClient { NoDelay = true };
        caller.NoDelay = true;
        open[caller] = open[server] = true;
        try
        {
            await server.ConnectAsync(target.Host, target.Port);
            await Task.WhenAny(caller.GetStream().CopyToAsync(server.GetStream()), server.GetStream().CopyToAsync(caller.GetStream()));
        }
        catch (Exception e) when (e is IOException or SocketException or ObjectDisposedException or InvalidOperationException)
        {
            // Cut, or hung up: the same to a relay.
        }
        finally
        {
            open.TryRemove(caller, out _);
            open.TryRemove(server, out _);
            caller.Dispose();
        }
    }
}
