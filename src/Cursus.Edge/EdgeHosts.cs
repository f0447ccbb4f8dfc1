using Microsoft.AspNetCore.Http.Features;

namespace Cursus.Edge;

/// <summary>Which requests belong to the application and which to the edge: the application never answers on a short domain, nor the edge on the
/// application's host.</summary>
internal sealed class EdgeHosts(EdgeOptions options)
{
    private readonly HashSet<string> ofApplication = new(options.AppHosts, StringComparer.OrdinalIgnoreCase);

    public bool IsOfApplication(IHttpRequestFeature request) => IsOfApplication(Name(request));

    /// <param name="name">Without its port.</param>
    public bool IsOfApplication(ReadOnlySpan<char> name) => ofApplication.GetAlternateLookup<ReadOnlySpan<char>>().Contains(name);

    /// <summary>The host a request names, without its port.</summary>
    public static ReadOnlySpan<char> Name(IHttpRequestFeature request) => Name(request.Headers.Host.ToString());

    /// <summary>What a Host header names, without its port.</summary>
    public static ReadOnlySpan<char> Name(ReadOnlySpan<char> host)
    {
        var port = host.LastIndexOf(':');
        return port < 0 || host[port..].Contains(']') ? host : host[..port];
    }
}
