using System.Net;

namespace Cursus.Edge;

/// <summary>The network address a request comes from: the connection's, or where that is a trusted proxy's, the last one in <c>X-Forwarded-For</c>,
/// which the proxy wrote itself.</summary>
internal sealed class ClientAddress(EdgeOptions options)
{
    private readonly HashSet<IPAddress> trusted = [.. options.TrustedProxies.Select(IPAddress.Parse)];

    /// <param name="forwardedFor">The last header <c>X-Forwarded-For</c>.</param>
    public IPAddress? Of(IPAddress? connection, ReadOnlySpan<char> forwardedFor)
    {
        if (connection is { IsIPv4MappedToIPv6: true })
        {
            connection = connection.MapToIPv4();
        }

        // The tests' server has no connections.
        if (trusted.Count == 0 || (connection is not null && !trusted.Contains(connection)))
        {
            return connection;
        }

        var forwarded = forwardedFor[(forwardedFor.LastIndexOf(',') + 1)..].Trim();
        return !forwarded.IsEmpty && TryParse(forwarded, out var address) ? address : connection;
    }

    /// <summary>An address, which may carry a port: <c>203.0.113.7</c>, <c>203.0.113.7:41822</c>, <c>[2001:db8::7]:41822</c>.</summary>
    private static bool TryParse(ReadOnlySpan<char> text, out IPAddress? address)
    {
        if (!IPAddress.TryParse(text, out address) && IPEndPoint.TryParse(text, out var endPoint))
        {
            address = endPoint.Address;
        }

        address = address is { IsIPv4MappedToIPv6: true } ? address.MapToIPv4() : address;
        return address is not null;
    }
}
